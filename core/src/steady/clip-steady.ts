import type { PictureTrack, Smooth, Source, Steady } from '@hastig/contract';
import { pictureOf } from '../counting';
import type { Size } from '../picture';
import { rateToNumber } from '../time';
import { sourceRate } from '../timeline/clip-map';
import type { TrackedPoint } from '../track';
import { cameraFor, cameraMoves, partOf } from './camera-moves';
import { smoothedWay, type CameraWay } from './camera-path';
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

/** Positions of a source, from the first up to the last and one. */
export interface UsedPositions {
  from: number;
  to: number;
}

interface Known {
  tracks: Source['tracks'];
  cameras: Source['cameras'];
  used: string;
  made: SteadyPath | undefined;
}

const known = new WeakMap<Steady | Smooth, Known>();

/**
 * How an effect steadies pictures of a source; undefined where what it needs is not there: its tracks, or an analysis of the camera.
 *
 * @param used the source's positions that are shown
 */
export function steadied(effect: Steady | Smooth, source: Source, used: UsedPositions): SteadyPath | undefined {
  const { tracks, cameras } = source;
  const part = `${used.from} ${used.to} ${JSON.stringify(source.readAs ?? null)}`;
  const before = known.get(effect);
  if (before?.tracks === tracks && before?.cameras === cameras && before?.used === part) return before?.made;
  const size = pictureOf(source.facts) ?? undefined;
  const made = size && (effect.kind === 'steady' ? heldPath(effect, source, size, used) : smoothPath(effect, source, size, used)); // prettier-ignore
  known.set(effect, { tracks, cameras, used: part, made });
  return made;
}

function heldPath(effect: Steady, { tracks = [] }: Source, size: Size, used: UsedPositions): SteadyPath | undefined {
  const held = effect.tracks.flatMap((id) => tracks.find((track) => track.id === id) ?? []).map(trackPoints);
  const frames = Math.min(...held.map((points) => points.length));
  if (held.length !== effect.tracks.length || frames === 0) return undefined;
  const at = Math.min(effect.frame, frames - 1);
  const maps = holding(
    held.map((points) => points.slice(0, frames)),
    size,
    at,
  );
  return named(steadyPath(maps, size, effect.edges, { used }));
}

/** The camera's way as an effect makes it, over the stretch of an analysis that tells of what is used; undefined without one. */
export function cameraWay(
  effect: Smooth,
  source: Source,
  used: UsedPositions,
): (CameraWay & { from: number }) | undefined {
  const size = pictureOf(source.facts);
  const camera = cameraFor(source.cameras, used);
  if (!size || !camera) return undefined;
  const rate = rateToNumber(sourceRate(source));
  const part = partOf(camera, aroundUsed(effect, used, rate));
  const moves = cameraMoves(part, size);
  return { ...smoothedWay(moves, size, effect, rate, effect.frame - part.from), from: part.from };
}

/** Times the smoothed-over time beyond what is used after which what is there makes no difference. */
const BEYOND = 4;

/** The positions that a camera's way over some depends on: a whole source's would take long. */
function aroundUsed({ seconds, frame }: Smooth, { from, to }: UsedPositions, rate: number): UsedPositions {
  if (seconds === undefined) return { from: Math.min(from, frame), to: Math.max(to, frame + 1) };
  const aside = Math.ceil(BEYOND * seconds * rate);
  return { from: from - aside, to: to + aside };
}

function smoothPath(effect: Smooth, source: Source, size: Size, used: UsedPositions): SteadyPath | undefined {
  const way = cameraWay(effect, source, used);
  return way && named(steadyPath(way.maps, size, effect.edges, { from: way.from, used }));
}

const named = (path: SteadyPath): SteadyPath => ({
  ...path,
  key: `${path.edges} ${path.from} ${digest(path.maps)}`,
});

/** A short name of numbers, the same for the same ones: FNV-1a (Fowler, Noll and Vo; RFC 9923), 32 bits, of their bytes. */
function digest(numbers: Float64Array): string {
  let hash = 0x811c9dc5;
  for (const byte of new Uint8Array(numbers.buffer)) hash = Math.imul(hash ^ byte, 0x01000193);
  return `${numbers.length}-${(hash >>> 0).toString(16)}`;
}
