import { HttpProblem } from '../http/problem';
import { damagedArchive, eachEntry } from '../files/zip';
import type { MediaStore } from '../media/store';
import type { WorkPool } from '../work/pool';
import type { ReadyDocument } from '../work/read-document';
import { mediaOfName } from './archive-names';
import { missingMedia } from './missing';
import { readyOr } from './ready';

/** How many times as large as in the archive a media file may be: what is recorded does not get much smaller by packing. */
const MOST_RATIO = 4;

/**
 * Reads a project from a file: JSON, whose media must be stored already, or an archive, whose media are taken in.
 *
 * @throws HttpProblem 422 for what is none, is damaged, or asks for media that are not here, naming them
 */
export async function readProject(path: string, media: MediaStore, work: WorkPool): Promise<ReadyDocument> {
  const outcome = await work.readProjectFile(path);
  if ('problem' in outcome) {
    const { status, title, ...more } = outcome.problem;
    throw new HttpProblem(status, title, more);
  }
  const ready = readyOr(
    outcome,
    () => new HttpProblem(422, 'This isn’t a project file.', { detail: 'It is neither JSON nor a ZIP archive.' }),
  );
  // The project first, wherever it lies: only media that it names are taken in.
  if (outcome.isArchive) await takeMedia(path, new Set(ready.media.map(({ sha256 }) => sha256)), media);
  const missing = await missingMedia({ sources: ready.media }, media);
  if (missing.length > 0) {
    throw new HttpProblem(422, 'The project needs media that aren’t here.', {
      detail: `Missing: ${missing.map(({ name }) => name).join(', ')}. Import the project file that includes its media.`,
    });
  }
  return ready;
}

async function takeMedia(path: string, wanted: Set<string>, media: MediaStore): Promise<void> {
  await eachEntry(path, async ({ fileName, uncompressedSize, compressedSize }, read) => {
    const sha256 = mediaOfName(fileName);
    if (!sha256 || !wanted.delete(sha256) || (await media.again(sha256))) return;
    if (uncompressedSize > MOST_RATIO * compressedSize)
      throw damagedArchive(`The media file ${sha256} in it isn’t media Hastig can read.`);
    await media.adoptStream(read, sha256);
  });
}
