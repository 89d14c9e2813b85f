import type { Effect, ProjectDocument, Smooth } from '@hastig/contract';
import { effectsOn } from '../effects';
import { cameraEnd, cameraFor, steadied, type SteadyPath, type UsedPositions } from '../steady';
import { findSource } from '../timeline/lookup';
import type { Program, ProgramBody, ProgramItem, ProgramTrack } from './program';
import { shownPositions } from './steady-of';

/** The paths of items that have some; they are told by their keys. */
const paths = new WeakMap<ProgramItem, readonly SteadyPath[]>();

/** Remembers how an item is steadied. */
export const keepPaths = (item: ProgramItem, made: readonly SteadyPath[]): void => void paths.set(item, made);

/** How an item is steadied, by itself and by the film. */
export const pathsOf = (item: ProgramItem): readonly SteadyPath[] => paths.get(item) ?? [];

/** The paths of all items of some bodies, by their keys; nothing where there are none. */
export function steadiesOf(bodies: readonly ProgramBody[]): Pick<Program, 'steadies'> {
  const items = bodies.flatMap(({ tracks }) =>
    tracks.flatMap((track) => track.items.filter(({ steady, smoothed }) => steady ?? smoothed)),
  );
  const found = items.flatMap((item) => pathsOf(item).map((path) => [path.key, path] as const));
  if (found.length === 0) return {};
  // Told once, as long as nothing of them changes: they are long.
  const same = last && sameSteadies(last, found);
  last = same ? last : Object.fromEntries(found);
  return { steadies: last! };
}

let last: Program['steadies'];

const sameSteadies = (
  before: NonNullable<Program['steadies']>,
  now: readonly (readonly [string, SteadyPath])[],
): boolean =>
  Object.keys(before).length === new Set(now.map(([key]) => key)).size &&
  now.every(([key, path]) => before[key] === path);

/** The film's effects that smooth the cameras of its clips. */
export const filmSmooths = (effects: readonly Effect[] | undefined): readonly Smooth[] =>
  effectsOn(effects).filter((effect) => effect.kind === 'smooth');

/** The positions of its source that an item shows where a smoothing of the film holds; undefined where it shows none. */
function smoothedPositions(item: ProgramItem, { over }: Smooth, inFilm: boolean): UsedPositions | undefined {
  // When a group's clips are seen in the film depends on all that lies between: all that they show counts.
  const shift = item.at - item.from;
  const own = inFilm && over ? { by: 'output' as const, from: over.from + shift, to: over.to + shift } : undefined;
  if (own && (own.to <= item.at || own.from >= item.at + item.frames)) return undefined;
  return shownPositions({ shown: { from: item.at, frames: item.frames } }, item.map, own);
}

interface Smoothed<T> {
  by: readonly Smooth[];
  made: T;
}

/** Once for each as long as the film's effects are the same: most items stay. */
function once<T extends object>(cache: WeakMap<T, Smoothed<T>>, of: T, by: readonly Smooth[], make: () => T): T {
  const before = cache.get(of);
  if (before && before.by.length === by.length && before.by.every((one, index) => one === by[index]))
    return before.made;
  const made = make();
  cache.set(of, { by, made });
  return made;
}

const smoothedItems = new WeakMap<ProgramItem, Smoothed<ProgramItem>>();
const smoothedTracks = new WeakMap<ProgramTrack, Smoothed<ProgramTrack>>();

/**
 * A body whose clips' cameras the film smooths, each by what an analysis tells of its source; a clip that is steadied by itself
 * stays so.
 *
 * @param inFilm whether it is the film's, not a group's
 */
export const smoothedBody = <T extends ProgramBody>(
  project: ProjectDocument,
  body: T,
  by: readonly Smooth[],
  inFilm: boolean,
): T => ({
  ...body,
  tracks: body.tracks.map((track) =>
    track.kind === 'sound'
      ? track
      : once(smoothedTracks, track, by, () => ({
          ...track,
          items: track.items.map((item) =>
            once(smoothedItems, item, by, () => smoothedItem(project, item, by, inFilm)),
          ),
        })),
  ),
});

const standing = new WeakMap<Smooth, Map<string, Smooth>>();

/** A smoothing of the film for one of its clips; the same object while nothing changes, as paths are kept by it when clips move. */
function standingAt(smooth: Smooth, clipId: string, frame: number): Smooth {
  const made = standing.get(smooth) ?? new Map<string, Smooth>();
  standing.set(smooth, made);
  const before = made.get(clipId);
  if (before?.frame === frame) return before;
  const one = { ...smooth, frame };
  made.set(clipId, one);
  return one;
}

function smoothedItem(
  project: ProjectDocument,
  item: ProgramItem,
  by: readonly Smooth[],
  inFilm: boolean,
): ProgramItem {
  const source = item.of.kind === 'source' ? findSource(project, item.of.id) : undefined;
  if (!source?.cameras) return item;
  const found = by.flatMap((smooth) => {
    const used = smoothedPositions(item, smooth, inFilm);
    // As on a tripod: as in the first frame of the source that is shown.
    const path = used && steadied(standingAt(smooth, item.clipId, used.from), source, used);
    return path ? [{ id: smooth.id, path }] : [];
  });
  if (found.length === 0) return item;
  const made = { ...item, smoothed: Object.fromEntries(found.map(({ id, path }) => [id, path.key])) };
  keepPaths(made, [...pathsOf(item), ...found.map(({ path }) => path)]);
  return made;
}

/** Positions of a source that clips show where a smoothing of the film holds. */
export interface SmoothedPart extends UsedPositions {
  sourceId: string;
  clipId: string;
  /** Whether an analysis of the source's camera tells of all of them. */
  told: boolean;
}

const parts = new WeakMap<Smooth, { film: Program; found: SmoothedPart[] }>();

/** What a smoothing of the film has to do with: a part for each clip of its bodies, in their order; found once for each program. */
export function smoothedParts(project: ProjectDocument, film: Program, smooth: Smooth): readonly SmoothedPart[] {
  const known = parts.get(smooth);
  if (known?.film === film) return known.found;
  const found = findParts(project, film, smooth);
  parts.set(smooth, { film, found });
  return found;
}

function findParts(project: ProjectDocument, film: Program, smooth: Smooth): SmoothedPart[] {
  const partsIn = (body: ProgramBody, inFilm: boolean): SmoothedPart[] =>
    body.tracks.flatMap(({ kind, items }) =>
      items.flatMap((item): SmoothedPart[] => {
        if (kind === 'sound' || item.of.kind !== 'source' || film.sizes[item.of.id] === null) return [];
        const used = smoothedPositions(item, smooth, inFilm);
        if (!used) return [];
        const camera = cameraFor(findSource(project, item.of.id)?.cameras, used);
        const told = camera !== undefined && camera.from <= used.from && cameraEnd(camera) >= used.to;
        return [{ sourceId: item.of.id, clipId: item.clipId, ...used, told }];
      }),
    );
  return [...partsIn(film, true), ...Object.values(film.groups).flatMap((body) => partsIn(body, false))];
}
