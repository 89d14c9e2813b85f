import { MOST_FRAMES, type Rate, type RateFit } from '@hastig/contract';
import { makeRate, rateFromNumber, rateToNumber, sameRate } from '@hastig/core';
import { layFrames, stretchesOf, type LaidFrames, type Stretch } from './frame-grid';
import { roundingOf, type FrameIndex } from './frame-index';

/** Coarsest rounding of times in the containers we read: WebM and Matroska count milliseconds. */
const CONTAINER_ROUNDING = 0.001;

/** A video's rate and whether all its frames keep to it. */
interface MeasuredRate {
  rate: Rate;
  constant: boolean;
}

const ntsc = (base: number): Rate => makeRate(base * 1000, 1001);

/** Rates at which cameras, phones and screen recorders write (SMPTE ST 12-1 and its relatives, and common practice), slowest first. */
const cameraRates: readonly Rate[] = [
  ...[5, 10, 12, 12.5, 15].map((rate) => makeRate(rate * 2, 2)),
  ...[ntsc(24), makeRate(24), makeRate(25), ntsc(30), makeRate(30), makeRate(48), makeRate(50), ntsc(60), makeRate(60)],
  ...[makeRate(90), makeRate(100), ntsc(120), makeRate(120), makeRate(200), makeRate(240)],
];

/** Whole rates and those of the 1000/1001 family that are tried for a measured one, either side of it. */
function ratesAround(measured: number, tolerance: number): Rate[] {
  const found: Rate[] = [];
  for (const base of cameraRates) if (Math.abs(rateToNumber(base) / measured - 1) <= tolerance) found.push(base);
  const [from, to] = [Math.ceil(measured * (1 - tolerance)), Math.floor(measured * (1 + tolerance))];
  if (to - from < 50)
    for (let whole = Math.max(1, from); whole <= to; whole++) {
      if (!found.some((rate) => sameRate(rate, makeRate(whole)))) found.push(makeRate(whole));
    }
  return found;
}

/** How frame times sit on an even row: the slope by least squares, and what is left of them. */
function slopeOf(timestamps: Float64Array): number {
  const count = timestamps.length;
  const middle = (count - 1) / 2;
  let [sum, squares] = [0, 0];
  for (let frame = 0; frame < count; frame++) {
    sum += (frame - middle) * (timestamps[frame]! - timestamps[0]!);
    squares += (frame - middle) ** 2;
  }
  return sum / squares;
}

// How many of the times are not what a container writes that rounds to whole milliseconds, to the nearest or down.
function unlikeRounded(timestamps: Float64Array, perFrame: number): number {
  const [nearest, down] = [Math.round, Math.floor].map((rounded) => {
    let unlike = 0;
    timestamps.forEach((time, frame) => {
      const exact = (timestamps[0]! + frame * perFrame) * 1000;
      if (Math.round(time * 1000) !== rounded(exact + 1e-6)) unlike++;
    });
    return unlike;
  }) as [number, number];
  return Math.min(nearest, down);
}

/** Largest distance of frame times from an even row that begins where it lies best between them, in seconds. */
function offEven(timestamps: Float64Array, perFrame: number): { within: number; squares: number } {
  let [lowest, highest, sum, squares] = [Infinity, -Infinity, 0, 0];
  timestamps.forEach((time, frame) => {
    const off = time - timestamps[0]! - frame * perFrame;
    lowest = Math.min(lowest, off);
    highest = Math.max(highest, off);
    sum += off;
    squares += off * off;
  });
  const count = timestamps.length;
  return { within: (highest - lowest) / 2, squares: squares / count - (sum / count) ** 2 };
}

/**
 * The rate that a video's frame times stand for, if they are even.
 *
 * The slope of all times, by least squares, gives it to within the container's rounding; of the usual rates that lie within that,
 * the one is taken that the last frame's own length names, where it is not rounded itself; else the one whose times, rounded to
 * milliseconds, are the most like those that were written, cameras' rates first and of these whole ones; else the one they lie
 * nearest to.
 */
