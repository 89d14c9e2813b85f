import type { Keyed, RetimeMap, ValueKey } from '@hastig/contract';
import { compile, eases, EditRefused, positionAt, timesAt, type Ease } from '../retime';
import { solveTime, timeCoefficients, valueCoefficients } from '../retime/bezier';

/** Two keys closer than this are one. */
const SAME = 1e-6;

/** How a value leads from a key to the next one unless told. */
const USUAL: Ease = eases['ease-in-out'];

/** A moment of a clip, as both ways of counting have it: output frames of its timing, and positions of its content. */
export interface ClipMoment {
  output: number;
  source: number;
}

/** The moment at an output time of a clip's map. */
export function momentAt(map: RetimeMap, output: number): ClipMoment {
  return { output, source: positionAt(map, Math.min(Math.max(0, output), compile(map).length)) };
}

/** Index of the last key at or before a time; −1 where there is none. */
function keyBefore(keys: readonly ValueKey[], at: number): number {
  let [low, high] = [-1, keys.length - 1];
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (keys[middle]!.at <= at) low = middle;
    else high = middle - 1;
  }
  return low;
}

/**
 * What a value is at a moment. Between two keys it is a cubic Bézier in the plane of time and value with the ease's handles, as
 * a ramp of speeds is.
 */
export function valueAt({ by, keys }: Keyed, moment: ClipMoment): number {
  const at = moment[by];
  const index = keyBefore(keys, at);
  const [key, next] = [keys[index], keys[index + 1]];
  if (!key) return keys[0]!.value;
  if (!next) return key.value;
  const [x1, y1, x2, y2] = (key.ease as Ease | undefined) ?? USUAL;
  const rise = next.value - key.value;
  const u = solveTime(...timeCoefficients(x1, x2), (at - key.at) / (next.at - key.at));
  const [c0, c1, c2, c3] = valueCoefficients([key.value, key.value + y1 * rise, key.value + y2 * rise, next.value]);
  return ((c3 * u + c2) * u + c1) * u + c0;
}

const inOrder = (keys: readonly ValueKey[]): ValueKey[] => [...keys].sort((a, b) => a.at - b.at);

/** The key at a moment, to within half an output frame or half a position. */
export function keyAtMoment({ by, keys }: Keyed, moment: ClipMoment): ValueKey | undefined {
  const index = keyBefore(keys, moment[by] + 0.5);
  const key = keys[index];
  return key && Math.abs(key.at - moment[by]) < 0.5 ? key : undefined;
}

/** A value with a key at a moment; one that is there gets the new value. */
export function withValueKey(keyed: Keyed, moment: ClipMoment, value: number): Keyed {
  const there = keyAtMoment(keyed, moment);
  const key: ValueKey = there ? { ...there, value } : { at: moment[keyed.by], value };
  return { ...keyed, keys: inOrder([...keyed.keys.filter((one) => one !== there), key]) };
}

/** A value without one of its keys; undefined where it was the last. */
export function withoutValueKey(keyed: Keyed, key: ValueKey): Keyed | undefined {
  const keys = keyed.keys.filter((one) => one !== key);
  return keys.length > 0 ? { ...keyed, keys } : undefined;
}

/**
 * A value with one of its keys at another time.
 *
 * @throws EditRefused where another key is
 */
export function withMovedKey(keyed: Keyed, key: ValueKey, at: number): Keyed {
  const others = keyed.keys.filter((one) => one !== key);
  if (others.some((one) => Math.abs(one.at - at) < SAME)) throw new EditRefused('at', 'There is already a key here.');
  return { ...keyed, keys: inOrder([...others, { ...key, at }]) };
}

/** A value that leads from one of its keys to the next in another way. */
export function withEasedKey(keyed: Keyed, key: ValueKey, ease: Ease): Keyed {
  const eased: ValueKey = { ...key, ease: [...ease] };
  return { ...keyed, keys: keyed.keys.map((one) => (one === key ? eased : one)) };
}

/** Where a key stands in a clip's output: each time at which its moment is shown, once for what is counted in output. */
export function outputsOfKey({ by }: Keyed, { at }: ValueKey, map: RetimeMap): number[] {
  return by === 'output' ? [at] : timesAt(map, at).map(({ from }) => from);
}

/** A value whose output times moved: keys counted in output go along, those that stay with the content stay. */
export function movedKeyed(keyed: Keyed, moved: (output: number) => number): Keyed {
  if (keyed.by === 'source') return keyed;
  const placed = keyed.keys.map((key, index) => ({ index, key: { ...key, at: moved(key.at) } }));
  placed.sort((a, b) => a.key.at - b.key.at || a.index - b.index);
  // Where the edit turned the time round, what led from one key to the next leads back from that one.
  const keys = placed.map(({ index, key }, place): ValueKey => {
    const next = placed[place + 1];
    if (next?.index !== index - 1) return key;
    const { ease: _own, ...rest } = key;
    const { ease } = next.key;
    return ease ? { ...rest, ease: mirrored(ease as Ease) } : rest;
  });
  return { ...keyed, keys: withoutDoubles(keys) };
}

const mirrored = ([x1, y1, x2, y2]: Ease): [number, number, number, number] => [1 - x2, 1 - y2, 1 - x1, 1 - y1];

// What an edit took the time from between two keys leaves them in one place: the later one counts from there on.
function withoutDoubles(keys: readonly ValueKey[]): ValueKey[] {
  const rising = inOrder(keys);
  return rising.filter((key, index) => {
    const next = rising[index + 1];
    return !next || next.at - key.at > SAME;
  });
}

// What misses a whole frame by a rounding error stands on it.
const onFrame = (at: number): number => (Math.abs(at - Math.round(at)) < SAME ? Math.round(at) : at);

/**
 * A value with its keys counted the other way, each at the moment where it is first. What lies between two keys changes where
 * the clip does not run evenly: that is what it is counted the other way for.
 */
export function recounted(keyed: Keyed, by: Keyed['by'], map: RetimeMap): Keyed {
  if (keyed.by === by) return keyed;
  const { length } = compile(map);
  const keys = keyed.keys.flatMap((key): ValueKey[] => {
    if (by === 'source') return [{ ...key, at: onFrame(positionAt(map, Math.min(length, Math.max(0, key.at)))) }];
    const [shown] = timesAt(map, key.at);
    return shown ? [{ ...key, at: onFrame(shown.from) }] : [];
  });
  // A moment that the clip never shows says what holds at its nearer end.
  const first = keyed.keys[0]!;
  return { by, keys: keys.length > 0 ? withoutDoubles(keys) : [{ at: 0, value: first.value }] };
}
