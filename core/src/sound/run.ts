import type { FreezeSound, SoundFocus } from '@hastig/contract';

/** Samples of a stretch of the source, one array a channel. */
export interface SoundBlock {
  /** Index of the first sample, counted from the source's time 0. */
  start: number;
  channels: readonly Float32Array[];
}

/** How a source's samples lie in time. */
export interface SoundSource {
  /** Samples per second. */
  sampleRate: number;
  /** Seconds at which the source's first picture stands on the same clock as its sound. */
  pictureStart: number;
  /** The file's own frames per second. What reads the pictures at another rate takes the sound along. */
  pictureRate: number;
}

/** A source whose samples can be asked for. */
export interface SoundSupply extends SoundSource {
  /** Of what `block` gives: 1 or 2. */
  readonly channels: number;
  /** Samples from `start` on, `end` not included; silent where there are none. Rejects with what the decoder throws. */
  block(start: number, end: number): Promise<SoundBlock>;
}

/** What is decided about the pitch of a run, where it does not just follow the speed. */
export interface Voice {
  /**
   * The factor by which all is heard higher than in the file, at a moment of the output in seconds; more than 0.
   *
   * @param pictureRate the file's own frames per second
   */
  pitchAt(seconds: number, pictureRate: number): number;
  focus: SoundFocus;
  /** Whether what makes a voice the one it is stays where it was. */
  formantsKept: boolean;
  /** Names what is heard, wherever it lies: runs of the same key sound the same from their beginnings on. */
  key: string;
}

/** A stretch of output in which one source is heard, and its course through the source's frames. */
export interface SoundRun {
  sourceId: string;
  /** Index of the track it lies on. */
  track: number;
  /** Seconds of output: `from` included, `to` not. */
  from: number;
  to: number;
  /** Whether the sound is cut there, so that it must fade not to click. */
  fadeIn: boolean;
  fadeOut: boolean;
  /** Source frames (real) at a moment of the output, in seconds. */
  frameAt(seconds: number): number;
  /** Source frames that pass per second of output at a moment; negative backwards. */
  rateAt(seconds: number): number;
  /** Null where the pitch follows the speed throughout, as on tape. */
  voice: Voice | null;
  freeze: FreezeSound;
  /** The speed above which it fades; Infinity where it does not. */
  quietAbove: number;
  /** Factors of left and right at a moment: gain, pan and fades. Null where they are 1. */
  gainsAt: ((seconds: number) => readonly [left: number, right: number]) | null;
}

/** Output samples that one run gives. */
export interface SoundPiece {
  run: SoundRun;
  first: number;
  count: number;
}

/** The speed of a run at a moment, 1 as the file was recorded; negative backwards. */
export function speedOf(run: SoundRun, source: SoundSource, seconds: number): number {
  return run.rateAt(seconds) / source.pictureRate;
}

/** Where a run reads its source at a moment: a sample (real) of it. */
export function samplePosition(run: SoundRun, source: SoundSource, seconds: number): number {
  return (source.pictureStart + run.frameAt(seconds) / source.pictureRate) * source.sampleRate;
}

/**
 * The pieces of a stretch of output samples, one for each run that is heard in it.
 *
 * @param outputRate output samples per second
 */
export function soundPieces(runs: readonly SoundRun[], outputRate: number, first: number, count: number): SoundPiece[] {
  return runs.flatMap((run) => {
    const from = Math.max(first, Math.ceil(run.from * outputRate - 1e-6));
    const to = Math.min(first + count, Math.ceil(run.to * outputRate - 1e-6));
    return to > from ? [{ run, first: from, count: to - from }] : [];
  });
}
