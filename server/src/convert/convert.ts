import { execFile } from 'node:child_process';
import { mkdtemp, rename, rm, stat, symlink, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { promisify } from 'node:util';
import type { MediaFacts } from '@hastig/contract';
import { probeFile } from '../work/probe-file';
import { readAvi, videoInAvi, type FoundAvi } from './avi/read-avi';
import { bounded } from './bounded';
import { ConversionFailed, missing } from './failed';
import { environment, findEncoder, tools } from './framework';
import { readFound, type FoundMedia } from './found';
import type { PictureCount } from './mpeg/pictures';
import { readMpeg, videoIn, type FoundMpeg } from './mpeg/read-mpeg';
import { shownTimes, TICKS_A_SECOND } from './mpeg/shown';
import { launch, type Converting } from './launch';
import { conversion, mpegVideo, visualVideo } from './pipeline';
import { nameDeepSound } from './deep-sound';
import { readGif, type Gif } from './gif';
import { retime, type Shown } from './retime';

/** Milliseconds in which it must be told what a file is. */
const DISCOVERED = 30_000;

const run = promisify(execFile);

/** What the framework finds in a file. Throws ConversionFailed. */
export async function discover(path: string): Promise<FoundMedia> {
  await stat(path).catch(() => {
    throw new ConversionFailed('The file isn’t there.');
  });
  const [tool, args] = bounded(tools.discover, ['-v', resolve(path)]);
  const { stdout } = await run(tool, args, { env: environment, timeout: DISCOVERED, maxBuffer: 2 ** 24 }).catch(
    (error: NodeJS.ErrnoException & { stdout?: string }) => {
      if (error.code === 'ENOENT') throw missing();
      return { stdout: error.stdout ?? '' };
    },
  );
  const found = foundIn(stdout);
  if (!found.video && !found.audio) throw new ConversionFailed('Nothing in it can be decoded.');
  return found;
}

/** What is out of range is told in its words. */
function inWords(error: unknown): never {
  throw error instanceof RangeError ? new ConversionFailed(error.message) : error;
}

function foundIn(told: string): FoundMedia {
  try {
    return readFound(told);
  } catch (error) {
    return inWords(error);
  }
}

/**
 * Makes of a file that browsers don't decode one that they do: MOV, with H.264 and PCM. Nothing stands under the new name before all of
 * it is there, and every frame that can be counted in the original was counted in it.
 *
 * @returns what the original is
 * @throws ConversionFailed with the reason; an aborted signal's reason
 */
export async function convertFile(
  from: string,
  to: string,
  { onProgress, signal }: Converting = {},
): Promise<FoundMedia> {
  const encoder = await findEncoder();
  if (!encoder) throw missing();
  const found = await discover(from);
  const gif = found.video?.isGif ? await gifOf(from) : undefined;
  const mpeg = await readMpeg(from, signal).catch(inWords);
  const avi = found.video && (await readAvi(from, signal).catch(inWords));
  const told = mpeg ? timesOf(mpeg, found) : avi && timesIn(avi, found);
  const apart = avi?.isVisual ? { video: visualVideo, pieces: videoInAvi(from, avi, signal) } : mpeg && told && { video: mpegVideo, pieces: videoIn(from, signal) }; // prettier-ignore
  const pieces = gif?.pictures() ?? apart?.pieces;
  const bytes = gif ? 4 * gif.width * gif.height * gif.times.length : (await stat(from)).size;
  signal?.throwIfAborted();
  const part = `${to}.part`;
  // A pipeline is told as text, in which a file's name could say anything: it is told of links that are called as we like.
  const links = await mkdtemp(join(tmpdir(), 'hastig-convert-'));
  const [source, made] = [join(links, 'from'), join(links, 'to')];
  try {
    await writeFile(part, '').catch((error: NodeJS.ErrnoException) => {
      throw new ConversionFailed(error.code === 'ENOENT' ? 'The folder isn’t there.' : error.message);
    });
    await symlink(resolve(from), source);
    await symlink(resolve(part), made);
    const inOrder = mpeg !== undefined && (told !== undefined || mpeg.beginsWithMap);
    const order = gif ?? { path: source, inOrder, ...(apart && { video: apart.video }) };
    await launch(conversion(found, encoder, order, made), {
      ...(pieces && { given: { pieces, bytes } }),
      ...(onProgress && { onProgress }),
      ...(signal && { signal }),
    });
    signal?.throwIfAborted();
    if (gif) await timed(part, gif);
    if (told) await timed(part, told);
    if (found.audio?.depth === 24) await nameDeepSound(part);
    await counted(
      part,
      found,
      mpeg?.pictures ?? (avi && { least: avi.least, most: avi.times.length }) ?? (await framesOf(from)),
    );
    await rename(part, to);
    return found;
  } catch (error) {
    await rm(part, { force: true });
    throw signal?.aborted ? signal.reason : error;
  } finally {
    await rm(links, { recursive: true, force: true });
  }
}

const gifOf = (path: string): Promise<Gif> =>
  readGif(path).catch((error: unknown) => {
    throw new ConversionFailed(error instanceof RangeError ? error.message : 'The GIF is damaged.');
  });

/** When pictures are shown, where the framework does not know it. */
interface ToldTimes {
  times: readonly Shown[];
  /** How many there must be, where those at the beginning may be missing. */
  least?: number;
  /** Seconds at which the sound begins, where there is any. */
  soundFrom?: number;
}

/** The times of an MPEG stream's pictures; undefined where the framework knows them. */
function timesOf({ pictures, soundFrom }: FoundMpeg, { audio }: FoundMedia): ToldTimes | undefined {
  if (!pictures || pictures.timed) return undefined;
  const times = shownTimes(pictures.coded, pictures.framesPerSecond);
  if (!times || (audio && soundFrom === undefined))
    throw new ConversionFailed(
      'It doesn’t say when its pictures are shown, and they are stored in another order. Convert it elsewhere first.',
    );
  return { times, least: pictures.least, ...(audio && { soundFrom: soundFrom! / TICKS_A_SECOND }) };
}

/** The times of an AVI's pictures; undefined where the framework knows them. */
const timesIn = ({ areKnown, times, least, soundFrom = 0 }: FoundAvi, { audio }: FoundMedia): ToldTimes | undefined =>
  areKnown ? undefined : { times, least, ...(audio && { soundFrom }) };

/** Gives pictures the times at which they are shown. */
async function timed(path: string, { times, soundFrom, least = times.length }: ToldTimes): Promise<void> {
  const count = (await factsOf(path))?.video?.frames ?? 0;
  if (count < least || count > times.length)
    throw new ConversionFailed(`The file is damaged: ${count} of its ${times.length} pictures can be decoded.`);
  await retime(path, times.slice(times.length - count), soundFrom);
}

/** What the client reads of a file; undefined where it reads nothing. */
async function factsOf(path: string): Promise<MediaFacts | undefined> {
  const outcome = await probeFile(path, (await stat(path)).size);
  return 'facts' in outcome ? outcome.facts : undefined;
}

/** Pictures of an original that the client can count; undefined where it can't. */
async function framesOf(path: string): Promise<PictureCount | undefined> {
  const frames = (await factsOf(path))?.video?.frames;
  return frames === undefined ? undefined : { least: frames, most: frames };
}

/** Sees that what was made can be read, and compares how many pictures there were, where the original's could be counted without decoding. */
async function counted(to: string, { video, audio }: FoundMedia, were: PictureCount | undefined): Promise<void> {
  const facts = await factsOf(to);
  const sound = facts?.audio?.codec;
  if (!facts || (audio && (sound === undefined || sound === 'unknown')))
    throw new ConversionFailed('What was made of it can’t be read.');
  if (!video) return;
  const are = facts.video?.frames ?? 0;
  if (are === 0) throw new ConversionFailed('The file is damaged: none of its pictures can be decoded.');
  if (were && (are < were.least || are > were.most))
    throw new ConversionFailed(`The file is damaged: ${are} of its ${were.most} pictures can be decoded.`);
}
