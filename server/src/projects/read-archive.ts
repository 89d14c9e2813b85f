import { rm } from 'node:fs/promises';
import type { Readable } from 'node:stream';
import { HttpProblem } from '../http/problem';
import { damagedArchive, eachEntry } from '../files/zip';
import type { MediaStore } from '../media/store';
import type { WorkPool } from '../work/pool';
import type { ReadyDocument } from '../work/read-document';
import { convertedOfName, mediaOfName } from './archive-names';
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
  if (outcome.isArchive) await takeMedia(path, ready.media, media);
  const missing = await missingMedia({ sources: ready.media }, media);
  if (missing.length > 0) {
    throw new HttpProblem(422, 'The project needs media that aren’t here.', {
      detail: `Missing: ${missing.map(({ name }) => name).join(', ')}. Import the project file that includes its media.`,
    });
  }
  return ready;
}

async function takeMedia(path: string, needed: ReadyDocument['media'], media: MediaStore): Promise<void> {
  const wanted = new Set(needed.map(({ sha256 }) => sha256));
  const pairs = new ConvertedPairs(needed, media);
  try {
    await eachEntry(path, async ({ fileName, uncompressedSize, compressedSize }, read) => {
      const [sha256, madeOf] = [mediaOfName(fileName), convertedOfName(fileName)];
      const one = sha256 ?? madeOf;
      if (!one || (sha256 && !wanted.delete(sha256)) || (await media.again(one))) return;
      if (uncompressedSize > MOST_RATIO * compressedSize)
        throw damagedArchive(`The media file ${one} in it isn’t media Hastig can read.`);
      if (madeOf || pairs.has(one)) await pairs.take(one, madeOf === undefined ? 'original' : 'made', read);
      else await media.adoptStream(read, one);
    });
  } finally {
    await pairs.end();
  }
}

/** Files that browsers don't decode, each with what was made of it: taken in when both are there. */
class ConvertedPairs {
  private readonly from: ReadonlyMap<string, string>;
  private readonly held = new Map<string, { original?: string; made?: string }>();

  constructor(
    needed: ReadyDocument['media'],
    private readonly media: MediaStore,
  ) {
    this.from = new Map(needed.flatMap(({ sha256, converted }) => (converted ? [[sha256, converted]] : [])));
  }

  has(sha256: string): boolean {
    return this.from.has(sha256);
  }

  async take(sha256: string, what: 'original' | 'made', read: () => Promise<Readable>): Promise<void> {
    const from = this.from.get(sha256);
    const pair = this.held.get(sha256) ?? {};
    if (from === undefined || pair[what] !== undefined) return;
    this.held.set(sha256, pair);
    pair[what] = await this.media.hold(read);
    if (pair.original === undefined || pair.made === undefined) return;
    const stored = await this.media.adoptConverted(pair.original, pair.made, from);
    if (stored.sha256 !== sha256) throw damagedArchive(`The media file ${sha256} in it is not what it was.`);
  }

  /** Lets go of what was held. */
  async end(): Promise<void> {
    for (const { original, made } of this.held.values())
      for (const path of [original, made]) if (path) await rm(path, { force: true });
  }
}
