import type { Fields } from '@hastig/contract';
import { framesPerFileFrame, rateToNumber, type Size } from '@hastig/core';
import type { ProbedMedia } from '@hastig/probe';
import { CopiedFrames } from './copied-frames';
import { FieldFrames } from './field-frames';
import { FrameServer } from './frame-server';
import type { MediaLocation } from './location';
import { checkDecodable, openMedia } from './open';
import type { PictureBudget } from './picture-budget';
import { SoundReader } from './sound-reader';
import type { SourceFrames } from './source-frames';

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
  const media = await openMedia(location);
  try {
    await checkDecodable(media);
    const { fields = AS_STORED } = location;
    const file = new FrameServer(media.video, media.index, media.facts.video, budget);
    const copied = new CopiedFrames(file, location.copy ?? { url: '', pieces: [] }, budget);
    const exact = new FieldFrames(file, fields, budget);
    const quick = new FieldFrames(copied, fields, budget);
    let hasCopy = (location.copy?.pieces.length ?? 0) > 0;
    return {
      media,
      get frames() {
        return hasCopy ? quick : exact;
      },
      exact,
      sound: await openSound(media, framesPerFileFrame(fields)),
      take: ({ fields: wanted = AS_STORED, copy }) => {
        hasCopy = (copy?.pieces.length ?? 0) > 0;
        copied.use(copy ?? { url: '', pieces: [] });
        exact.take(wanted);
        quick.take(wanted);
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

async function openSound({ audio, facts, index }: ProbedMedia, framesPer: number): Promise<SoundReader | null> {
  if (!audio || !facts.audio || !(await audio.canDecode())) return null;
  const { channels, sampleRate } = facts.audio;
  return new SoundReader(audio, channels, sampleRate, index.timestamps[0]!, rateToNumber(facts.video.rate) * framesPer);
}
