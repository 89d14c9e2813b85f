// What the tests use of packages that come without types.

declare module 'quadprog' {
  interface Solution {
    solution: number[];
    message: string;
  }
  /** Goldfarb and Idnani 1983; all arrays count from 1. */
  export function solveQP(D: number[][], d: number[], A: number[][], b: number[], equalities?: number): Solution;
  const all: { solveQP: typeof solveQP };
  export default all;
}

declare module 'smpte-timecode' {
  export default class Timecode {
    /** @param time frames, or a timecode as text */
    constructor(time: number | string, frameRate: number, dropFrame?: boolean);
    readonly hours: number;
    readonly minutes: number;
    readonly seconds: number;
    readonly frames: number;
    toString(): string;
  }
}
