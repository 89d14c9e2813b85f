import type { RetimeMap, Timing } from '@hastig/contract';
import { compile } from '../map';
import { normalize } from './range';
import { EditRefused } from './refused';
import { withPins } from '../land/pins';

/**
 * `exact`: spans, start and pins as they were copied; `shape`: the curve in the target's length, its speeds scaled so that
 * the target's content is passed.
 */
export type PasteHow = 'exact' | 'shape';

/** What is copied from a clip's timing: all of it, without its rates. */
export function timingOf(map: RetimeMap): Timing {
  const { start, spans, pins } = map;
  return pins ? { start, spans, pins } : { start, spans };
}

/** Pastes a copied timing on a clip. */
export function pasteTiming(target: RetimeMap, copied: Timing, how: PasteHow): RetimeMap {
  if (how === 'exact') {
    return withPins({ ...normalize(target, copied.start, copied.spans), start: copied.start }, copied.pins ?? []);
  }
  const shape: RetimeMap = { ...withPins(target, []), spans: copied.spans };
  const [from, to] = [compile(shape), compile(target)];
  const content = to.ends[to.count - 1]! - to.positions[0]!;
  const travel = from.ends[from.count - 1]! - from.positions[0]!;
  if (Math.abs(travel) < 1e-9)
    throw new EditRefused('timing', 'The copied timing ends on its first frame, so its shape can’t be scaled.');
  const factor = to.length / from.length;
  const scale = content / (travel * factor);
  const spans = copied.spans.map((span) => {
    const frames = span.frames * factor;
    const by = span.of === 'speed' ? scale : scale * factor;
    const y = span.y.map((value) => value * by) as typeof span.y;
    const jump = span.jump === undefined ? {} : { jump: span.jump * scale * factor };
    return { ...span, frames, y, ...jump };
  });
  return normalize(target, to.positions[0]!, spans);
}
