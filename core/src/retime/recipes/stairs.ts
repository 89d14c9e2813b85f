import type { RetimeMap } from '@hastig/contract';
import { constantSpan } from '../span';
import { overlaySpans } from '../edit/place';
import type { Keeps } from '../edit/range';
import { EditRefused } from '../edit/refused';

interface StairsOptions {
  from: number;
  to: number;
  /** How many steps, both ends counted; or by how much each step's speed differs. */
  by: { steps: number } | { step: number };
  /** Output frames of each step. */
  frames: number;
  keeps: Keeps;
}

const MOST_STEPS = 1000;

/**
 * The speeds of a staircase. With `step` the last one is `to` only if a whole number of steps leads there, as in
 * 80, 70, 60, 50%; otherwise the last step before it.
 */
export function stairSpeeds({ from, to, by }: Pick<StairsOptions, 'from' | 'to' | 'by'>): number[] {
  if (!Number.isFinite(from) || !Number.isFinite(to)) throw new EditRefused('speed', 'The speed must be a number.');
  const size = 'step' in by ? Math.abs(by.step) : 0;
  if ('step' in by && !(size > 0)) throw new EditRefused('step', 'Each step must change the speed.');
  // A step that fits but for a rounding error counts.
  const count = 'steps' in by ? by.steps : Math.floor(Math.abs(to - from) / size + 1e-9) + 1;
  if (!(Number.isInteger(count) && count >= 2)) throw new EditRefused('steps', 'Stairs need at least 2 steps.');
  if (count > MOST_STEPS) throw new EditRefused('steps', `Stairs can have at most ${MOST_STEPS} steps.`);
  const rise = 'steps' in by ? (to - from) / (count - 1) : Math.sign(to - from) * size;
  return Array.from({ length: count }, (_, i) => Number((from + i * rise).toPrecision(12)));
}

/** Stairs from a moment on: speed A to B in steps, each held for some frames. */
export function stairs(map: RetimeMap, at: number, options: StairsOptions): RetimeMap {
  const { frames, keeps } = options;
  if (!(frames > 0) || !Number.isFinite(frames))
    throw new EditRefused('frames', 'A step must be longer than 0 frames.');
  const spans = stairSpeeds(options).map((speed) => constantSpan(speed, frames));
  return overlaySpans(map, at, spans, keeps);
}
