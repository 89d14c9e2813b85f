import type {
  Clip,
  Container,
  Effect,
  ExposureStep,
  Master,
  ProjectDocument,
  Rate,
  RetimeMap,
  Stretch,
  Track,
  TrackSound,
} from '@hastig/contract';
import { pictureOf, type PictureSize } from '../counting';
import type { Size } from '../picture';
import { compile, frameCount, HELD_EPSILON } from '../retime';
import type { SteadyPath } from '../steady';
import { clipMap, frameSize, mapOf } from '../timeline/clip-map';
import type { Compared } from './compared';
import { pointsOfBodies, type ProgramPoints } from './points';
import { filmSmooths, keepPaths, pathsOf, smoothedBody, steadiesOf } from './steadies';
import { steadyOf } from './steady-of';
import { settingsThatCount, type TravellingSettings } from '../timeline/clip-settings';
import { containerFrames, layoutOf, type PlacedItem } from '../timeline/layout';
import { trackKindOf } from '../timeline/edit/insert';
import { findContainer, SEQUENCE } from '../timeline/lookup';

/** A clip as it is played: where it lies, which stretch of which map it shows, and those of its settings that change anything. */
export interface ProgramItem extends TravellingSettings {
  clipId: string;
  /** First output frame, and how many. */
  from: number;
  frames: number;
  map: RetimeMap;
  /** Output time of the map that stands at `from`. */
  at: number;
  of: Clip['of'];
  heard: boolean;
  /** How its source's frames are moved, by the key of `Program.steadies`. */
  steady?: string;
  /** Over which stretch; all of it unless told. */
  steadyOver?: Stretch;
  /** The same as the film says, where it does not say so itself: by the ids of the film's effects. */
  smoothed?: Readonly<Record<string, string>>;
  /** The stretch of it that is shown elsewhere: there its fades lie. All of it where it is not told. */
  faded?: { from: number; frames: number };
}

export interface ProgramTrack {
  kind: Track['kind'];
  /** In order, without overlap. */
  items: ProgramItem[];
  id?: string;
  /** How it sounds in the mix, where anything is set. */
  sound?: TrackSound;
}

/** Tracks that play together. */
export interface ProgramBody {
  rate: Rate;
  /** Output frames (real). */
  length: number;
  /** From the lowest picture upwards. */
  tracks: ProgramTrack[];
}

/**
 * All that is needed to play or render a sequence, a group or one clip, as plain data: what stage and renderer are given.
 * The bodies of groups stand beside it by their ids.
 */
export interface Program extends ProgramBody {
  groups: Readonly<Record<string, ProgramBody>>;
  /** The frame that pictures are laid in, groups' too; where there is none, a picture is seen as large as it fits. */
  frame?: Size;
  /** How large the sources' pictures are, by their ids; null for sound alone. */
  sizes: Readonly<Record<string, PictureSize | null>>;
  /** What becomes of the mix. */
  master?: Master;
  /** How pictures of all clips are made, over what the clips say. */
  exposures?: readonly ExposureStep[];
  /** What is done to them then. */
  effects?: readonly Effect[];
  /** How frames of sources are moved so that something in them stands still. */
  steadies?: Readonly<Record<string, SteadyPath>>;
  /** Where tracks are that effects go along with, by their ids. */
  points?: Readonly<Record<string, ProgramPoints>>;
  /** Two that are seen together in its place; what is heard is its own. */
  compared?: Compared;
}

function bodyOf(project: ProjectDocument, container: Container): ProgramBody {
  const tracks = container.tracks.filter(({ off }) => !off).map((track) => trackOf(project, container.rate, track));
  const ends = tracks.flatMap(({ items }) => items.slice(-1).map(({ from, frames }) => from + frames));
  return { rate: container.rate, length: Math.max(0, ...ends), tracks };
}

interface MadeTrack {
  sources: ProjectDocument['sources'];
  groups: ProjectDocument['groups'];
  rate: Rate;
  track: ProgramTrack;
}

// By the track's layout, which is another one as soon as a clip or its place is.
const made = new WeakMap<readonly PlacedItem[], MadeTrack>();

