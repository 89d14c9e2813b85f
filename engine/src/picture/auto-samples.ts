import { thinned } from '@hastig/core';
import type { Arrow } from './makers/maker';
import type { Part } from './mean';

/** Pixels by which things move from one sample to the next where samples follow movement: less is not seen as steps. */
const PIXELS = 1.5;
/** Samples at least, where anything is made. */
const LEAST = 2;
/** Real frames that pass from which on they will do where nothing moves by more than `PIXELS` from one to the next. */
const ENOUGH = 8;
/** The part of a picture that may move farther: what is wrongly found, and next to nothing. */
const FARTHER = 0.02;

/** How far what moves in a picture moves, in pixels: all but the farthest little of it. */
export function farMoved(arrows: readonly Arrow[], width: number, height: number): number {
  const sure = arrows.filter((arrow) => arrow.sure);
  const lengths = sure.map(({ x, y, toX, toY }) => Math.hypot((toX - x) * width, (toY - y) * height));
  lengths.sort((a, b) => a - b);
  return lengths[Math.floor((1 - FARTHER) * (lengths.length - 1))] ?? 0;
}

const placeOf = ({ frame, share = 0 }: Part): number => frame + share;

/**
 * Of the moments of an exposure as many as what moves in it asks for; where real frames pass that are near enough to each other,
 * those.
 *
 * @param parts in the order of the source
 * @param moved pixels that things move from one frame of the source to the next
 */
export function enoughParts(parts: readonly Part[], moved: number): Part[] {
  const passed = placeOf(parts.at(-1)!) - placeOf(parts[0]!);
  if (passed >= ENOUGH && moved <= PIXELS) return wholeFrames(parts);
  return thinned(parts, Math.max(LEAST, Math.ceil((passed * moved) / PIXELS)));
}

function wholeFrames(parts: readonly Part[]): Part[] {
  const frames = new Map<number, number>();
  for (const part of parts) {
    const frame = Math.round(placeOf(part));
    frames.set(frame, (frames.get(frame) ?? 0) + part.weight);
  }
  return [...frames].map(([frame, weight]) => ({ frame, weight }));
}
