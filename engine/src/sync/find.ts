import {
  closeLookAt,
  CLOSE_LOOK,
  exactOffset,
  heardPart,
  roughOffset,
  SURE,
  type FoundOffset,
  type SyncStretch,
} from '@hastig/core';
import { readEnvelopeAt, type BeatQuestion } from '../beats/analyse';
import type { MediaLocation } from '../media/location';
import { PictureBudget } from '../media/picture-budget';
import { readSamples } from '../media/samples';
import { openSource } from '../media/source';

/** A recording: where its file is, and the onsets of its sound. */
export interface Recording {
  location: MediaLocation;
  onsets: BeatQuestion;
}

/** A recording of which a part is heard: seconds from the start of its frames. */
export interface HeardRecording extends Recording {
  heard: { from: number; to: number };
}

async function stretchOf({ location, onsets: { sampleRate } }: Recording, seconds: number): Promise<SyncStretch> {
  const first = Math.max(0, Math.round(seconds * sampleRate));
  const samples = await readSamples(location, first, Math.round(CLOSE_LOOK * sampleRate));
  return { samples, rate: sampleRate, from: first / sampleRate };
}

/** Seconds at which a file's first picture stands on the clock of its sound. */
async function pictureStart({ location }: Recording): Promise<number> {
  const source = await openSource(location, new PictureBudget(0));
  try {
    return source.sound?.pictureStart ?? 0;
  } finally {
    await source.close();
  }
}

/**
 * How a second recording of the same lies against a first, in seconds from the start of each as its frames are counted: roughly by
 * when something begins to sound in what is heard of the first, then by the samples. Throws what reading throws.
 */
export async function findSync(ours: HeardRecording, theirs: Recording): Promise<FoundOffset> {
  const own = await pictureStart(ours);
  const { from: begin, to: end } = ours.heard;
  const a = heardPart(await readEnvelopeAt(ours.onsets), own + begin, own + end);
  const b = await readEnvelopeAt(theirs.onsets);
  const { seconds: about, sureness } = roughOffset(a, b);
  const starts = own - (await pictureStart(theirs));
  if (sureness < SURE) return { seconds: about + starts, sureness };
  const from = closeLookAt(a, b, about);
  const exact = exactOffset(await stretchOf(ours, from), await stretchOf(theirs, from + about), about);
  return { seconds: exact + starts, sureness };
}
