import type { Fields, MediaFacts } from '@hastig/contract';
import {
  coloursOf,
  fileCountOf,
  framesPerFileFrame,
  pictureOf,
  rateToNumber,
  videoColours,
  type Size,
} from '@hastig/core';
import {
  instantGrid,
  layFrames,
  type ArchivedStill,
  type FrameGrid,
  type FrameIndex,
  type ProbedMedia,
  type ProbedPicture,
  type ProbedStills,
} from '@hastig/probe';
import { ProxyFrames } from './proxy-frames';
import { FieldFrames } from './field-frames';
import { FrameServer } from './frame-server';
import { canHear } from './hearing';
import type { MediaLocation } from './location';
import { checkDecodable, openMedia, openStills } from './open';
import type { PictureBudget } from './picture-budget';
import { partOf } from './read-bytes';
import { SoundReader } from './sound-reader';
import type { SourceFrames } from './source-frames';
import { noFrames, StillFrames } from './still-frames';
import { TimedFrames } from './timed-frames';

const AS_STORED: Fields = { use: 'woven', first: 'top' };

/** A source opened for playing or rendering: its frames and its sound. */
export interface OpenSource {
  facts: MediaFacts;
  /** Pixels of its picture as displayed; null for sound alone. */
  readonly size: Size | null;
  /** Frames to play and drag: from the proxy where there is one. */
  readonly frames: SourceFrames;
  /** Frames as good as they are; the same object as `frames` where there is no proxy. */
  readonly exact: SourceFrames;
  /** Null where there is no sound or this browser cannot decode it. */
  sound: SoundReader | null;
  /** Takes its fields another way, or another proxy, from now on; there must be as many frames as before. */
  take(location: MediaLocation): void;
  /** Says in how many pixels its pictures are shown, see `SourceFrames.fitTo`. */
  fitTo(fit: Size | null): void;
  /** Lets go of all frames and stays open. */
  rest(): void;
  close(): Promise<void>;
}

/**
 * @param budget of decoded pictures to keep
 * @throws RefusedMedia where the file cannot be read, or decoded
 */
export async function openSource(location: MediaLocation, budget: PictureBudget): Promise<OpenSource> {
  const stills = await openStills(location);
  if (stills) return stillSource(stills, location, budget);
  const media = await openMedia(location);
  try {
    await checkDecodable(media);
    const { picture, sounds, facts } = media;
    if (picture) return await videoSource({ ...media, picture: countedAsTold(picture, location) }, location, budget);
    const { rate } = fileCountOf({ facts });
    const sound = await openSound({ sounds, facts }, location.soundTrack ?? 0, 0, rateToNumber(rate));
    return {
      ...{ facts, size: null, frames: noFrames, exact: noFrames, sound },
      take: () => undefined,
      fitTo: () => undefined,
      rest: () => undefined,
      close: () => Promise.resolve(media.dispose()),
    };
  } catch (error) {
    media.dispose();
    throw error;
  }
}

function stillSource({ facts, pictures }: ProbedStills, location: MediaLocation, budget: PictureBudget): OpenSource {
  const size = pictureOf(facts)!;
  const type = `image/${facts.still!.codec}`;
  const contentOf = async ({ from, bytes }: ArchivedStill): Promise<Blob> =>
    (await partOf(location, from, from + bytes)).slice(0, bytes, type);
  const frames = new StillFrames(pictures, contentOf, size, budget);
  return {
    ...{ facts, size, frames, exact: frames, sound: null },
    take: () => undefined,
    fitTo: (fit) => frames.fitTo(fit),
    rest: () => frames.rest(),
    close: () => frames.close(),
  };
}

