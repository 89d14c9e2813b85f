import type { Marker, MediaFacts, ProjectDocument, RetimeMap } from '@hastig/contract';
import {
  addSource,
  addSourceMarkers,
  eases,
  freeze,
  makeRate,
  mapOf,
  newProject,
  ramp,
  reverseRange,
  setSpeed,
  withSequenceRate,
  withTiming,
} from '@hastig/core';
import { extras, SPOKEN_SLOWLY } from './extras';
import { scenes } from './scenes';

/** A stored file of the demo. */
export interface DemoMedia {
  sha256: string;
  facts: MediaFacts;
}

const RATE = makeRate(24);

/** Slow at the moment the marble leaves the ramp, then back to real time. */
function dropTiming(map: RetimeMap): RetimeMap {
  const slow = ramp(map, { at: 34, frames: 12, to: 0.4, ease: eases['ease-in-out'], keeps: 'content' });
  const slowFrames = 75;
  return ramp(slow, { at: 34 + slowFrames, frames: 18, to: 1, ease: eases['ease-in-out'], keeps: 'content' });
}

/** The 60 fps bowl on a 24 fps sequence: down to the real-frame floor, held for a moment, then back the way it came. */
function bowlTiming(map: RetimeMap): RetimeMap {
  const slow = setSpeed(map, { from: 40, to: 80 }, 0.4, 'content');
  const held = freeze(slow, 120, 12, 'content');
  return reverseRange(held, { from: 140, to: 164 });
}

/** The 120 fps steps: fast onto the first steps, then a fifth of real time, every frame a real one. */
function stepsTiming(map: RetimeMap): RetimeMap {
  const fast = setSpeed(map, { from: 0, to: 18 }, 2, 'content');
  return ramp(fast, { at: 14, frames: 10, to: 0.2, ease: eases['ease-out'], keeps: 'content' });
}

const timings: Record<string, (map: RetimeMap) => RetimeMap> = {
  drop: dropTiming,
  bowl: bowlTiming,
  steps: stepsTiming,
};

/** Where the spoken line is to be slowed from. */
const slowly: Marker = { id: 'marker-slowly', at: SPOKEN_SLOWLY, name: 'slowly', tone: 'oak' };

/**
 * The demo project: the workshop's clips, each with a timing to look at.
 *
 * @param media the stored files by scene name
 */
export function demoProject(media: Readonly<Record<string, DemoMedia>>): ProjectDocument {
  let project = newProject('Marble film', RATE);
  for (const scene of scenes) {
    const file = media[scene.name];
    if (!file) throw new Error(`the demo's clip ${scene.name} is missing`);
    const source = { id: `source-${scene.name}`, name: `${scene.title}.mp4`, ...file };
    // What the old camera took waits in the footage: how its fields are to be taken is chosen there. What shakes waits too.
    const { defaults } = project;
    const arrivals = scene.interlaced || scene.held ? 'wait' : defaults.arrivals;
    project = {
      ...addSource({ ...project, defaults: { ...defaults, arrivals } }, source, `clip-${scene.name}`),
      defaults,
    };
  }
  const { defaults } = project;
  for (const { name, title, file } of extras) {
    const stored = media[name];
    if (!stored) throw new Error(`the demo's ${name} is missing`);
    const source = { id: `source-${name}`, name: `${title}${file.slice(file.lastIndexOf('.'))}`, ...stored };
    const waiting = { ...project, defaults: { ...defaults, arrivals: 'wait' as const } };
    project = { ...addSource(waiting, source, `clip-${name}`), defaults };
    if (name === 'spoken') project = addSourceMarkers(project, source.id, [slowly]);
  }
  if (project.sequence.rate.num !== RATE.num) project = withSequenceRate(project, RATE);
  for (const clip of project.clips) {
    const shape = timings[clip.of.id.replace('source-', '')];
    if (shape) project = withTiming(project, clip.id, shape(mapOf(project, clip)));
  }
  return project;
}
