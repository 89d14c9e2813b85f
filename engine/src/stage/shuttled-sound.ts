import type { ReadSound } from './sound-output';

/** Sound that is played at another speed than its own, or backwards, from a moment on. */
export interface Shuttle {
  /** Seconds of the program at which it starts. */
  from: number;
  /** 2 is twice as fast, −1 backwards; never 0. */
  speed: number;
}

/** Seconds that are heard until a program of so many seconds ends, or its start is reached. */
export function shuttledSeconds({ from, speed }: Shuttle, seconds: number): number {
  return Math.max(0, (speed > 0 ? seconds - from : from) / Math.abs(speed));
}

/**
 * What is heard at another speed, counted in samples since it started: the program's sound at a rate lower or higher in the
 * same measure, so that its pitch follows the speed as on tape, and turned round where it goes backwards.
 *
 * @param read the program's samples, at any rate
 */
export function shuttledSound(read: ReadSound, { from, speed }: Shuttle): ReadSound {
  return async (first, count, rate) => {
    const slowed = rate / Math.abs(speed);
    const start = Math.round(from * slowed);
    if (speed > 0) return read(start + first, count, slowed);
    const samples = await read(start - first - count, count, slowed);
    return samples?.map((channel) => channel.toReversed()) ?? null;
  };
}
