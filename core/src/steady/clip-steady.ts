import type { PictureTrack, Steady } from '@hastig/contract';
import type { Size } from '../picture';
import type { TrackedPoint } from '../track';
import { holding, steadyPath, type SteadyPath } from './path';

/** The points of a track, one for each position. */
export const trackPoints = ({ at }: PictureTrack): TrackedPoint[] =>
  Array.from({ length: Math.floor(at.length / 3) }, (_, n) => ({
    ...{ x: at[3 * n]!, y: at[3 * n + 1]!, confidence: at[3 * n + 2]! },
  }));

/** Points as they are kept: places to a hundredth of a pixel. */
export const keptPoints = (points: readonly TrackedPoint[]): number[] =>
  points.flatMap(({ x, y, confidence }) => [hundredths(x), hundredths(y), hundredths(confidence)]);

const hundredths = (value: number): number => Math.round(value * 100) / 100;

const known = new WeakMap<Steady, { tracks: readonly PictureTrack[]; used: string; made: SteadyPath | undefined }>();

/**
 * How an effect steadies pictures of a source; undefined where its tracks are not there, or are not as long as each other.
 *
 * @param tracks the source's
 * @param size of its pictures, as displayed
 * @param used its positions that are shown
 */
export function steadied(
  effect: Steady,
  tracks: readonly PictureTrack[],
  size: Size,
  used: { from: number; to: number },
): SteadyPath | undefined {
  const part = `${used.from} ${used.to}`;
  const before = known.get(effect);
  if (before?.tracks === tracks && before.used === part) return before.made;
  const held = effect.tracks.flatMap((id) => tracks.find((track) => track.id === id) ?? []).map(trackPoints);
  const frames = Math.min(...held.map((points) => points.length));
  const whole = held.length === effect.tracks.length && frames > 0;
  const at = Math.min(effect.frame, frames - 1);
  const made = whole ? pathOf(holding(held.map((points) => points.slice(0, frames)), size, at), size, effect, used) : undefined; // prettier-ignore
  known.set(effect, { tracks, used: part, made });
  return made;
}

function pathOf(
  moves: ReturnType<typeof holding>,
  size: Size,
  { edges }: Steady,
  used: { from: number; to: number },
): SteadyPath {
  const made = steadyPath(moves, size, edges, '', used);
  return { ...made, key: `${made.edges} ${digest(made.maps)}` };
}

/** A short name of numbers, the same for the same ones: FNV-1a (Fowler, Noll and Vo; RFC 9923), 32 bits, of their bytes. */
function digest(numbers: Float64Array): string {
  let hash = 0x811c9dc5;
  for (const byte of new Uint8Array(numbers.buffer)) hash = Math.imul(hash ^ byte, 0x01000193);
  return `${numbers.length}-${(hash >>> 0).toString(16)}`;
}