// Where each clip lay when it was last looked at: most lie where they did, and stay the same item.
const laid = new WeakMap<Clip, Omit<MadeTrack, 'track'> & { item: ProgramItem }>();

function trackOf(project: ProjectDocument, rate: Rate, track: Track): ProgramTrack {
  const { sources, groups } = project;
  const layout = layoutOf(project, track);
  const known = made.get(layout);
  if (
    known?.sources === sources &&
    known.groups === groups &&
    known.rate === rate &&
    known.track.kind === track.kind &&
    known.track.sound === track.sound
  )
    return known.track;
  const items = layout.flatMap(({ clip, from, to }): ProgramItem[] => {
    if (!clip) return [];
    // What is in a group may have become longer, and the clip that shows it is the same.
    const before = clip.of.kind === 'source' ? laid.get(clip) : undefined;
    const same = before?.sources === sources && before.groups === groups && before.rate === rate;
    if (same && before.item.from === from) return [before.item];
    const map = same ? before.item.map : clipMap(project, clip, rate);
    if (!map) return [];
    const item = itemOf(project, clip, map, from, to - from);
    laid.set(clip, { sources, groups, rate, item });
    return [item];
  });
  const program = { kind: track.kind, items, id: track.id, ...(track.sound && { sound: track.sound }) };
  made.set(layout, { sources, groups, rate, track: program });
  return program;
}

function itemOf(project: ProjectDocument, clip: Clip, map: RetimeMap, from: number, frames: number): ProgramItem {
  const steady = steadyOf(project, clip, map);
  const item: ProgramItem = {
    ...{ clipId: clip.id, from, frames, map, at: clip.shown.from, of: clip.of, heard: !clip.muted },
    ...settingsThatCount(clip),
    ...steady?.item,
  };
  if (steady) keepPaths(item, [steady.path]);
  return item;
}

const sizesOf = new WeakMap<ProjectDocument['sources'], Record<string, PictureSize | null>>();

// All sources', so that a program stays as it is while clips come and go.
function sourceSizes({ sources }: ProjectDocument): Record<string, PictureSize | null> {
  let sizes = sizesOf.get(sources);
  if (!sizes) {
    sizes = Object.fromEntries(sources.map(({ id, facts }) => [id, pictureOf(facts)]));
    sizesOf.set(sources, sizes);
  }
  return sizes;
}

// The bodies of all groups that a body reaches, at any depth.
function groupsOf(project: ProjectDocument, body: ProgramBody): Record<string, ProgramBody> {
  const groups: Record<string, ProgramBody> = {};
  const look = ({ tracks }: ProgramBody): void => {
    for (const { of } of tracks.flatMap(({ items }) => items)) {
      if (of.kind !== 'group' || groups[of.id]) continue;
      const container = findContainer(project, of.id);
      if (!container) continue;
      // As long as all its tracks are, those that are off too: what shows it counts its frames so.
      groups[of.id] = { ...bodyOf(project, container), length: containerFrames(project, container) };
      look(groups[of.id]!);
    }
  };
  look(body);
  return groups;
}

const programs = new WeakMap<ProjectDocument, Map<string, Program>>();

/** The program of the sequence or of a group; made once for each project object. */
export function programOf(project: ProjectDocument, containerId: string): Program {
  const made = programs.get(project) ?? new Map<string, Program>();
  programs.set(project, made);
  let program = made.get(containerId);
  if (!program) {
    const container = findContainer(project, containerId);
    const bare = container ? bodyOf(project, container) : { rate: project.sequence.rate, length: 0, tracks: [] };
    const { master, exposures, effects } = project.sequence;
    const whole = containerId === SEQUENCE && {
      ...(master && { master }),
      ...(exposures && { exposures }),
      ...(effects && { effects }),
    };
    const smooths = containerId === SEQUENCE ? filmSmooths(effects) : [];
    const smoothed = <T extends ProgramBody>(its: T, inFilm: boolean): T =>
      smooths.length > 0 ? smoothedBody(project, its, smooths, inFilm) : its;
    const body = smoothed(bare, true);
    const inside = Object.entries(groupsOf(project, bare)).map(([id, group]) => [id, smoothed(group, false)] as const);
    const groups = Object.fromEntries(inside);
    program = {
      ...body,
      groups,
      ...steadiesOf([body, ...Object.values(groups)]),
      ...pointsOfBodies(project, [body, ...Object.values(groups)]),
      frame: frameSize(project),
      sizes: sourceSizes(project),
      ...whole,
    };
    made.set(containerId, program);
  }
  return program;
}

