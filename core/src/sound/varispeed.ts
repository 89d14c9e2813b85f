import type { RetimeMap } from '@hastig/contract';
import { rateToNumber } from '../time';
import { compile, positionAt, speedAt, type CompiledMap } from '../retime';

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
  /** The file's own frames per second. A map that reads the pictures at another rate takes the sound along. */
  pictureRate: number;
}

/** Kernel half-width in source samples at speeds up to 1: 16 taps. */
const HALF_TAPS = 8;
/** Beyond this many source samples per output sample the kernel grows no more, and the sound fades out. */
const WIDEST_STEP = 32;
/** Below this speed the sound fades out: a frozen tape is silent, not a held voltage. */
const QUIET_SPEED = 0.05;
/** Seconds over which the sound fades on each side of a jump in the source, so that the cut does not click. */
const JUMP_FADE = 0.002;

/** Source frames past the kernel that a block must hold on either side of its outermost position. */
export const BLOCK_MARGIN = HALF_TAPS * WIDEST_STEP + 2;

function samplePosition(ready: CompiledMap, source: SoundSource, t: number): number {
  const seconds = source.pictureStart + positionAt(ready, t) / source.pictureRate;
  return seconds * source.sampleRate;
}

/**
 * Cuts a run of output samples where the source jumps, so that each piece reads one stretch of the source.
 *
 * @returns pieces as first sample and count, in order
 */
export function soundPieces(
  map: RetimeMap,
  outputRate: number,
  first: number,
  count: number,
): { first: number; count: number }[] {
  const ready = compile(map);
  const perFrame = outputRate / rateToNumber(map.outputRate);
  const cuts = map.spans
    .map((span, index) => (span.jump ? Math.ceil(ready.times[index]! * perFrame) : 0))
    .filter((cut) => cut > first && cut < first + count);
  const stops = [first, ...cuts, first + count];
  return stops.slice(1).map((stop, index) => ({ first: stops[index]!, count: stop - stops[index]! }));
}

/**
 * The source samples that a piece of output reads, kernel included: `start` included, `end` not. May reach before
 * the source's beginning or past its end, where there is silence.
 */
export function soundExtent(
  map: RetimeMap,
  source: SoundSource,
  outputRate: number,
  piece: { first: number; count: number },
): { start: number; end: number } {
  const ready = compile(map);
  const perSample = rateToNumber(map.outputRate) / outputRate;
  let low = Infinity;
  let high = -Infinity;
  // The position is smooth between samples, so every 16th and the last bound it within the margin.
  for (let index = 0; ; index = Math.min(index + 16, piece.count - 1)) {
    const position = samplePosition(ready, source, (piece.first + index) * perSample);
    low = Math.min(low, position);
    high = Math.max(high, position);
    if (index >= piece.count - 1) break;
  }
  return { start: Math.floor(low) - BLOCK_MARGIN, end: Math.ceil(high) + BLOCK_MARGIN };
}

/**
 * Reads one piece of retimed sound.
 *
 * A Hann-windowed sinc interpolates between source samples (Smith, "Digital Audio Resampling", CCRMA); at
 * speeds above 1 it is widened by the speed, so that what would fold back is filtered out.
 *
 * @param block source samples covering `soundExtent` of the piece
 * @param out one array a channel, written from `offset` on
 */
export function readVarispeed(
  map: RetimeMap,
  source: SoundSource,
  outputRate: number,
  piece: { first: number; count: number },
  block: SoundBlock,
  out: readonly Float32Array[],
  offset = 0,
): void {
  const ready = compile(map);
  const perSample = rateToNumber(map.outputRate) / outputRate;
  // Source samples an output sample passes at speed 1: more or fewer where the pictures are read at another rate.
  const samplesPerFrame = (source.sampleRate / outputRate) * (rateToNumber(map.sourceRate) / source.pictureRate);
  const jumps = map.spans.flatMap((span, index) =>
    span.jump ? [ready.times[index]! / rateToNumber(map.outputRate)] : [],
  );
  for (let index = 0; index < piece.count; index++) {
    const sample = piece.first + index;
    const t = sample * perSample;
    const speed = Math.abs(speedAt(ready, t));
    const step = speed * samplesPerFrame;
    const gain = loudness(speed, step) * jumpFade(jumps, sample / outputRate);
    const position = samplePosition(ready, source, t) - block.start;
    const width = Math.min(Math.max(step, 1), WIDEST_STEP);
    const reach = HALF_TAPS * width;
    const from = Math.ceil(position - reach);
    const to = Math.floor(position + reach);
    for (let channel = 0; channel < out.length; channel++) {
      const samples = block.channels[Math.min(channel, block.channels.length - 1)];
      out[channel]![offset + index] =
        gain === 0 || !samples ? 0 : gain * weigh(samples, position, from, to, width, reach);
    }
  }
}

function weigh(
  samples: Float32Array,
  position: number,
  from: number,
  to: number,
  width: number,
  reach: number,
): number {
  let total = 0;
  for (let k = Math.max(0, from); k <= to && k < samples.length; k++) {
    const x = k - position;
    total += samples[k]! * kernel(x / width, x / reach);
  }
  return total / width;
}

function kernel(x: number, w: number): number {
  if (Math.abs(x) < 1e-9) return 1;
  const angle = Math.PI * x;
  return (Math.sin(angle) / angle) * (0.5 + 0.5 * Math.cos(Math.PI * w));
}

function loudness(speed: number, step: number): number {
  if (!(step < 2 * WIDEST_STEP)) return 0;
  const slow = Math.min(1, speed / QUIET_SPEED);
  const fast = Math.min(1, (2 * WIDEST_STEP - step) / WIDEST_STEP);
  return slow * fast;
}

function jumpFade(jumps: readonly number[], seconds: number): number {
  let gain = 1;
  for (const jump of jumps) gain = Math.min(gain, Math.abs(seconds - jump) / JUMP_FADE);
  return gain;
}

/** Output samples of a whole map at a sample rate: its length in seconds, rounded to the nearest sample. */
export function soundLength(map: RetimeMap, outputRate: number): number {
  return Math.round((compile(map).length * outputRate) / rateToNumber(map.outputRate));
}

/** How far a speed shifts the pitch when the pitch follows it, in cents: 1200 · log2(speed). */
export function centsOfSpeed(speed: number): number {
  return 1200 * Math.log2(Math.abs(speed));
}
