import type { Pin, RetimeMap } from '@hastig/contract';
import { compile, positionAt, speedAt, speedBefore, TIME_EPSILON } from '../map';
import { isConstantSpeed } from '../span';
import { splitAt } from '../split';
import { land, pinsOf } from './land';
import { withPins } from './pins';

/**
 * Pins source positions to output times, all at once: the free speeds between them change least. Pins that were there stay, but for
 * those at the same output times.
 *
 * @throws EditRefused saying which of them contradict, and by how many frames
 */
export function landPairs(map: RetimeMap, pairs: readonly Pin[]): RetimeMap {
  const others = pinsOf(map).filter(({ output }) =>
    pairs.every((pair) => Math.abs(pair.output - output) > TIME_EPSILON),
  );
  const { length } = compile(map);
  const keyed = pairs
    .filter(({ output }) => output > 0 && output < length)
    .reduce((now, { output }) => splitAt(now, output).map, map);
  return land(withPins(keyed, [...others, ...pairs]));
}

/** What a landing comes to. */
interface Landing {
  /** The least and the greatest speed between the first and the last pair; below 0 it runs backwards somewhere. */
  least: number;
  greatest: number;
  /** Frames by which each pair is missed. */
  misses: number[];
}

/** How a map meets pairs: its speeds from the start to the last of them, and by how much each is missed. */
export function landingOf(map: RetimeMap, pairs: readonly Pin[]): Landing {
  const ready = compile(map);
  const end = pairs.reduce((last, { output }) => Math.max(last, output), 0);
  let [least, greatest] = [Infinity, -Infinity];
  map.spans.forEach((span, index) => {
    const [from, to] = [ready.times[index]!, ready.times[index + 1]!];
    if (from > end - TIME_EPSILON) return;
    const looks = isConstantSpeed(span) ? [from] : Array.from({ length: 17 }, (_, i) => from + ((to - from) * i) / 16);
    for (const at of looks) {
      const speed = at >= to - TIME_EPSILON ? speedBefore(ready, to) : speedAt(ready, at);
      [least, greatest] = [Math.min(least, speed), Math.max(greatest, speed)];
    }
  });
  return { least, greatest, misses: pairs.map(({ output, source }) => positionAt(ready, output) - source) };
}