export function measureRate(index: FrameIndex): MeasuredRate {
  const { timestamps, lastDuration } = index;
  const count = timestamps.length;
  if (count < 2) return { rate: rateFromNumber(lastDuration > 0 ? 1 / lastDuration : 25), constant: true };
  const span = timestamps[count - 1]! - timestamps[0]!;
  if (!(span > 0)) return { rate: rateFromNumber(25), constant: false };
  const measured = 1 / slopeOf(timestamps);
  const tolerance = Math.min(0.2, Math.max(1e-6, (1.5 * CONTAINER_ROUNDING) / span));
  const rate = likeliest(index, ratesAround(measured, tolerance)) ?? rateFromNumber(measured, 1e-9);
  const perFrame = 1 / rateToNumber(rate);
  const allowed = Math.min(perFrame / 4, CONTAINER_ROUNDING);
  return { rate, constant: offEven(timestamps, perFrame).within <= allowed };
}

/** Frames a second on the whole, where they come at irregular times. */
export function meanRate({ timestamps }: FrameIndex): Rate {
  const span = timestamps.at(-1)! - timestamps[0]!;
  if (!(span > 0)) return makeRate(25);
  return rateFromNumber(
    (timestamps.length - 1) / span,
    Math.min(4e-4, Math.max(1e-6, (1.5 * CONTAINER_ROUNDING) / span)),
  );
}

function likeliest({ timestamps, lastDuration, ...index }: FrameIndex, rates: readonly Rate[]): Rate | undefined {
  const isRounded = roundingOf({ timestamps, lastDuration, ...index }) > 0;
  const saysSo = Math.abs(lastDuration * 1000 - Math.round(lastDuration * 1000)) > 1e-6;
  const named = isRounded && saysSo && rates.find((rate) => Math.abs(rateToNumber(rate) * lastDuration - 1) < 1e-5);
  if (named) return named;
  const tried = rates.map((rate) => {
    const perFrame = 1 / rateToNumber(rate);
    return {
      rate,
      unlike: isRounded ? unlikeRounded(timestamps, perFrame) : 0,
      squares: offEven(timestamps, perFrame).squares,
    };
  });
  const isUsual = ({ rate }: { rate: Rate }): number => Number(cameraRates.some((one) => sameRate(one, rate)));
  const unlikely = isRounded
    ? (one: (typeof tried)[number]): number => one.unlike * 4 - 2 * isUsual(one) + Number(one.rate.den > 1)
    : (): number => 0;
  tried.sort((a, b) => unlikely(a) - unlikely(b) || a.squares - b.squares);
  return tried[0]?.rate;
}

/** What a frame that no position shows costs, in bits, beside what it costs to say where frames are missing. */
const LOST = 64;
/** Empty places to a frame up to which frames are taken to have fallen out, and the bits each costs beyond: there the rate is too fast. */
const EMPTY = { usual: 1 / 4, beyond: 14 };
/** What a rate costs that no camera is set to, in bits. */
const UNUSUAL = 24;
/** 2πe: how many times its variance the square of a width is that says as much as a bell curve (its differential entropy). */
const BELL = 2 * Math.PI * Math.E;
/** Seconds to which times are told apart where the container does not round them. */
const FINEST = 1e-4;

/**
 * What it takes to say a file's frame times by an even rate, in bits: which places have no frame, how far the times lie beside
 * their places, and which frames have none (J. Rissanen, Modeling by Shortest Data Description, Automatica 14, 1978). A rate that
 * is too slow loses frames, one that is too fast leaves places empty, one that is a little off lets times drift from their places.
 */
