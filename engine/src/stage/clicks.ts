import type { ReadSound } from './sound-output';

/** Clicks that are heard with a program. */
export interface Clicks {
  /** Seconds of the program at each, in order, and whether it is one of the higher ones. */
  at: readonly { seconds: number; high: boolean }[];
  /** 0 to 1. */
  loudness: number;
}

const SECONDS = 0.03;
/** Hertz of a click, and of a higher one. */
const PITCH = 1500;
const HIGH_PITCH = 2250;
/** A click sets in within half a millisecond and dies away, per second. */
const ATTACK = 0.0005;
const DECAY = 140;

/** One click, seconds after it began. */
export function clickAt(since: number, high: boolean): number {
  if (since < 0 || since >= SECONDS) return 0;
  const pitch = high ? HIGH_PITCH : PITCH;
  return Math.min(1, since / ATTACK) * Math.exp(-DECAY * since) * Math.sin(2 * Math.PI * pitch * since);
}

/** Adds clicks to samples of which the first is sample `first` of the program. */
export function addClicks(
  channels: readonly Float32Array[],
  first: number,
  rate: number,
  { at, loudness }: Clicks,
): void {
  const count = channels[0]?.length ?? 0;
  for (const { seconds, high } of at) {
    const begin = seconds * rate;
    if (begin + SECONDS * rate < first || begin >= first + count) continue;
    const to = Math.min(count, Math.ceil(begin + SECONDS * rate) - first);
    for (let index = Math.max(0, Math.ceil(begin) - first); index < to; index++) {
      const value = loudness * clickAt((first + index - begin) / rate, high);
      for (const channel of channels) channel[index]! += value;
    }
  }
}

/** The same sound with clicks in it, to the sample. */
export function withClicks(read: ReadSound, clicks: () => Clicks | null): ReadSound {
  return async (first, count, rate) => {
    const samples = await read(first, count, rate);
    const now = clicks();
    if (!now || now.at.length === 0) return samples;
    const out = samples ?? [new Float32Array(count), new Float32Array(count)];
    addClicks(out, first, rate, now);
    return out;
  };
}
