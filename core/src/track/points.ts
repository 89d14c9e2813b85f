import { DOUBTFUL, type Found } from './point-tracker';
import type { Template } from './refine';
import { settled, type Seen } from './settle';

/** Where what is tracked is in a picture: its middle, in pixels of the picture as displayed. */
export interface TrackedPoint {
  x: number;
  y: number;
  /** 0 to 1: how sure it is; less than `DOUBTFUL` where it was not found. */
  confidence: number;
}

const isSeen = (one: Found): one is Seen => one.region !== undefined && one.confidence >= DOUBTFUL;

/**
 * Where something was in each picture, once it was looked for in all of them: what turned is settled by all together, and where it was
 * not found it is taken to have gone straight from where it was to where it was found again.
 *
 * @param found in the order of the pictures
 */
export function pointsOf(template: Template, found: readonly Found[]): TrackedPoint[] {
  const points = found.map(({ pose: { x, y }, confidence }): TrackedPoint => ({ x, y, confidence }));
  const seen = found.flatMap((one, index) => (isSeen(one) ? [{ ...one, index }] : []));
  settled(template, seen)?.forEach(({ pose: { x, y }, likeness }, n) => {
    const { index, confidence } = seen[n]!;
    // The picture on which the box was put is told, not found.
    points[index] = { x, y, confidence: confidence === 1 ? 1 : Math.max(0, Math.min(0.999, likeness)) };
  });
  return bridged(points);
}

/** Points in doubt straight between those that are sure; at the ends as the last sure one. */
function bridged(points: readonly TrackedPoint[]): TrackedPoint[] {
  const sure = points.flatMap(({ confidence }, index) => (confidence >= DOUBTFUL ? [index] : []));
  let next = 0;
  return points.map((point, index) => {
    while (next < sure.length && sure[next]! < index) next++;
    if (sure.length === 0 || sure[next] === index) return point;
    const [before, after] = [points[sure[next - 1] ?? sure[next]!]!, points[sure[next] ?? sure[next - 1]!]!];
    const [from, to] = [sure[next - 1] ?? index, sure[next] ?? index];
    const share = to > from ? (index - from) / (to - from) : 0;
    return { ...point, x: before.x + (after.x - before.x) * share, y: before.y + (after.y - before.y) * share };
  });
}

/** A point for each of so many frames, of those that are told: straight between them, and as the nearest before and after them. */
export function wholeTrack(told: ReadonlyMap<number, TrackedPoint>, frames: number): TrackedPoint[] {
  const none: TrackedPoint = { x: 0, y: 0, confidence: -1 };
  const known = [...told].filter(([frame]) => frame < frames).sort(([a], [b]) => a - b);
  let next = 0;
  return Array.from({ length: frames }, (_, frame) => {
    while (next < known.length && known[next]![0] < frame) next++;
    const [after, before] = [known[next], known[next - 1]];
    if (after?.[0] === frame) return after[1];
    if (!after || !before) return { ...((after ?? before)?.[1] ?? none), confidence: 0 };
    const share = (frame - before[0]) / (after[0] - before[0]);
    const between = (name: 'x' | 'y'): number => before[1][name] + (after[1][name] - before[1][name]) * share;
    return { x: between('x'), y: between('y'), confidence: 0 };
  });
}