function costOf(index: FrameIndex, laid: LaidFrames, stretches: readonly Stretch[]): number {
  const perSecond = rateToNumber(laid.rate);
  const off = (frame: number): number => index.timestamps[frame]! - laid.start - laid.places[frame]! / perSecond;
  let [count, empty, squares, even] = [0, 0, 0, 0];
  for (const { from, to } of stretches) {
    let [here, sum, square, lowest, highest, before] = [0, 0, 0, Infinity, -Infinity, -1];
    for (let frame = from; frame < to; frame++) {
      const place = laid.places[frame]!;
      if (place < 0) continue;
      const away = off(frame);
      here++;
      sum += away;
      square += away * away;
      lowest = Math.min(lowest, away);
      highest = Math.max(highest, away);
      if (before >= 0) empty += place - before - 1;
      before = place;
    }
    if (here === 0) continue;
    // What comes after a hole may lie beside the grid for good.
    squares += Math.max(0, square - (sum * sum) / here);
    count += here;
    even = Math.max(even, highest - lowest);
  }
  const finest = Math.max(FINEST, 2 * roundingOf(index));
  const bell = Math.sqrt((squares / count) * BELL);
  const noise = count * Math.log2(Math.max(finest, Math.min(even, bell)) / finest);
  const tooMany = Math.max(0, empty - count * EMPTY.usual) * EMPTY.beyond;
  return noise + entropy(empty, count) + tooMany + LOST * laid.skipped;
}

/** Bits that say which of `a + b` things are the `a`. */
function entropy(a: number, b: number): number {
  const part = (n: number): number => (n > 0 ? n * Math.log2((a + b) / n) : 0);
  return part(a) + part(b);
}

const asFit = ({ rate, positions, repeated, skipped, within }: LaidFrames): RateFit => ({
  ...{ rate, frames: positions, repeated, skipped, within: Math.round(within * 1e6) / 1e6 },
});

/** Frames by which rates are told apart: the middle ones of a longer file. */
const EXCERPT = 20_000;
/** Rates that are offered, and of files so long that each takes a while. */
const MOST_FITS = { usual: 10, long: 2, from: 200_000 };

/**
 * The usual rates near to what comes in a second, and the measured one where none of them will do, as they fit frames at irregular
 * times, the best first: see `costOf`. None where they would be more than a source may have.
 */
export function rateFits(index: FrameIndex): RateFit[] {
  const count = index.timestamps.length;
  const most = count > MOST_FITS.from ? MOST_FITS.long : MOST_FITS.usual;
  const span = index.timestamps[count - 1]! - index.timestamps[0]!;
  return ratesByCost(excerptOf(index))
    .filter((rate) => span * rateToNumber(rate) <= MOST_FRAMES)
    .slice(0, most)
    .map((rate) => layFrames(index, rate))
    .filter(({ positions }) => positions <= MOST_FRAMES)
    .map(asFit);
}

function excerptOf(index: FrameIndex): FrameIndex {
  const from = Math.max(0, (index.timestamps.length - EXCERPT) >> 1);
  return from === 0 ? index : { ...index, timestamps: index.timestamps.subarray(from, from + EXCERPT) };
}

function ratesByCost(index: FrameIndex): Rate[] {
  const stretches = stretchesOf(index);
  const near = densityOf(index);
  const costed = (rate: Rate, extra: number): { laid: LaidFrames; cost: number } => {
    const laid = layFrames(index, rate);
    return { laid, cost: costOf(index, laid, stretches) + extra };
  };
  const usual = cameraRates.filter(
    (rate) => rateToNumber(rate) > near * NEAR.from && rateToNumber(rate) < near * NEAR.to,
  );
  const tried = usual.map((rate) => costed(rate, 0)).sort((a, b) => a.cost - b.cost);
  const own = measuredRates(index, tried[0]?.laid, stretches).map((rate) => costed(rate, UNUSUAL));
  return [...own, ...tried].sort((a, b) => a.cost - b.cost).map(({ laid }) => laid.rate);
}

