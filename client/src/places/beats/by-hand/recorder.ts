import type { Take } from '@hastig/core';

/** Writes down, frame by frame, what speed a hand asks for while a clip plays. */
export class Recorder {
  private readonly speeds: number[] = [];

  /** @param from output frame of the clip, whole, at which it begins */
  constructor(private readonly from: number) {}

  /**
   * The hand at a moment: all frames that have begun since the last one have this speed.
   *
   * @param frame output frame (real) of the clip that is seen now
   */
  at(frame: number, speed: number): void {
    const begun = Math.floor(frame + 1e-6) - this.from + 1;
    while (this.speeds.length < begun) this.speeds.push(speed);
  }

  take(): Take {
    return { from: this.from, speeds: [...this.speeds] };
  }
}

/** Two takes as one: the first up to where the second begins, for one that was done again from there on. */
export function joinedTakes(first: Take, second: Take): Take {
  const kept = second.from - first.from;
  if (kept < 0 || kept > first.speeds.length) return second;
  return { from: first.from, speeds: [...first.speeds.slice(0, kept), ...second.speeds] };
}
