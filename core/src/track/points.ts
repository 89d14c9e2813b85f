import { DOUBTFUL, type Found } from './point-tracker';
import type { Template } from './refine';
import { settled, type Seen } from './settle';
import { solved } from './solve';

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
 * @param template undefined where it was not the same for all
 * @param found in the order of the pictures
 */
export function pointsOf(template: Template | undefined, found: readonly Found[]): TrackedPoint[] {
  const points = found.map(({ pose: { x, y }, confidence }): TrackedPoint => ({ x, y, confidence }));
  const seen = found.flatMap((one, index) => (isSeen(one) ? [{ ...one, index }] : []));
  const places = template && settled(template, seen);
  places?.forEach(({ pose: { x, y }, likeness }, n) => {
    const { index, confidence } = seen[n]!;
    // The picture on which the box was put is told, not found.
    points[index] = { x, y, confidence: confidence === 1 ? 1 : Math.max(0, Math.min(0.999, likeness)) };
  });
  return bridged(points);
}

/** Points in doubt on the way between those that are sure; at the ends as the last sure one. */
function bridged(points: readonly TrackedPoint[]): TrackedPoint[] {
  const sure = points.flatMap((point, frame): Told[] => (point.confidence >= DOUBTFUL ? [[frame, point]] : []));
  if (sure.length === 0) return [...points];
  return alongFrames(sure, points.length).map((place, frame) => ({
    ...place,
    confidence: points[frame]!.confidence,
  }));
}

type Told = readonly [frame: number, point: TrackedPoint];

/** Frames that are missing up to which what falls or turns is taken to go on doing so; over more of them it goes straight. */
const CURVED = 8;
/** Frames on both sides by which that is told, and the fewest. */
const ASIDE = 3;
const FEWEST = 2;

/** Where something is in each of so many frames, by those that are told, in order. */
function alongFrames(told: readonly Told[], frames: number): { x: number; y: number }[] {
  let next = 0;
  return Array.from({ length: frames }, (_, frame) => {
    while (next < told.length && told[next]![0] < frame) next++;
    const [after, before] = [told[next], told[next - 1]];
    if (!after || !before || after[0] === frame) return (after ?? before)![1];
    const gap = after[0] - before[0];
    const sides = [told.slice(Math.max(0, next - ASIDE), next), told.slice(next, next + ASIDE)].map((side, n) =>
      side.filter(([at]) => Math.abs(at - (n === 0 ? before[0] : after[0])) < ASIDE),
    );
    const curved = gap <= CURVED && sides.every((side) => side.length >= FEWEST);
    const near = curved ? sides.flat() : [before, after];
    const along = (name: 'x' | 'y'): number => {
      const places = near.map(([at, point]) => [at - frame, point[name]] as const);
      if (curved) return atZero(places);
      return before[1][name] + ((after[1][name] - before[1][name]) * (frame - before[0])) / gap;
    };
    return { x: along('x'), y: along('y') };
  });
}

/** What a parabola through places is at 0, by least squares. */
function atZero(places: readonly (readonly [at: number, value: number])[]): number {
  const [h, g] = [new Float64Array(9), new Float64Array(3)];
  for (const [at, value] of places) {
    const powers = [1, at, at * at];
    powers.forEach((row, i) => {
      g[i]! += row * value;
      for (let j = 0; j <= i; j++) h[3 * i + j]! += row * powers[j]!;
    });
  }
  return solved(h, g, 3)?.[0] ?? places[0]![1];
}

/** A track that was mended by another one: where it was in doubt and the other is surer, that counts. */
export function mendedTrack(points: readonly TrackedPoint[], by: readonly TrackedPoint[]): TrackedPoint[] {
  const mended = points.map((point, n) => {
    const other = by[n];
    return other && point.confidence < DOUBTFUL && other.confidence > point.confidence ? other : point;
  });
  return bridged(mended);
}

/** A point for each of so many frames, of those that are told: between them on its way, before and after them as the nearest. */
export function wholeTrack(told: ReadonlyMap<number, TrackedPoint>, frames: number): TrackedPoint[] {
  const known = [...told].filter(([frame]) => frame < frames).sort(([a], [b]) => a - b);
  if (known.length === 0) return Array.from({ length: frames }, () => ({ x: 0, y: 0, confidence: 0 }));
  return alongFrames(known, frames).map(({ x, y }, frame) => ({
    ...{ x, y },
    confidence: told.get(frame)?.confidence ?? 0,
  }));
}
