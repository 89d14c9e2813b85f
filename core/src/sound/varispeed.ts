/**
 * Sound whose pitch follows the speed, as a tape's does: the source is read at the position the map gives for
 * each output sample. Half speed sounds an octave lower (1200 · log2(0.5) = −1200 cents).
 */

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

/** A stretch of output in which one source is heard, and its course through the source's frames. */
export interface SoundRun {
  sourceId: string;
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
}

/** Kernel half-width in source samples at speeds up to 1: 16 taps. */
const HALF_TAPS = 8;
/** Beyond this many source samples per output sample the kernel grows no more, and the sound fades out. */
const WIDEST_STEP = 32;
/** Below this speed the sound fades out: a frozen tape is silent, not a held voltage. */
const QUIET_SPEED = 0.05;
/** Seconds over which the sound fades on each side of a cut, so that it does not click. */
const CUT_FADE = 0.002;

/** Source frames past the kernel that a block must hold on either side of its outermost position. */
const BLOCK_MARGIN = HALF_TAPS * WIDEST_STEP + 2;

function samplePosition(run: SoundRun, source: SoundSource, seconds: number): number {
  return (source.pictureStart + run.frameAt(seconds) / source.pictureRate) * source.sampleRate;
}

/** Output samples that one run gives. */
export interface SoundPiece {
  run: SoundRun;
  first: number;
  count: number;
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

/**
 * The source samples that a piece of output reads, kernel included: `start` included, `end` not. May reach before
 * the source's beginning or past its end, where there is silence.
 */
export function soundExtent(
  { run, first, count }: SoundPiece,
  source: SoundSource,
  outputRate: number,
): { start: number; end: number } {
  let low = Infinity;
  let high = -Infinity;
  // The position is smooth between samples, so every 16th and the last bound it within the margin.
  for (let index = 0; ; index = Math.min(index + 16, count - 1)) {
    const position = samplePosition(run, source, (first + index) / outputRate);
    low = Math.min(low, position);
    high = Math.max(high, position);
    if (index >= count - 1) break;
  }
  return { start: Math.floor(low) - BLOCK_MARGIN, end: Math.ceil(high) + BLOCK_MARGIN };
}

/** Values of the kernel kept for each of its zero crossings; a straight line between two of them is off by 1.2e-6. */
const PER_CROSSING = 1024;

/** A Hann-windowed sinc from its middle outwards; past its end it is 0. */
const kernel = Float64Array.from({ length: HALF_TAPS * PER_CROSSING + 2 }, (_, index) => {
  const x = index / PER_CROSSING;
  if (x >= HALF_TAPS) return 0;
  const angle = Math.PI * x;
  return (index === 0 ? 1 : Math.sin(angle) / angle) * (0.5 + 0.5 * Math.cos(angle / HALF_TAPS));
});

const weights = new Float64Array(2 * HALF_TAPS * WIDEST_STEP + 2);

/**
 * Reads one piece of retimed sound and adds it to what is there already.
 *
 * A Hann-windowed sinc interpolates between source samples, its values taken from a table with straight lines between
 * (Smith, "Digital Audio Resampling", CCRMA); at speeds above 1 it is widened by the speed, so that what would fold
 * back is filtered out.
 *
 * @param block source samples covering `soundExtent` of the piece
 * @param out one array a channel, added to from `offset` on
 */
export function readVarispeed(
  { run, first, count }: SoundPiece,
  source: SoundSource,
  outputRate: number,
  block: SoundBlock,
  out: readonly Float32Array[],
  offset = 0,
): void {
  const { channels } = block;
  const length = channels[0]?.length ?? 0;
  for (let index = 0; index < count; index++) {
    const seconds = (first + index) / outputRate;
    const speed = Math.abs(run.rateAt(seconds)) / source.pictureRate;
    const step = (speed * source.sampleRate) / outputRate;
    const gain = loudness(speed, step) * cutFade(run, seconds);
    if (gain === 0) continue;
    const position = samplePosition(run, source, seconds) - block.start;
    const width = Math.min(Math.max(step, 1), WIDEST_STEP);
    const reach = HALF_TAPS * width;
    const from = Math.max(0, Math.ceil(position - reach));
    const to = Math.min(length - 1, Math.floor(position + reach));
    weigh(position, from, to, width, gain / width);
    for (let channel = 0; channel < out.length; channel++) {
      // A source of one channel is heard on both sides.
      const samples = channels[Math.min(channel, channels.length - 1)];
      if (samples) out[channel]![offset + index]! += weighed(samples, from, to);
    }
  }
}

/** Puts down how much each source sample from `from` to `to` counts at a position between them. */
function weigh(position: number, from: number, to: number, width: number, gain: number): void {
  const scale = PER_CROSSING / width;
  for (let k = from; k <= to; k++) {
    const place = Math.abs(k - position) * scale;
    const below = Math.floor(place);
    const value = kernel[below]!;
    weights[k - from] = gain * (value + (place - below) * (kernel[below + 1]! - value));
  }
}

function weighed(samples: Float32Array, from: number, to: number): number {
  let total = 0;
  for (let k = from; k <= to; k++) total += samples[k]! * weights[k - from]!;
  return total;
}

function loudness(speed: number, step: number): number {
  if (!(step < 2 * WIDEST_STEP)) return 0;
  const slow = Math.min(1, speed / QUIET_SPEED);
  const fast = Math.min(1, (2 * WIDEST_STEP - step) / WIDEST_STEP);
  return slow * fast;
}

function cutFade({ from, to, fadeIn, fadeOut }: SoundRun, seconds: number): number {
  const begun = fadeIn ? (seconds - from) / CUT_FADE : 1;
  const left = fadeOut ? (to - seconds) / CUT_FADE : 1;
  return Math.max(0, Math.min(1, begun, left));
}

/** How far a speed shifts the pitch when the pitch follows it, in cents: 1200 · log2(speed). */
export function centsOfSpeed(speed: number): number {
  return 1200 * Math.log2(Math.abs(speed));
}
