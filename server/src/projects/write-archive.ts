import type { Writable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { PROJECT_FILE_KIND, type ProjectDocument, type ProjectFile } from '@hastig/contract';
import archiver from 'archiver';
import { HttpProblem } from '../http/problem';
import type { MediaStore } from '../media/store';
import { mediaName, PROJECT_NAME } from './archive-names';

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
  const names = new Map(document.sources.map(({ sha256, name }) => [sha256, name]));
  const files: { sha256: string; path: string }[] = [];
  const missing: string[] = [];
  for (const [sha256, name] of names) {
    const path = await media.find(sha256);
    if (path) files.push({ sha256, path });
    else missing.push(name);
  }
  if (missing.length > 0) {
    throw new HttpProblem(409, 'Some of the project’s media are missing.', {
      detail: `Missing: ${missing.join(', ')}. Replace or remove these sources, or save the project without media.`,
    });
  }
  const archive = archiver('zip', { store: true });
  // A file that went missing meanwhile is no small matter: without it the archive is not whole.
  archive.on('warning', (warning) => archive.destroy(warning));
  archive.append(JSON.stringify(projectFile(document), undefined, 1), { name: PROJECT_NAME });
  for (const { sha256, path } of files) archive.file(path, { name: mediaName(sha256) });
  begin();
  const written = pipeline(archive, out);
  // It ends only if it is read to its end; where it is not, the pipe tells.
  archive.finalize().catch((error: Error) => archive.destroy(error));
  await written;
}
