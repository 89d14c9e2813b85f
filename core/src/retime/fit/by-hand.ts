import type { RetimeMap } from '@hastig/contract';
import { refuseLocked } from '../lock';
import { compile } from '../map';
import { constantSpan } from '../span';
import { checkRange, cutRange, replaceRange } from '../edit/range';
import { fitKeys, type FittedKey } from './fit-keys';
import { spansOfKeys } from './speeds';

/** Speeds that were driven by hand while a clip played: one for each output frame, from a whole one on. */
export interface Take {
  from: number;
  speeds: readonly number[];
}

interface TakeOptions {
  /** Speed by which the keys may miss the hand at most, more than 0. */
  tolerance: number;
  /** Output frames (real) that keys are drawn to, such as markers, and from how many frames away. */
  magnets?: readonly number[];
  reach?: number;
}

const REACH = 4;

/** A clip that runs as the hand drove it, frame by frame, and at the hand's last speed from there on; for while it is driven. */
export function asDriven(map: RetimeMap, { from, speeds }: Take, now: number): RetimeMap {
  const { length } = compile(map);
  if (from >= length - 1e-9) return map;
  const spans = [];
  for (let at = 0; at < speeds.length && from + at < length;) {
    let end = at + 1;
    while (end < speeds.length && speeds[end] === speeds[at]) end++;
    spans.push(constantSpan(speeds[at]!, Math.min(end, length - from) - at));
    at = end;
  }
  const driven = Math.min(speeds.length, length - from);
  return replaceRange(
    map,
    { from, to: length },
    [...spans, constantSpan(now, Math.max(0, length - from - driven))],
    'follow',
  );
}

/**
 * A clip with a take in place of its timing there: as few keys as stay within the tolerance of the hand. Its length stays, and what
 * follows goes on from where the hand led.
 */
export function withTake(map: RetimeMap, take: Take, options: TakeOptions): RetimeMap {
  const { length } = compile(map);
  const frames = Math.min(take.speeds.length, length - take.from);
  const range = checkRange(map, { from: take.from, to: take.from + frames });
  refuseLocked(cutRange(map, range).middle);
  const keys = drawnTo(keysOfTake(take, options.tolerance), take.from, options);
  const last = keys.at(-1)!;
  const cut = keys.map((key) => (key === last ? { ...key, at: frames } : key)).filter(({ at }) => at <= frames);
  return replaceRange(map, range, spansOfKeys(cut), 'follow');
}

/** The keys of a take, counted in output frames from its beginning. */
export function keysOfTake({ speeds }: Take, tolerance: number): FittedKey[] {
  // Each frame's speed holds until the next one; the last until its end.
  return fitKeys([...speeds, speeds.at(-1) ?? 1], tolerance);
}

function drawnTo(keys: readonly FittedKey[], from: number, { magnets = [], reach = REACH }: TakeOptions): FittedKey[] {
  const drawn: FittedKey[] = [];
  keys.forEach((key, index) => {
    const inside = index > 0 && index + 1 < keys.length;
    const near = inside
      ? magnets
          .map((at) => at - from)
          .filter((at) => Math.abs(at - key.at) <= reach)
          .sort((a, b) => Math.abs(a - key.at) - Math.abs(b - key.at))[0]
      : undefined;
    const at = near ?? key.at;
    // Two keys at one marker would be one.
    const [before, after] = [drawn.at(-1)?.at ?? -Infinity, keys[index + 1]?.at ?? Infinity];
    drawn.push(at > before + 1e-6 && at < after - 1e-6 ? { ...key, at } : key);
  });
  return drawn.filter(({ at }, index) => index === 0 || at > drawn[index - 1]!.at + 1e-6);
}