/** How many times what comes in a second a rate may be: frames fall out, and times tremble. */
const NEAR = { from: 0.6, to: 2.5 };
/** Frames in a row whose length trembling hardly touches, and how often it is looked at. */
const ROW = 8;
const LOOKS = 2000;

// Frames a second where nothing is missing for a while: the median of short rows, which holes do not touch.
function densityOf({ timestamps }: FrameIndex): number {
  const last = timestamps.length - 1;
  const row = Math.min(ROW, last);
  const step = Math.max(1, Math.floor((last - row) / LOOKS));
  const found: number[] = [];
  for (let frame = 0; frame + row <= last; frame += step)
    found.push(row / Math.max(1e-9, timestamps[frame + row]! - timestamps[frame]!));
  return found.sort((a, b) => a - b)[found.length >> 1]!;
}

/** Places by which frames may drift from a usual rate before their own is taken. */
const MOST_DRIFT = 0.25;

// The rate of a clock that is off by so much that a usual rate would have to leave out or repeat frames for it alone, and the mean
// rate of frames that keep to none.
function measuredRates(
  { timestamps }: FrameIndex,
  best: LaidFrames | undefined,
  stretches: readonly Stretch[],
): Rate[] {
  const mean = (timestamps.length - 1) / (timestamps.at(-1)! - timestamps[0]!);
  const own = best ? clockNear(timestamps, rateToNumber(best.rate), stretches) : mean;
  const most = Math.max(...stretches.map(({ from, to }) => timestamps[to - 1]! - timestamps[from]!));
  const keepsToNone = !best || best.skipped > timestamps.length * 0.01;
  const found: Rate[] = [];
  for (const measured of keepsToNone ? [own, mean] : [own]) {
    if (!(measured > 0.001 && measured < 1e6)) continue;
    const drift = best ? Math.abs(measured - rateToNumber(best.rate)) * most : Infinity;
    const rate = rateFromNumber(measured, 1e-9);
    if (drift >= MOST_DRIFT && ![...cameraRates, ...found].some((one) => sameRate(one, rate))) found.push(rate);
  }
  return found;
}

/**
 * Parts by which cameras' clocks are off a usual rate at the most, as many again for its neighbour (1000/1001 of it) may have been
 * taken for it, and what is looked at beyond for the middle of a peak.
 */
const CLOCKS = 0.0025;
/** How many rates are looked at for each turn of a phase over a stretch. */
const STEPS = 4;

/**
 * The rate near to another at which frame times are most alike in phase, each stretch by itself: the peak of the periodogram of
 * points (M. S. Bartlett, The Spectral Analysis of Point Processes, 1963). Drops and trembling leave it where it is.
 */
function clockNear(timestamps: Float64Array, near: number, stretches: readonly Stretch[]): number {
  const most = Math.max(...stretches.map(({ from, to }) => timestamps[to - 1]! - timestamps[from]!));
  const step = 1 / (STEPS * most);
  const steps = Math.ceil((near * CLOCKS) / step);
  const heights = Array.from({ length: 2 * steps + 1 }, (_, n) =>
    alikeness(timestamps, near + (n - steps) * step, stretches),
  );
  const top = heights.indexOf(Math.max(...heights));
  if (top === 0 || top === 2 * steps) return near;
  const [before, at, after] = [heights[top - 1]!, heights[top]!, heights[top + 1]!];
  // The top of the parabola through the three.
  return near + (top - steps + (before - after) / (2 * (before - 2 * at + after))) * step;
}

function alikeness(timestamps: Float64Array, perSecond: number, stretches: readonly Stretch[]): number {
  let sum = 0;
  for (const { from, to } of stretches) {
    let across = 0;
    let up = 0;
    for (let frame = from; frame < to; frame++) {
      const turn = 2 * Math.PI * perSecond * (timestamps[frame]! - timestamps[from]!);
      across += Math.cos(turn);
      up += Math.sin(turn);
    }
    sum += Math.hypot(across, up);
  }
  return sum;
}
