import {
  PROJECT_VERSION,
  type Clip,
  type MediaFacts,
  type ProjectDocument,
  type Rate,
  type RetimeMap,
  type Source,
} from '@hastig/contract';
import { makeRate, rateRatio } from '../time';
import { constantSpan, frameCount } from '../retime';

/** A project without footage. Its sequence takes the first source's rate when that is added. */
export function newProject(name: string, rate: Rate = makeRate(30)): ProjectDocument {
  return { version: PROJECT_VERSION, name, sequence: { rate }, sources: [], clips: [] };
}

/** Sequence rates above this are taken for slow-motion footage: the sequence gets half, a third … of it. */
const HIGHEST_SEQUENCE_RATE = 30;

/** The rate a sequence should have for footage of this rate: the same, or the rate divided down to at most 30. */
export function sequenceRateFor(source: Rate): Rate {
  const parts = Math.max(1, Math.ceil(source.num / source.den / HIGHEST_SEQUENCE_RATE - 1e-3));
  return makeRate(source.num, source.den * parts);
}

/** The rate at which a source's frames are taken: what it is read as, or the file's own. */
export function sourceRate(source: Source): Rate {
  return source.readAs ?? source.facts.video.rate;
}

/** A clip that shows the whole source at real time. */
export function wholeClip(id: string, source: Source, sequenceRate: Rate): Clip {
  const { frames } = source.facts.video;
  const length = frames / rateRatio(sourceRate(source), sequenceRate);
  return {
    id,
    name: source.name.replace(/\.[^.]+$/, ''),
    sourceId: source.id,
    timing: { start: 0, spans: [constantSpan(1, length)] },
  };
}

/** The project with a source added and, for it, a clip of its own. The first source decides the sequence's rate. */
export function addSource(
  project: ProjectDocument,
  source: { id: string; name: string; sha256: string; facts: MediaFacts },
  clipId: string,
): ProjectDocument {
  const sequence =
    project.sources.length === 0
      ? { ...project.sequence, rate: sequenceRateFor(source.facts.video.rate) }
      : project.sequence;
  return {
    ...project,
    sequence,
    sources: [...project.sources, source],
    clips: [...project.clips, wholeClip(clipId, source, sequence.rate)],
  };
}

/** The project without a source and the clips made of it. */
export function removeSource(project: ProjectDocument, sourceId: string): ProjectDocument {
  return {
    ...project,
    sources: project.sources.filter((source) => source.id !== sourceId),
    clips: project.clips.filter((clip) => clip.sourceId !== sourceId),
  };
}

export function findClip(project: ProjectDocument, clipId: string): Clip | undefined {
  return project.clips.find((clip) => clip.id === clipId);
}

export function findSource(project: ProjectDocument, sourceId: string): Source | undefined {
  return project.sources.find((source) => source.id === sourceId);
}

const maps = new WeakMap<Clip['timing'], { source: Source; rate: Rate; map: RetimeMap }>();

/**
 * A clip's retime map: its timing with the rates of its source and of the sequence. The same object as long
 * as none of them changes, so that what is computed from it is computed once.
 */
export function clipMap(clip: Clip, source: Source, sequenceRate: Rate): RetimeMap {
  const known = maps.get(clip.timing);
  if (known && known.source === source && known.rate === sequenceRate) return known.map;
  const { frames } = source.facts.video;
  const map: RetimeMap = {
    sourceRate: sourceRate(source),
    outputRate: sequenceRate,
    sourceFrames: frames,
    ...clip.timing,
  };
  maps.set(clip.timing, { source, rate: sequenceRate, map });
  return map;
}

/** The project with another timing for one clip. */
export function withTiming(project: ProjectDocument, clipId: string, map: RetimeMap | Clip['timing']): ProjectDocument {
  const { start, spans, pins } = map;
  const timing = { start, spans, ...(pins && { pins }) };
  return { ...project, clips: project.clips.map((clip) => (clip.id === clipId ? { ...clip, timing } : clip)) };
}

// All output times in proportion: speeds and contents stay.
function scaled(timing: Clip['timing'], factor: number): Clip['timing'] {
  const { pins } = timing;
  return {
    ...timing,
    spans: timing.spans.map((span) => ({ ...span, frames: span.frames * factor })),
    ...(pins && { pins: pins.map((pin) => ({ ...pin, output: pin.output * factor })) }),
  };
}

/**
 * The project at another sequence rate. Every clip keeps its speeds and its length in seconds, so the lengths of
 * its spans change with the rate.
 */
export function withSequenceRate(project: ProjectDocument, rate: Rate): ProjectDocument {
  const factor = rateRatio(rate, project.sequence.rate);
  return {
    ...project,
    sequence: { ...project.sequence, rate },
    clips: project.clips.map((clip) => ({ ...clip, timing: scaled(clip.timing, factor) })),
  };
}

/**
 * The project with a source's frames read at another rate than the file says: 120 fps read as 24 run five times slower
 * at 100 %. Its clips keep their frames and their speeds, so their lengths change.
 *
 * @param rate undefined for the file's own
 */
export function withReadAs(project: ProjectDocument, sourceId: string, rate: Rate | undefined): ProjectDocument {
  const source = findSource(project, sourceId);
  if (!source) return project;
  const { readAs: _old, ...rest } = source;
  const own = source.facts.video.rate;
  const read: Source = !rate || rateRatio(rate, own) === 1 ? rest : { ...rest, readAs: rate };
  const factor = rateRatio(sourceRate(source), sourceRate(read));
  return {
    ...project,
    sources: project.sources.map((one) => (one.id === sourceId ? read : one)),
    clips: project.clips.map((clip) =>
      clip.sourceId === sourceId ? { ...clip, timing: scaled(clip.timing, factor) } : clip,
    ),
  };
}

/** Whole output frames a clip shows. */
export function clipFrames(project: ProjectDocument, clip: Clip): number {
  const source = findSource(project, clip.sourceId);
  return source ? frameCount(clipMap(clip, source, project.sequence.rate)) : 0;
}
