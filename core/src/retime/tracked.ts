import type { RetimeMap, Span } from '@hastig/contract';
import { compile } from './map';

/**
 * Where a span comes from: the output times of the map before an edit that it stands for; backwards where the edit turned it
 * round. Spreading a span takes it along, so an edit that changes a span says by itself what became of its time.
 */
const WAS = Symbol('was');

type Tracked = Span & { [WAS]?: readonly [from: number, to: number] };

const trackedMaps = new WeakMap<RetimeMap, RetimeMap>();
const originals = new WeakMap<Span, Span>();

/** The same map with spans that remember their output times through edits, see `timesMoved`. */
export function tracked(map: RetimeMap): RetimeMap {
  let made = trackedMaps.get(map);
  if (!made) {
    const { times } = compile(map);
    const spans = map.spans.map((span, index): Tracked => {
      const own: Tracked = { ...span, [WAS]: [times[index]!, times[index + 1]!] };
      originals.set(own, span);
      return own;
    });
    made = { ...map, spans };
    trackedMaps.set(map, made);
  }
  return made;
}

/** Spans without their memory; the very objects they were made of where nothing was changed in them. */
export function untracked(spans: readonly Span[]): Span[] {
  return spans.map((span: Tracked): Span => {
    if (!span[WAS]) return span;
    const { [WAS]: _was, ...rest } = span;
    return originals.get(span) ?? rest;
  });
}

/**
 * Gives the parts of a span their share of what it remembers.
 *
 * @param parts one after the other, together as long as the span
 */
export function shareMemory(span: Tracked, parts: readonly Span[]): Span[] {
  const was = span[WAS];
  if (!was) return [...parts];
  const perFrame = (was[1] - was[0]) / span.frames;
  let at = was[0];
  return parts.map((part): Tracked => {
    const from = at;
    at += part.frames * perFrame;
    return { ...part, [WAS]: [from, at] };
  });
}

/**
 * Gives spans that take the place of others what those remember, in proportion, unless they remember something themselves.
 *
 * @param made the new ones, which may be none
 */
export function inPlaceOf(replaced: readonly Span[], made: readonly Span[]): Span[] {
  const memories = replaced.flatMap((span: Tracked) => span[WAS] ?? []);
  if (memories.length === 0 || made.length === 0 || made.some((span: Tracked) => span[WAS])) return [...made];
  const tracked: Tracked = {
    ...made[0]!,
    frames: made.reduce((sum, { frames }) => sum + frames, 0),
    [WAS]: [Math.min(...memories), Math.max(...memories)],
  };
  return shareMemory(tracked, made);
}

/** A span that runs backwards, with what it remembers turned round. */
export function turnedMemory(span: Tracked, turned: Span): Span {
  const was = span[WAS];
  return was ? ({ ...turned, [WAS]: [was[1], was[0]] } as Tracked) : turned;
}

/** A stretch of old output time and where it begins and ends now. */
interface Moved {
  old: readonly [number, number];
  now: readonly [number, number];
}

/**
 * How the output times of a map move with an edit of it: everything that is counted in output goes by this. What a span
 * stands for moves with it; where an edit put other spans in the place of some, what lay there moves in proportion; what was
 * shown several times stands where it is shown first.
 *
 * @param before a map, `after` what an edit made of `tracked(before)`. A timing that remembers nothing, as one that was pasted,
 *   has all of it in proportion
 * @returns new output frames for old ones (real); what was cut off lies before 0 or past the end
 */
export function timesMoved(before: RetimeMap, after: RetimeMap): (output: number) => number {
  const { times, length } = compile(after);
  const moved = after.spans.flatMap((span: Tracked, index): Moved[] => {
    const was = span[WAS];
    return was ? [{ old: was, now: [times[index]!, times[index + 1]!] }] : [];
  });
  const { length: oldLength } = compile(before);
  if (moved.length === 0) return (output) => (output * length) / oldLength;
  // What took the place of the beginning or the end begins or ends where that did.
  const [first, last] = [after.spans[0] as Tracked, after.spans.at(-1) as Tracked];
  if (!first[WAS]) moved.push({ old: [0, 0], now: [0, 0] });
  if (!last[WAS]) moved.push({ old: [oldLength, oldLength], now: [length, length] });
  return (output) => {
    let [below, above]: (readonly [old: number, now: number] | undefined)[] = [];
    for (const { old, now } of moved) {
      const [a, b] = old;
      const [low, high] = a < b ? [a, b] : [b, a];
      if (output >= low && output <= high)
        return low === high ? now[0] : now[0] + ((output - a) / (b - a)) * (now[1] - now[0]);
      if (high < output && (!below || high > below[0])) below = [high, a < b ? now[1] : now[0]];
      if (low > output && (!above || low < above[0])) above = [low, a < b ? now[0] : now[1]];
    }
    if (!below) return above![1] - (above![0] - output);
    if (!above) return below[1] + (output - below[0]);
    return below[1] + ((output - below[0]) / (above[0] - below[0])) * (above[1] - below[1]);
  };
}
