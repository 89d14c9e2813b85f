import type { ReadyRange } from './ready-pictures';

/** What the stage tells the page. `frame` is an output frame. */
export interface StageEvents {
  /** A picture has been drawn. */
  frame(frame: number): void;
  /** Play has come to the end. */
  ended(): void;
  /** A source frame could not be had. */
  fault(message: string): void;
  /** The picture at rest was made of several frames. */
  made(made: MadePicture): void;
  /** Pictures of these output frames are made, and played as they are at rest. */
  ready(ranges: readonly ReadyRange[]): void;
  /** Whether what plays now is shown as instants, for its pictures are not made yet. */
  draft(on: boolean): void;
}

/** What making a picture took. */
export interface MadePicture {
  frame: number;
  /** Milliseconds on this device, its frames' decoding included. */
  milliseconds: number;
  /** The share of it, 0 to 1, in which what moved could not be made out; null where nothing was made between frames. */
  doubt: number | null;
  /** Of them, what steadying its frames took, and putting copies and light together. */
  moved: number;
  mixed: number;
}
