import type { Writable } from 'node:stream';
import { PROJECT_FILE_KIND, type ProjectDocument, type ProjectFile } from '@hastig/contract';
import archiver from 'archiver';
import { carry } from '../files/streams';
import { HttpProblem } from '../http/problem';
import type { MediaStore } from '../media/store';
import { convertedName, mediaName, PROJECT_NAME } from './archive-names';
import { missingMedia } from './missing';

/** A project as one JSON file; its media are named in it by their digests. */
export function projectFile(document: ProjectDocument): ProjectFile {
  return { kind: PROJECT_FILE_KIND, document };
}

/**
 * Writes a project and its media as an uncompressed ZIP, file after file, nothing whole in memory. Whoever reads it may go
 * away: then it ends, and nothing stays open.
 *
 * @param begin called when all media were found and writing begins
 * @throws HttpProblem 409 before anything is written where media are missing, naming the sources made of them
 */
export async function writeArchive(
  document: ProjectDocument,
  media: MediaStore,
  out: Writable,
  begin: () => void,
): Promise<void> {
  const missing = await missingMedia(document, media);
  if (missing.length > 0) {
    throw new HttpProblem(409, 'Some of the project’s media are missing.', {
      detail: `Missing: ${missing.map(({ name }) => name).join(', ')}. Replace or remove these sources, or save the project without media.`,
    });
  }
  const archive = archiver('zip', { store: true });
  // A file that went missing meanwhile is no small matter: without it the archive is not whole.
  archive.on('warning', (warning) => archive.destroy(warning));
  archive.append(JSON.stringify(projectFile(document), undefined, 1), { name: PROJECT_NAME });
  for (const sha256 of new Set(document.sources.map((source) => source.sha256))) {
    archive.file(await media.path(sha256), { name: mediaName(sha256) });
    const converted = await media.converted(sha256);
    if (converted) archive.file(converted, { name: convertedName(sha256) });
  }
  begin();
  const written = carry(archive, out);
  // It ends only if it is read to its end; where it is not, the pipe tells.
  archive.finalize().catch((error: Error) => archive.destroy(error));
  await written;
}
