import {
  keptText,
  PROJECT_VERSION,
  type Clip,
  type ProjectDocument,
  type Rate,
  type SlowWay,
  type Source,
} from '@hastig/contract';
import { kindOf, pictureOf } from '../counting';
import { makeRate, rateRatio, rateToNumber } from '../time';
import { constantSpan } from '../retime';
import { sourceFrames, sourceRate } from '../timeline/clip-map';
import { appendClip } from '../timeline/edit/insert';
import { checkedName } from '../timeline/edit/name';
import { SEQUENCE } from '../timeline/lookup';
import { withSequenceRate } from './rates';

/**
 * Renames a project.
 *
 * @throws EditRefused for a name that is empty or too long
 */
export function renameProject(project: ProjectDocument, name: string): ProjectDocument {
  return { ...project, name: checkedName(name) };
}

/**
 * A project without footage. Its sequence takes the first source's rate and size when that is added.
 *
 * @param slow what slow parts of its new clips show; held unless given
 */
export function newProject(name: string, rate: Rate = makeRate(30), slow?: SlowWay): ProjectDocument {
  return {
    version: PROJECT_VERSION,
    name,
    defaults: { length: 'ripple', arrivals: 'lay', ...(slow && { slow }) },
    sequence: {
      rate,
      width: 1280,
      height: 720,
      sampleRate: 48_000,
      startFrame: 0,
      tracks: [{ id: 'picture-1', kind: 'picture', name: 'Picture', items: [] }],
      markers: [],
    },
    sources: [],
    groups: [],
    clips: [],
  };
}

/** Sequence rates above this are taken for slow-motion footage: the sequence gets half, a third … of it. */
const HIGHEST_SEQUENCE_RATE = 30;

/** The rate a sequence should have for footage of this rate: the same, or the rate divided down to at most 30. */
export function sequenceRateFor(source: Rate): Rate {
  const parts = Math.max(1, Math.ceil(source.num / source.den / HIGHEST_SEQUENCE_RATE - 1e-3));
  return makeRate(source.num, source.den * parts);
}

/** Seconds that a still lasts until it gets another length. */
const STILL_SECONDS = 5;

/**
 * A clip that shows a source at real time: its chosen part, or all of it; what lies outside the part are handles. A still is
 * held for some seconds.
 *
 * @param rate frames per second of what the clip will lie in
 */
export function wholeClip(project: ProjectDocument, id: string, source: Source, rate = project.sequence.rate): Clip {
  const passed = rateRatio(sourceRate(source), rate);
  const still = kindOf(source.facts) === 'still';
  const length = still ? Math.round(STILL_SECONDS * rateToNumber(rate)) : sourceFrames(source) / passed;
  const wholeFrames = Math.max(1, Math.ceil(length - 1e-6));
  const from = Math.min(wholeFrames - 1, Math.round((source.part?.from ?? 0) / passed));
  const frames = source.part ? Math.max(1, Math.round(source.part.frames / passed)) : wholeFrames;
  return {
    id,
    name: source.name.replace(/(?<=\S)\.[^.]+$/, ''),
    of: { kind: 'source', id: source.id },
    timing: { start: 0, spans: [constantSpan(still ? 0 : 1, length)] },
    shown: { from, frames: Math.min(frames, wholeFrames - from) },
    length: project.defaults.length,
    ...slowPartsOf(project, source),
  };
}

// Below the speed at which every frame is a real one, as the project wants it; above it, each is real anyway.
function slowPartsOf({ defaults: { slow } }: ProjectDocument, { facts }: Source): Pick<Clip, 'exposures'> {
  const moves = ['video', 'stills'].includes(kindOf(facts));
  return moves && slow && slow !== 'held' ? { exposures: [{ id: 'slow', slow }] } : {};
}

const even = (pixels: number): number => Math.max(16, pixels + (pixels % 2));

/** Something that comes in: a stored file with its name, and what was said of it on the way. */
type NewSource = Pick<Source, 'id' | 'name' | 'sha256' | 'facts' | 'readAs'>;

/**
 * The project with a source added (its name cut where it is too long for one) and, where the project lays what comes in, a clip
 * of it at the end of the timeline. The first picture decides the sequence's size, the first moving one its rate.
 */
export function addSource(project: ProjectDocument, { name, ...media }: NewSource, clipId: string): ProjectDocument {
  const source: Source = { ...media, name: keptText(name.trim()) || 'Clip' };
  const fitted = fittedTo(project, source);
  const added = { ...fitted, sources: [...fitted.sources, source] };
  if (project.defaults.arrivals === 'wait') return added;
  return appendClip(added, SEQUENCE, wholeClip(added, clipId, source));
}

function fittedTo(project: ProjectDocument, source: Source): ProjectDocument {
  const size = pictureOf(source.facts);
  const moves = ({ facts }: Source): boolean => ['video', 'stills'].includes(kindOf(facts));
  let { sequence } = project;
  if (size && project.sources.every(({ facts }) => !pictureOf(facts)))
    sequence = { ...sequence, width: even(size.width), height: even(size.height) };
  const sized = { ...project, sequence };
  if (!moves(source) || project.sources.some(moves)) return sized;
  return withSequenceRate(sized, sequenceRateFor(sourceRate(source)));
}
