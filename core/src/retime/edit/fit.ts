import type { RetimeMap } from '@hastig/contract';
import { timesAt } from '../inverse';
import { compile, positionAt } from '../map';
import { stretchSpan } from '../span';
import { tidy } from './range';
import { EditRefused } from './refused';
import { trimEnd } from './trim';

/** `through`: the source's out point falls on the frame after the last (`f(D) = out`); `last-frame`: the last frame is shown (`f(D−1) = out−1`). */
export type FitEnding = 'through' | 'last-frame';

function stretch(map: RetimeMap, factor: number): RetimeMap {
  return tidy(
    map,
    map.start,
    map.spans.map((span) => stretchSpan(span, factor)),
  );
}

/**
 * Makes a clip last a given number of output frames. The content and the shape of the curve stay; all lengths
 * change in proportion.
 *
 * @param frames new length in output frames, greater than 0
 */
export function fit(map: RetimeMap, frames: number, ending: FitEnding = 'through'): RetimeMap {
  if (!(frames > 0) || !Number.isFinite(frames)) throw new EditRefused('frames', 'A clip lasts more than 0 frames.');
  const { length } = compile(map);
  if (ending === 'through') return stretch(map, frames / length);
  if (!(frames > 1)) throw new EditRefused('frames', 'Showing the last frame needs at least 2 output frames.');
  const out = positionAt(map, length);
  // One frame before the end in the direction of play, at its last appearance.
  const direction = Math.sign(out - map.start) || 1;
  const last = timesAt(map, out - direction).at(-1);
  if (!last || last.to <= 0) throw new EditRefused('frames', 'The clip is too short to show its last frame apart.');
  const stretched = stretch(map, (frames - 1) / last.to);
  return compile(stretched).length > frames ? trimEnd(stretched, frames) : stretched;
}
