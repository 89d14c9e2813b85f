import type { Rate } from '@hastig/contract';

/** Greatest common divisor of two whole numbers; `gcd(0, 0)` is 0. */
function gcd(a: number, b: number): number {
  let [x, y] = [Math.abs(a), Math.abs(b)];
  while (y !== 0) [x, y] = [y, x % y];
  return x;
}

/** A rate in lowest terms. Throws a RangeError unless both are whole and at least 1. */
export function makeRate(num: number, den = 1): Rate {
  if (!Number.isSafeInteger(num) || !Number.isSafeInteger(den) || num < 1 || den < 1) {
    throw new RangeError(`a rate is two whole numbers of at least 1, not ${num}/${den}`);
  }
  const divisor = gcd(num, den);
  return { num: num / divisor, den: den / divisor };
}

/** Frames per second as a number; for display and for media interfaces that take seconds. */
export function rateToNumber(rate: Rate): number {
  return rate.num / rate.den;
}

export function sameRate(a: Rate, b: Rate): boolean {
  return a.num * b.den === b.num * a.den;
}

/** `a / b` as a number, with one rounding only: source frames that pass per output frame at real time. */
export function rateRatio(a: Rate, b: Rate): number {
  return (a.num * b.den) / (b.num * a.den);
}

/** Seconds from the start at which frame `frame` begins. */
export function frameToSeconds(frame: number, rate: Rate): number {
  return (frame * rate.den) / rate.num;
}

/** Frames (real) that have passed after `seconds`. */
export function secondsToFrames(seconds: number, rate: Rate): number {
  return (seconds * rate.num) / rate.den;
}

const broadcastDens = [1, 1001];

/**
 * The rate that a measured number of frames per second stands for.
 *
 * Container times are rounded (1 ms in WebM, a timescale tick in MP4), so a whole rate or one of the
 * 1000/1001 family (SMPTE ST 12-1) is taken when it lies within `tolerance` (relative) of the measurement;
 * otherwise the best fraction with a denominator of at most 1001 (Stern–Brocot by continued fractions).
 *
 * @param framesPerSecond greater than 0
 * @param tolerance relative, e.g. 1e-4
 */
export function rateFromNumber(framesPerSecond: number, tolerance = 1e-4): Rate {
  if (!(framesPerSecond > 0) || !Number.isFinite(framesPerSecond)) {
    throw new RangeError(`a rate is greater than 0, not ${framesPerSecond}`);
  }
  let best: { rate: Rate; error: number } | undefined;
  for (const den of broadcastDens) {
    const unit = den === 1 ? 1 : 1000;
    const num = Math.round((framesPerSecond * den) / unit) * unit;
    if (num < 1) continue;
    const error = Math.abs(num / den / framesPerSecond - 1);
    if (error <= tolerance && (!best || error < best.error)) best = { rate: makeRate(num, den), error };
  }
  return best?.rate ?? bestFraction(framesPerSecond, 1001);
}

function bestFraction(value: number, maxDen: number): Rate {
  let [num0, den0, num1, den1] = [0, 1, 1, 0];
  let rest = value;
  for (;;) {
    const integer = Math.floor(rest);
    const [num2, den2] = [integer * num1 + num0, integer * den1 + den0];
    if (den2 > maxDen || num2 > 1e9) break;
    [num0, den0, num1, den1] = [num1, den1, num2, den2];
    if (rest - integer < 1e-9) break;
    rest = 1 / (rest - integer);
  }
  return makeRate(Math.max(1, num1), Math.max(1, den1));
}

/** `30000/1001` as `29.97`, `24/1` as `24`: for people, never for arithmetic. */
export function formatRate(rate: Rate): string {
  return rate.den === 1 ? String(rate.num) : String(Math.round((rate.num / rate.den) * 1000) / 1000);
}

/** A rate as one word, to tell rates apart: `30000/1001`. */
export function rateKey(rate: Rate): string {
  return `${rate.num}/${rate.den}`;
}

/** The rates that film, television and the web use (SMPTE ST 12-1 and its relatives), slowest first. */
export const standardRates: readonly Rate[] = [
  makeRate(24000, 1001),
  makeRate(24),
  makeRate(25),
  makeRate(30000, 1001),
  makeRate(30),
  makeRate(48),
  makeRate(50),
  makeRate(60000, 1001),
  makeRate(60),
  makeRate(100),
  makeRate(120),
];

/** Frames a second at most that are typed. */
const MOST_TYPED = 1000;

/**
 * A rate as people type it: `30`, `29.97` or `30000/1001`; one of the standard ones where it is meant.
 *
 * @returns undefined where it is none, or not below 1000
 */
export function parseRate(text: string): Rate | undefined {
  const [num, den = 1, ...more] = text
    .trim()
    .replace(',', '.')
    .split('/')
    .map((part) => (part.trim() === '' ? NaN : Number(part)));
  const fps = num! / den;
  if (more.length > 0 || !(fps > 0) || !(fps < MOST_TYPED)) return undefined;
  if (Number.isInteger(num) && Number.isInteger(den) && num! > 0) return makeRate(num!, den);
  return standardRates.find((rate) => Math.abs(rateToNumber(rate) - fps) < 0.005) ?? rateFromNumber(fps);
}
