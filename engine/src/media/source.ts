import type { Fields } from '@hastig/contract';
import { fileCountOf, framesPerFileFrame, rateToNumber, type Size } from '@hastig/core';
import { frameAtPosition, type ProbedMedia } from '@hastig/probe';
import { CopiedFrames } from './copied-frames';
import { FieldFrames } from './field-frames';
import { FrameServer } from './frame-server';
import type { MediaLocation } from './location';
import { checkDecodable, openMedia } from './open';
import type { PictureBudget } from './picture-budget';
import { SoundReader } from './sound-reader';
import type { SourceFrames } from './source-frames';
import { TimedFrames } from './timed-frames';

const AS_STORED: Fields = { use: 'woven', first: 'top' };

/** A source opened for playing or rendering: its frames and its sound. */
export interface OpenSource {
  media: ProbedMedia;
  /** Frames to play and drag: from the scrubbing copy where there is one. */
  readonly frames: SourceFrames;
  /** Frames as good as they are; the same object as `frames` where there is no copy. */
  readonly exact: SourceFrames;
  /** Null where there is no sound or this browser cannot decode it. */
  sound: SoundReader | null;
  /** Takes its fields another way, or another copy, from now on; there must be as many frames as before. */
  take(location: MediaLocation): void;
  /** Says in how many pixels its pictures are shown, see `SourceFrames.fitTo`. */
  fitTo(fit: Size | null): void;
  /** Lets go of all frames and stays open. */
  rest(): void;
  close(): Promise<void>;
}

/**
 * @param budget of decoded pictures to keep
 * @throws RefusedMedia where the file cannot be read or its picture not decoded
 */
export async function openSource(location: MediaLocation, budget: PictureBudget): Promise<OpenSource> {
  const media = countedAsTold(await openMedia(location), location);
  try {
    await checkDecodable(media);
    const { fields = AS_STORED, counting } = location;
    const file = new FrameServer(media.video, media.index, media.facts.video, budget);
    const copied = new CopiedFrames(file, location.copy ?? { url: '', pieces: [] }, budget);
    const exactFields = new FieldFrames(file, fields, budget);
    const quickFields = new FieldFrames(copied, fields, budget);
    const count = fileCountOf({ facts: media.facts, fields, counting });
    const counted = (frames: SourceFrames): SourceFrames =>
      count.byTime ? new TimedFrames(frames, media.index, count.rate) : frames;
    const [exact, quick] = [counted(exactFields), counted(quickFields)];
    let hasCopy = (location.copy?.pieces.length ?? 0) > 0;
    return {
      media,
      get frames() {
        return hasCopy ? quick : exact;
      },
      exact,
      sound: await openSound(media, location.soundTrack ?? 0, rateToNumber(count.rate) * framesPerFileFrame(fields)),
      take: ({ fields: wanted = AS_STORED, copy }) => {
        hasCopy = (copy?.pieces.length ?? 0) > 0;
        copied.use(copy ?? { url: '', pieces: [] });
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
        media.dispose();
      },
    };
  } catch (error) {
    media.dispose();
    throw error;
  }
}

/** The file's frame at each position of a source that is counted along its time; null where each is itself. Decodes nothing. */
export async function fileFrames(location: MediaLocation): Promise<Uint32Array<ArrayBuffer> | null> {
  const { facts, index, dispose } = await openMedia(location);
  dispose();
  const { byTime, rate, frames } = fileCountOf({ facts, ...location });
  return byTime ? Uint32Array.from({ length: frames }, (_, position) => frameAtPosition(index, rate, position)) : null;
}

// The frames that were counted when the source came in stay counted.
function countedAsTold(media: ProbedMedia, { frameCount }: MediaLocation): ProbedMedia {
  return frameCount === media.all.timestamps.length ? { ...media, index: media.all } : media;
}

async function openSound(
  { sounds, facts, index }: ProbedMedia,
  number: number,
  pictureRate: number,
): Promise<SoundReader | null> {
  const [track, heard] = [sounds[number], facts.sounds?.[number] ?? facts.audio];
  if (!track || !heard || !(await track.canDecode())) return null;
  const { channels, sampleRate } = heard;
  return new SoundReader(track, channels, sampleRate, index.timestamps[0]!, pictureRate);
}
