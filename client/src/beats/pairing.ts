import type { RetimeMap } from '@hastig/contract';
import { assignMoments, compile, positionAt, rateToNumber, type Pair, type Plain } from '@hastig/core';

/** Pairs that keep the least change of speed over a stretch of a clip's output, as a proposal. */
export function proposedPairs(
  map: RetimeMap,
  shown: { from: number; frames: number },
  moments: readonly Plain[],
  marks: readonly Plain[],
): Pair[] {
  const ready = compile(map);
  const end = Math.min(ready.length, shown.from + shown.frames);
  const origin = { content: positionAt(ready, shown.from), output: shown.from };
  const passed = positionAt(ready, end) - origin.content;
  const natural = passed > 0 && end > shown.from ? passed / (end - shown.from) : ready.ratio;
  return assignMoments(moments, marks, { natural, origin, perSecond: rateToNumber(map.outputRate) });
}

/** The pairs with one moment on another mark; moments that it would pass leave their marks. */
export function withPairOn(pairs: readonly Pair[], moment: number, mark: number): Pair[] {
  const others = pairs.filter(
    (pair) =>
      pair.moment !== moment && pair.mark !== mark && Math.sign(pair.moment - moment) === Math.sign(pair.mark - mark),
  );
  return [...others, { moment, mark }].sort((a, b) => a.moment - b.moment);
}

/** The pairs without a moment's. */
export const withoutPair = (pairs: readonly Pair[], moment: number): Pair[] =>
  pairs.filter((pair) => pair.moment !== moment);
