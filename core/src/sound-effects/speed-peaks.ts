import type { RetimeMap } from '@hastig/contract';
import { compile, speedAt } from '../retime';
import { rateToNumber } from '../time';

/** A moment at which a clip is fastest. */
interface SpeedPeak {
  /** Whole output frame of the clip's timing: the middle of where it is fastest; the first of it where that lasts to its end. */
  frame: number;
  /** How fast, without a sign. */
  speed: number;
  /** Output frame at which the ramp up to it begins; the peak's own where it begins fast. */
  rampFrom: number;
}

/** Times faster than the slow stretches beside it that a peak is, so that a slight wave is none. */
const STANDS_OUT = 1.2;
/** The share of the fastest within which it counts as fastest still. */
const AS_FAST = 0.995;
/** The share of the way up from slow to fast at which a ramp has begun. */
const BEGUN = 0.02;

/**
 * The moments of a clip at which it is fastest, in order: each faster than what lies before and after it, whatever its direction.
 *
 * @param from output frame (whole) from which it is looked at
 * @param to not included
 */
export function speedPeaks(map: RetimeMap, from: number, to: number): SpeedPeak[] {
  const ready = compile(map);
  const speeds = Float64Array.from({ length: Math.max(0, to - from) }, (_, i) => Math.abs(speedAt(ready, from + i)));
  return topsOf(speeds).flatMap(({ at, low }) => {
    const top = speeds[at]!;
    let first = at;
    let last = at;
    while (first > 0 && speeds[first - 1]! >= AS_FAST * top) first--;
    while (last + 1 < speeds.length && speeds[last + 1]! >= AS_FAST * top) last++;
    // What a clip begins with and holds is how fast it runs, and nothing has happened yet.
    if (first === 0 && last > 0) return [];
    const begun = speeds[low]! + BEGUN * (top - speeds[low]!);
    let ramp = first;
    while (ramp > low && speeds[ramp - 1]! > begun) ramp--;
    const frame = last + 1 === speeds.length ? first : Math.floor((first + last) / 2);
    return [{ frame: from + frame, speed: top, rampFrom: from + Math.max(Math.min(low, frame), ramp - 1) }];
  });
}

/** Seconds to either side of the fastest frame that a course has at most: what it is made into is held whole. */
const REACH = 30;

/** How fast a clip is while it is shown, or near where it is fastest if it is long. */
export interface SpeedCourse {
  /** Output frame of the clip's timing at which it begins. */
  begin: number;
  /** The speed at each output frame from there, any sign. */
  speeds: readonly number[];
  /** Output frames a second. */
  perSecond: number;
  /** Which of the frames is the fastest. */
  fastest: number;
}

/** The course of a clip's speed between two output frames (whole, `to` not included); undefined where it has no peak. */
export function speedCourse(map: RetimeMap, from: number, to: number): SpeedCourse | undefined {
  const [first, ...others] = speedPeaks(map, from, to);
  if (!first) return undefined;
  const fastest = others.reduce((best, peak) => (peak.speed > best.speed ? peak : best), first);
  const ready = compile(map);
  const perSecond = rateToNumber(map.outputRate);
  const reach = Math.round(REACH * perSecond);
  const [begin, end] = [Math.max(from, fastest.frame - reach), Math.min(to, fastest.frame + reach)];
  return {
    begin,
    speeds: Array.from({ length: end - begin }, (_, i) => speedAt(ready, begin + i)),
    perSecond,
    fastest: fastest.frame - begin,
  };
}

// Up and down by turns: a top counts once speed has fallen far enough from it, a low once it has risen so.
function topsOf(speeds: Float64Array): { at: number; low: number }[] {
  const found: { at: number; low: number }[] = [];
  let low = 0;
  let high = 0;
  let rising = false;
  for (let i = 1; i < speeds.length; i++) {
    const speed = speeds[i]!;
    if (rising) {
      if (speed > speeds[high]!) high = i;
      else if (speed * STANDS_OUT < speeds[high]!) {
        found.push({ at: high, low });
        rising = false;
        low = i;
      }
      continue;
    }
    if (found.length === 0 && speed > speeds[high]!) high = i;
    if (speed <= speeds[low]!) low = i;
    if (speed > STANDS_OUT * speeds[low]!) {
      rising = true;
      high = i;
    } else if (found.length === 0 && speed * STANDS_OUT < speeds[high]! && low > high) {
      // It begins fast and falls.
      found.push({ at: high, low: high });
      low = i;
    }
  }
  if (rising) found.push({ at: high, low });
  return found;
}