async function videoSource(
  { picture, sounds, facts, dispose }: ProbedMedia & { picture: ProbedPicture },
  location: MediaLocation,
  budget: PictureBudget,
): Promise<OpenSource> {
  const { fields = AS_STORED, counting } = location;
  const { track, index } = picture;
  const { colours, origin } = coloursOf({ facts, ...(location.colours && { colours: location.colours }) });
  const told = colours && videoColours(colours);
  const file = new FrameServer(track, index, picture.facts, budget, told, identityOf(location));
  // A proxy has the colours that the file says, or HDTV's where it says nothing.
  const proxyFits = origin === 'file' || (origin === 'assumed' && colours?.space === 'bt709');
  const proxied = new ProxyFrames(file, location.proxy ?? { url: '', pieces: [] }, budget);
  const exactFields = new FieldFrames(file, fields, budget);
  const quickFields = new FieldFrames(proxied, fields, budget);
  const count = fileCountOf({ facts, fields, counting });
  const grid = gridOf(index, count);
  const counted = (frames: SourceFrames): SourceFrames => (grid ? new TimedFrames(frames, index, grid) : frames);
  const [exact, quick] = [counted(exactFields), counted(quickFields)];
  const hasPieces = ({ proxy }: MediaLocation): boolean => proxyFits && (proxy?.pieces.length ?? 0) > 0;
  let hasProxy = hasPieces(location);
  const rate = rateToNumber(count.rate) * framesPerFileFrame(fields);
  return {
    facts,
    size: pictureOf(facts),
    get frames() {
      return hasProxy ? quick : exact;
    },
    exact,
    sound: await openSound({ sounds, facts }, location.soundTrack ?? 0, grid?.start ?? index.timestamps[0]!, rate),
    take: (taken) => {
      const { fields: wanted = AS_STORED, proxy } = taken;
      hasProxy = hasPieces(taken);
      proxied.use(proxy ?? { url: '', pieces: [] });
      exactFields.take(wanted);
      quickFields.take(wanted);
    },
    // What is taken of the file is shown in as many pixels, whichever way it is asked for.
    fitTo: (fit) => {
      exact.fitTo(fit);
      quick.fitTo(fit);
    },
    rest: () => {
      exact.rest();
      quick.rest();
    },
    close: async () => {
      await exact.close();
      await quick.close();
      dispose();
    },
  };
}

/** The file's frame at each position of a source that is counted at an even rate; null where each is itself. Decodes nothing. */
export async function fileFrames(location: MediaLocation): Promise<Uint32Array<ArrayBuffer> | null> {
  const { facts, picture, dispose } = await openMedia(location);
  dispose();
  const grid = picture && gridOf(picture.index, fileCountOf({ facts, ...location }));
  return grid && Uint32Array.from({ length: grid.positions }, (_, position) => grid.frameAt(position));
}

// Media are stored under what they contain; what is told beside it may say which of its frames there are.
function identityOf(location: MediaLocation): string | undefined {
  const digest = 'url' in location ? /[0-9a-f]{64}/.exec(location.url)?.[0] : undefined;
  return digest && `${digest} ${location.frameCount ?? 'all'}`;
}

// Which of a file's frames its positions show; null where each shows the frame of its number.
function gridOf(index: FrameIndex, { by, rate, frames }: ReturnType<typeof fileCountOf>): FrameGrid | null {
  if (by === 'frame') return null;
  if (by === 'time') return instantGrid(index, rate, frames);
  const laid = layFrames(index, rate);
  // What was counted when the source came in goes on being counted.
  return { ...laid, positions: frames };
}

// The frames that were counted when the source came in stay counted.
function countedAsTold(picture: ProbedPicture, { frameCount }: MediaLocation): ProbedPicture {
  return frameCount === picture.all.timestamps.length ? { ...picture, index: picture.all } : picture;
}

/** @param start seconds at which position 0 stands on the sound's clock, @param rate positions a second */
async function openSound(
  { sounds, facts }: Pick<ProbedMedia, 'sounds' | 'facts'>,
  number: number,
  start: number,
  rate: number,
): Promise<SoundReader | null> {
  const [track, heard] = [sounds[number], facts.sounds?.[number] ?? facts.audio];
  if (!track || !heard || !(await canHear(track))) return null;
  const { channels, sampleRate } = heard;
  return new SoundReader(track, channels, sampleRate, start, rate);
}
