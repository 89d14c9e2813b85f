import type { RetimeMap, Span } from '@hastig/contract';
import { widenRamp } from '../edit/ramp';
import { replaceSpan } from '../edit/joint';
import { setPartSpeed } from '../edit/speed';
import { trimEnd, trimStart } from '../edit/trim';
import { EditRefused } from '../edit/refused';
import { realFrameFloor } from '../floor';
import { compile } from '../map';
import { isConstantSpeed } from '../span';
import { LEAST_RAMP, type PaceWarning } from './warnings';

/** What one tap does about a warning: its words and the edit. */
interface Remedy {
  words: string;
  apply(map: RetimeMap): RetimeMap;
}

/** The remedy for a warning, where there is one. */
export function remedyFor(map: RetimeMap, warning: PaceWarning): Remedy | undefined {
  const { kind, span: index, from, to } = warning;
  switch (kind) {
    case 'out-of-source': {
      const { length } = compile(map);
      if (warning.side === 'after' && to >= length - 1) {
        return { words: 'End clip where the source ends', apply: (now) => trimEnd(now, from) };
      }
      if (from === 0) return { words: 'Start clip where the source starts', apply: (now) => trimStart(now, to) };
      return undefined;
    }
    case 'backwards':
      return {
        words: 'Keep it forward',
        apply: (now) => keptForwards(now, index!),
      };
    case 'below-floor': {
      const floor = realFrameFloor(map.sourceRate, map.outputRate);
      return {
        words: 'Raise to the floor',
        apply: (now) => setPartSpeed(now, index!, floor * Math.sign(now.spans[index!]!.y[0]), 'content'),
      };
    }
    case 'short-ramp':
      return { words: `Widen to ${2 * LEAST_RAMP} frames`, apply: (now) => widened(now, index!) };
    default:
      return undefined;
  }
}

// Its content too, where forwards speeds can pass it; a part that ended before its beginning keeps its length instead.
function keptForwards(map: RetimeMap, index: number): RetimeMap {
  const span = forwards(map.spans[index]!);
  try {
    return replaceSpan(map, index, span, 'content');
  } catch (error) {
    if (!(error instanceof EditRefused)) throw error;
    return replaceSpan(map, index, span, 'length');
  }
}

// Between values that do not fall a Bézier curve does not fall either.
function forwards(span: Span): Span {
  const [y0, y1, y2, y3] = span.y;
  if (span.of === 'speed') return { ...span, y: [y0, Math.max(0, y1), Math.max(0, y2), y3] };
  const inside = (value: number): number => Math.min(y3, Math.max(0, value));
  const [a, b] = [inside(y1), inside(y2)];
  return { ...span, y: [y0, Math.min(a, b), Math.max(a, b), y3] };
}

function widened(map: RetimeMap, index: number): RetimeMap {
  const frames = 2 * LEAST_RAMP;
  const [before, span, after] = [map.spans[index - 1], map.spans[index]!, map.spans[index + 1]];
  const held = before && after && isConstantSpeed(before) && isConstantSpeed(after);
  if (held && span.y[0] !== span.y[3]) return widenRamp(map, index, frames);
  if (held) throw new EditRefused('span', 'Both ends of this ramp have the same speed. Remove its key.');
  return replaceSpan(map, index, { ...span, frames }, 'length');
}
