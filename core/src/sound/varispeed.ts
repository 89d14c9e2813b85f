import { samplePosition, speedOf, type SoundBlock, type SoundPiece, type SoundSource, type SoundSupply } from './run';

// Looked up once: the loops below run for every tap of every sample.
const { abs, ceil, cos, floor, log2, max, min, round, sin, PI } = Math;

/**
 * Sound whose pitch follows the speed, as a tape's does: the source is read at the position the map gives for
 * each output sample. Half speed sounds an octave lower (1200 · log2(0.5) = −1200 cents).
 */

/** Kernel half-width in source samples at speeds up to 1: 16 taps. */
const HALF_TAPS = 8;
/** Beyond this many source samples per output sample the kernel grows no more, and the sound fades out. */
const WIDEST_STEP = 32;
/** Source samples read for one piece of output at most; faster passages are cut into smaller pieces. */
const MOST_EXTENT = 960_000;
/** Output samples that are not cut smaller. */
const SMALLEST = 64;

/** Source frames past the kernel that a block must hold on either side of its outermost position. */
const BLOCK_MARGIN = HALF_TAPS * WIDEST_STEP + 2;

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
  for (let index = 0; ; index = min(index + 16, count - 1)) {
    const position = samplePosition(run, source, (first + index) / outputRate);
    low = min(low, position);
    high = max(high, position);
    if (index >= count - 1) break;
  }
  return { start: floor(low) - BLOCK_MARGIN, end: ceil(high) + BLOCK_MARGIN };
}

/** A position that misses a sample by less than this stands on it. */
const ON_SAMPLE = 1e-6;

/** Values of the kernel kept for each of its zero crossings; a straight line between two of them is off by 1.2e-6. */
const PER_CROSSING = 1024;

/** A Hann-windowed sinc from its middle outwards; past its end it is 0. */
const kernel = Float64Array.from({ length: HALF_TAPS * PER_CROSSING + 2 }, (_, index) => {
  const x = index / PER_CROSSING;
  if (x >= HALF_TAPS) return 0;
  const angle = PI * x;
  return (index === 0 ? 1 : sin(angle) / angle) * (0.5 + 0.5 * cos(angle / HALF_TAPS));
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
    const speed = abs(speedOf(run, source, seconds));
    const step = (speed * source.sampleRate) / outputRate;
    const gain = loudness(step);
    if (gain === 0) continue;
    const position = samplePosition(run, source, seconds) - block.start;
    const nearest = round(position);
    if (step <= 1 && abs(position - nearest) < ON_SAMPLE) {
      // The kernel is 1 there and 0 at all others.
      addSample(channels, nearest, gain, out, offset + index);
      continue;
    }
    const width = min(max(step, 1), WIDEST_STEP);
    const reach = HALF_TAPS * width;
    const from = max(0, ceil(position - reach));
    const to = min(length - 1, floor(position + reach));
    weigh(position, from, to, width, gain / width);
    for (let channel = 0; channel < out.length; channel++) {
      // A source of one channel is heard on both sides.
      const samples = channels[min(channel, channels.length - 1)];
      if (samples) out[channel]![offset + index]! += weighed(samples, from, to);
    }
  }
}

function addSample(
  channels: readonly Float32Array[],
  at: number,
  gain: number,
  out: readonly Float32Array[],
  to: number,
): void {
  for (let channel = 0; channel < out.length; channel++) {
    out[channel]![to]! += gain * (channels[min(channel, channels.length - 1)]?.[at] ?? 0);
  }
}

/** Puts down how much each source sample from `from` to `to` counts at a position between them. */
function weigh(position: number, from: number, to: number, width: number, gain: number): void {
  const scale = PER_CROSSING / width;
  for (let k = from; k <= to; k++) {
    const place = abs(k - position) * scale;
    const below = floor(place);
    const value = kernel[below]!;
    weights[k - from] = gain * (value + (place - below) * (kernel[below + 1]! - value));
  }
}

function weighed(samples: Float32Array, from: number, to: number): number {
  let total = 0;
  for (let k = from; k <= to; k++) total += samples[k]! * weights[k - from]!;
  return total;
}

// What is so fast that the kernel cannot widen with it fades out.
function loudness(step: number): number {
  return step < 2 * WIDEST_STEP ? min(1, (2 * WIDEST_STEP - step) / WIDEST_STEP) : 0;
}

/** How far a speed shifts the pitch when the pitch follows it, in cents: 1200 · log2(speed). */
export function centsOfSpeed(speed: number): number {
  return 1200 * log2(abs(speed));
}

/**
 * Reads a piece of sound whose pitch follows the speed, and adds it to what is there.
 *
 * @param outputRate output samples per second
 * @param out one array a channel, whose first sample is the output's sample `first`
 */
export async function readTape(
  supply: SoundSupply,
  wanted: SoundPiece,
  outputRate: number,
  out: readonly Float32Array[],
  first: number,
): Promise<void> {
  const pieces = [wanted];
  while (pieces.length > 0) {
    const piece = pieces.shift()!;
    const extent = soundExtent(piece, supply, outputRate);
    if (extent.end - extent.start > MOST_EXTENT && piece.count > SMALLEST) {
      const half = piece.count >> 1;
      pieces.unshift({ ...piece, count: half }, { ...piece, first: piece.first + half, count: piece.count - half });
      continue;
    }
    const block = await supply.block(extent.start, extent.end);
    readVarispeed(piece, supply, outputRate, block, out, piece.first - first);
  }
}