/** Whether a clip's picture is one of the frame also where it is looked at by itself: a group's, and one of which a part is seen. */
export const isFramed = ({ of, effects }: Pick<Clip, 'of' | 'effects'>): boolean =>
  of.kind === 'group' || !!effects?.some(({ kind }) => kind === 'reframe' || kind === 'carry');

/**
 * The program of one clip: all of its timing, hidden handles included, and all of its picture, whatever the clip's picture
 * settings make of it on the timeline.
 */
export function clipProgram(project: ProjectDocument, clip: Clip, map = mapOf(project, clip)): Program {
  const whole = itemOf(project, clip, map, 0, frameCount(map));
  const { picture: _picture, ...bare } = whole;
  const item: ProgramItem = { ...bare, at: 0, heard: true, faded: clip.shown };
  keepPaths(item, pathsOf(whole));
  const body: ProgramBody = {
    rate: map.outputRate,
    length: compile(map).length,
    tracks: [{ kind: trackKindOf(project, clip), items: [item] }],
  };
  const frame = isFramed(clip) && { frame: frameSize(project) };
  const groups = groupsOf(project, body);
  const steadies = steadiesOf([body, ...Object.values(groups)]);
  const points = pointsOfBodies(project, [body, ...Object.values(groups)]);
  return { ...body, groups, sizes: sourceSizes(project), ...frame, ...steadies, ...points };
}

/**
 * The program of one source under a map, apart from any project: its picture with its sound, or its sound alone.
 *
 * @param settings what a clip may have set beside its timing
 */
export function mapProgram(
  map: RetimeMap,
  sourceId: string,
  kind: Track['kind'] = 'picture',
  settings: TravellingSettings & { steady?: SteadyPath } = {},
): Program {
  const { steady, ...travelling } = settings;
  const item = {
    ...travelling,
    ...(steady && { steady: steady.key }),
    clipId: sourceId,
    from: 0,
    frames: frameCount(map),
    map,
    at: 0,
    heard: true,
  };
  return {
    rate: map.outputRate,
    length: compile(map).length,
    tracks: [{ kind, items: [{ ...item, of: { kind: 'source', id: sourceId } }] }],
    groups: {},
    sizes: {},
    ...(steady && { steadies: { [steady.key]: steady } }),
  };
}

/** Whole output frames of a program. */
export function programFrames({ length }: ProgramBody): number {
  return Math.max(1, Math.ceil(length - HELD_EPSILON));
}

/** The sources a program shows or lets hear, each once. */
export function sourcesOf(program: Program): string[] {
  const programs = program.compared ? [program.compared.a, program.compared.b] : [program];
  const bodies = programs.flatMap((one) => [one, ...Object.values(one.groups)]);
  const items = bodies.flatMap(({ tracks }) => tracks.flatMap((track) => track.items));
  return [...new Set(items.flatMap(({ of }) => (of.kind === 'source' ? [of.id] : [])))];
}

/** Index of the item of a track that lies at an output time, −1 where none does; a rounding error before an item belongs to it. */
export function itemIndexAt({ items }: ProgramTrack, t: number): number {
  const time = t + HELD_EPSILON;
  let low = 0;
  let high = items.length - 1;
  while (low < high) {
    const middle = (low + high + 1) >> 1;
    if (items[middle]!.from <= time) low = middle;
    else high = middle - 1;
  }
  const item = items[low];
  return item && time >= item.from && time < item.from + item.frames ? low : -1;
}

/** The item that lies there, if one does. */
export function itemAt(track: ProgramTrack, t: number): ProgramItem | undefined {
  return track.items[itemIndexAt(track, t)];
}
