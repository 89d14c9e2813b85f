/** Ties output frames to the wall clock, the same in every thread of the page. */
export interface PlayClock {
  /** Milliseconds since 1970, with fractions, at which `frame` starts. */
  at: number;
  /** Output frame at that moment. */
  frame: number;
  /** Output frames per second. */
  rate: number;
}

/** Now, in milliseconds since 1970 with fractions; comparable between a page and its workers. */
export function wallTime(): number {
  return performance.timeOrigin + performance.now();
}

/** Output frames (real) that the clock has reached at a moment; below `clock.frame` before it starts. */
export function clockPosition(clock: PlayClock, now: number): number {
  return clock.frame + ((now - clock.at) * clock.rate) / 1000;
}
