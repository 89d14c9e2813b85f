import type { Marker, ProjectDocument, RetimeMap } from '@hastig/contract';
import {
  addSource,
  addSourceMarkers,
  assignMoments,
  bursts,
  findClip,
  compile,
  eases,
  landPairs,
  makeRate,
  mapOf,
  markersBeside,
  newProject,
  rateRatio,
  secondsPosition,
  splitAt,
  timesAt,
  timesOfMarkers,
  withSequenceRate,
  withTiming,
  setSpeed,
} from '@hastig/core';
import { music, pieces } from './music';
import type { DemoMedia } from './project';
import { scenes, type Scene } from './scenes';

const RATE = makeRate(24);
/** The set that strikes of marbles belong to. */
const STRIKES = 'Strikes';
/** Strikes softer than this, beside the hardest of a clip, are not marked. */
const SOFTEST = 0.25;

const sceneOf = (name: string): Scene => scenes.find((scene) => scene.name === name)!;

/** Where marbles strike, as markers of their clip; between frames too, for marbles do not wait for shutters. */
function strikes(name: string): Marker[] {
  const { fps, frames, marbles } = sceneOf(name);
  const impacts = marbles.flatMap((marble) => marble.impacts).sort((a, b) => a.time - b.time);
  const hardest = Math.max(...impacts.map(({ speed }) => speed));
  return impacts
    .filter(({ time, speed }) => time * fps < frames && speed >= SOFTEST * hardest)
    .map(({ time, speed }, index) => ({
      id: `strike-${name}-${index}`,
      at: time * fps,
      name: '',
      tone: 'clay',
      kind: 'moment',
      set: STRIKES,
      strength: speed / hardest,
    }));
}

function beatMarkers(project: ProjectDocument, sourceId: string): Marker[] {
  const source = project.sources.find(({ id }) => id === sourceId)!;
  return pieces.straight.beats.map((seconds, beat) => ({
    id: `beat-${beat}`,
    at: secondsPosition(source, seconds),
    name: '',
    tone: beat % 4 === 0 ? 'oak' : 'slate',
    kind: beat % 4 === 0 ? 'downbeat' : 'beat',
    set: 'Beats',
    strength: beat % 4 === 0 ? 1 : 0.7,
  }));
}

/** A clip whose strikes lie on beats: slowed first, then each strike on the beat that asks for the least change. */
function strikesOnBeats(project: ProjectDocument, name: string, speed: number): ProjectDocument {
  const clipId = `clip-${name}`;
  const map = mapOf(project, findClip(project, clipId)!);
  const slow = withTiming(project, clipId, setSpeed(map, { from: 0, to: compile(map).length }, speed, 'content'));
  const now = mapOf(slow, findClip(slow, clipId)!);
  const ratio = rateRatio(now.sourceRate, now.outputRate);
  const moments = strikes(name).map(({ at, strength = 0 }) => ({ at, strength }));
  const marks = timesOfMarkers(markersBeside(slow, clipId), 'Beats').map((at) => ({ at, strength: 1 }));
  const origin = { content: now.start, output: 0 };
  const pairs = assignMoments(moments, marks, { natural: ratio * speed, origin, perSecond: 24 });
  const landed = landPairs(
    now,
    pairs.map(({ moment, mark }) => ({ source: moments[moment]!.at, output: marks[mark]!.at })),
  );
  return withTiming(slow, clipId, endedInSource(landed));
}

/** A map that ends with its source: behind the last strike it runs on as fast as it led there. */
function endedInSource(map: RetimeMap): RetimeMap {
  const end = timesAt(map, map.sourceFrames - 1).at(-1)?.to;
  if (end === undefined || end >= compile(map).length) return map;
  const cut = splitAt(map, Math.floor(end));
  return { ...cut.map, spans: cut.map.spans.slice(0, cut.index) };
}

/** The workshop's clips in a row at real time, with music under them, its beats and the strikes of marbles marked. */
function besideMusic(projectName: string, media: Readonly<Record<string, DemoMedia>>): ProjectDocument {
  let project = newProject(projectName, RATE);
  const add = (name: string, title: string, file: string): void => {
    const stored = media[name];
    if (!stored) throw new Error(`the demo's ${name} is missing`);
    const source = { id: `source-${name}`, name: `${title}${file.slice(file.lastIndexOf('.'))}`, ...stored };
    const { defaults } = project;
    const arrivals = name === 'swinging' ? 'wait' : defaults.arrivals;
    project = { ...addSource({ ...project, defaults: { ...defaults, arrivals } }, source, `clip-${name}`), defaults };
  };
  for (const name of ['steps', 'bowl', 'drop']) add(name, sceneOf(name).title, '.mp4');
  for (const { name, title, file } of music) add(name, title, file);
  project = withSequenceRate(project, RATE);
  project = addSourceMarkers(project, 'source-straight', beatMarkers(project, 'source-straight'));
  for (const name of ['steps', 'drop']) project = addSourceMarkers(project, `source-${name}`, strikes(name));
  return project;
}

/** What a first path leads through: nothing of it is retimed yet. */
export const pathProject = (media: Readonly<Record<string, DemoMedia>>): ProjectDocument =>
  besideMusic('A first path', media);

/**
 * The demo's second project: the workshop's clips cut to music, so that marbles strike on its beats.
 *
 * @param media the stored files by the names of scenes and pieces of music
 */
export function beatProject(media: Readonly<Record<string, DemoMedia>>): ProjectDocument {
  let project = besideMusic('Marbles on the beat', media);
  project = strikesOnBeats(project, 'steps', 0.35);
  const bowl = mapOf(project, findClip(project, 'clip-bowl')!);
  const beats = timesOfMarkers(markersBeside(project, 'clip-bowl'), 'Beats').filter((_, index) => index % 2 === 0);
  const leaps = { base: 0.5, speeds: [4], frames: 4, place: 'from', ramp: 1, ease: eases['ease-in-out'] } as const;
  project = withTiming(
    project,
    'clip-bowl',
    bursts(bowl, { from: 0, to: compile(bowl).length }, beats, { ...leaps, keeps: 'content' }),
  );
  return strikesOnBeats(project, 'drop', 0.6);
}
