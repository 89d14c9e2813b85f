import { createHash } from 'node:crypto';
import { join } from 'node:path';
import { Transform, type Readable } from 'node:stream';
import type { ProjectDocument } from '@hastig/contract';
import { writeFileFrom } from '../files/streams';
import { damagedArchive, eachEntry } from '../files/zip';
import { HttpProblem } from '../http/problem';
import { readProjectFile } from '../work/read-project-file';
import { CONVERTED } from '../media/store';
import { convertedOfName, mediaOfName } from './archive-names';

/** A project that was read from a file. */
export interface UnpackedProject {
  document: ProjectDocument;
  /** Digests of the media that the file has. */
  held: ReadonlySet<string>;
  /** Where they lie now, by their digests; none where they were left where they are. */
  media: ReadonlyMap<string, string>;
}

/**
 * Reads a project file without a server: JSON, or an archive.
 *
 * @param folder where an archive's media are put; without one they are left where they are
 * @throws HttpProblem for what is no project, or is damaged
 */
export async function unpackProject(path: string, folder?: string): Promise<UnpackedProject> {
  const outcome = await readProjectFile(path);
  if ('problem' in outcome) throw new HttpProblem(outcome.problem.status, outcome.problem.title, outcome.problem);
  if ('noJson' in outcome)
    throw new HttpProblem(422, 'This isn’t a project file.', { detail: 'It is neither JSON nor a ZIP archive.' });
  if ('errors' in outcome) {
    const [first] = outcome.errors;
    throw new HttpProblem(422, 'The project can’t be read.', { detail: `${first!.pointer} ${first!.reason}` });
  }
  const media = new Map<string, string>();
  const held = new Set<string>();
  const wanted = new Set(outcome.ready.media.map(({ sha256 }) => sha256));
  if (outcome.isArchive)
    await eachEntry(path, async ({ fileName }, read) => {
      // What was made of a file that browsers don't decode is what is read.
      const madeOf = convertedOfName(fileName);
      if (madeOf && folder !== undefined && wanted.has(madeOf)) {
        const made = join(folder, `${madeOf}${CONVERTED}`);
        await writeFileFrom(made, read);
        media.set(madeOf, made);
        return;
      }
      const sha256 = mediaOfName(fileName);
      if (!sha256 || !wanted.has(sha256) || held.has(sha256)) return;
      held.add(sha256);
      if (folder === undefined) return;
      const put = await putMedia(join(folder, sha256), sha256, read);
      if (!media.has(sha256)) media.set(sha256, put);
    });
  return { document: JSON.parse(outcome.ready.json) as ProjectDocument, media, held };
}

/** Writes a media file of an archive where it shall lie, and makes sure that it is what its name says. @returns its path */
async function putMedia(path: string, sha256: string, read: () => Promise<Readable>): Promise<string> {
  const hash = createHash('sha256');
  const through = new Transform({
    transform: (piece: Buffer, _encoding, done) => {
      hash.update(piece);
      done(null, piece);
    },
  });
  await writeFileFrom(path, read, { through: [through] });
  if (hash.digest('hex') !== sha256) throw damagedArchive(`The media file ${sha256} in it is not what it was.`);
  return path;
}
