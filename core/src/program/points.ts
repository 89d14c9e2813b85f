import type { Effect, ProjectDocument } from '@hastig/contract';
import { effectsOn } from '../effects';
import { mapPoint, pictureKeys, pictureMap, plainPicture, planeInverse, planePoint, type Point } from '../picture';
import { HELD_EPSILON, positionAt } from '../retime';
import { mapOfFrame } from '../steady';
import { itemAt, type Program, type ProgramBody, type ProgramItem } from './program';

/** The track an effect goes along with. */
const trackOf = (effect: Effect): string | undefined =>
  effect.kind === 'carry' ? effect.track : effect.kind === 'reframe' ? effect.follow?.track : undefined;

/** Where a track is. */
export interface ProgramPoints {
  sourceId: string;
  /** In pixels of the source's pictures, across and down, for each position. */
  places: Float64Array;
}

const known = new WeakMap<ProjectDocument['sources'], Map<string, ProgramPoints>>();

/** The places of a track; made once, as long as the sources are the same. */
function placesOf({ sources }: ProjectDocument, id: string): ProgramPoints | undefined {
  const made = known.get(sources) ?? new Map<string, ProgramPoints>();
  known.set(sources, made);
  if (!made.has(id)) {
    const source = sources.find(({ tracks }) => tracks?.some((track) => track.id === id));
    const at = source?.tracks?.find((track) => track.id === id)?.at;
    if (!at) return undefined;
    const places = new Float64Array((2 * at.length) / 3);
    for (let n = 0; n < places.length; n += 2) places.set([at[1.5 * n]!, at[1.5 * n + 1]!], n);
    made.set(id, { sourceId: source!.id, places });
  }
  return made.get(id);
}

/** The tracks that effects of some bodies go along with, by their ids; nothing where there are none. */
export function pointsOfBodies(project: ProjectDocument, bodies: readonly ProgramBody[]): Pick<Program, 'points'> {
  const items = bodies.flatMap(({ tracks }) => tracks.flatMap((track) => track.items.filter(({ effects }) => effects)));
  const ids = new Set(items.flatMap(({ effects }) => effectsOn(effects).flatMap((effect) => trackOf(effect) ?? [])));
  const points = [...ids].flatMap((id) => {
    const places = placesOf(project, id);
    return places ? [[id, places] as const] : [];
  });
  if (points.length === 0) return {};
  // Told once, as long as nothing of them changes: they are long.
  const before = last;
  const same =
    !!before && Object.keys(before).length === points.length && points.every(([id, at]) => before[id] === at);
  last = same ? before : Object.fromEntries(points);
  return { points: last };
}

let last: Record<string, ProgramPoints> | undefined;

/**
 * Where a track is in the frame, in pixels, as an item shows it.
 *
 * @param time output time of the item's map, @param held whether between two frames the one before is seen
 * @returns nothing where there is no such track, or no frame
 */
export function pointInFrame(
  { frame, sizes, points, steadies }: Program,
  { of, map, picture, steady }: ProgramItem,
  track: string,
  time: number,
  held: boolean,
): Point | undefined {
  const [places, size] = [points?.[track]?.places, of.kind === 'source' ? sizes[of.id] : undefined];
  if (!places || places.length === 0 || !size || !frame) return undefined;
  const path = steady === undefined ? undefined : steadies?.[steady];
  const last = places.length / 2 - 1;
  const at = (position: number): Point => {
    const n = Math.min(last, Math.max(0, position));
    const place = { x: places[2 * n]!, y: places[2 * n + 1]! };
    const back = path && planeInverse(mapOfFrame(path, n));
    return back ? planePoint(back, place) : place;
  };
  const position = positionAt(map, time);
  const before = Math.floor(position + HELD_EPSILON);
  const share = held ? 0 : Math.max(0, position - before);
  const [a, b] = [at(before), at(before + 1)];
  const settings = picture ? pictureKeys.now(picture, { output: time, source: position }) : plainPicture;
  return mapPoint(pictureMap(settings, size, frame), {
    x: a.x + (b.x - a.x) * share,
    y: a.y + (b.y - a.y) * share,
  });
}

/**
 * The item of a body that shows the source of a track at a time: a clip's own; where it is not there then, as where it was split, another
 * one, the uppermost; else the clip's own, before its beginning or past its end.
 */
export function carrierAt(
  { points }: Program,
  body: ProgramBody,
  clipId: string,
  track: string,
  t: number,
): ProgramItem | undefined {
  const own = itemOfClip(body, clipId);
  if (own && t >= own.from && t < own.from + own.frames) return own;
  const sourceId = points?.[track]?.sourceId;
  const there = body.tracks.flatMap((row) => (row.kind === 'picture' ? (itemAt(row, t) ?? []) : []));
  return there.findLast(({ of }) => of.kind === 'source' && of.id === sourceId) ?? own;
}

const byClip = new WeakMap<ProgramBody, Map<string, ProgramItem>>();

/** A clip's item in a body. */
function itemOfClip(body: ProgramBody, clipId: string): ProgramItem | undefined {
  let items = byClip.get(body);
  if (!items) {
    items = new Map(body.tracks.flatMap((track) => track.items.map((item) => [item.clipId, item] as const)));
    byClip.set(body, items);
  }
  return items.get(clipId);
}
