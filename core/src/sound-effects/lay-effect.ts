import type { Clip, Marker, ProjectDocument, Rate, RetimeMap, Source } from '@hastig/contract';
import { addSource, wholeClip } from '../project/document';
import { addSourceMarkers, positionSeconds, secondsPosition } from '../project/source-markers';
import { compile, constantSpan, EditRefused, positionAt, timesAt } from '../retime';
import { plainSound } from '../sound/settings';
import { rateToNumber } from '../time';
import { mapOf, sourceFrames } from '../timeline/clip-map';
import { removeClips } from '../timeline/edit/arrange';
import { layOnSound } from '../timeline/edit/insert';
import { needClip } from '../timeline/edit/items';
import { findContainer, findSource } from '../timeline/lookup';
import type { Target } from './targets';

/** The set of markers that says where an effect begins to rise and where it is loudest, and their names. */
const EFFECT_SET = 'Effect';
const RISE = 'Rise';
const LOUDEST = 'Loudest';

/** Seconds of an effect: where it begins to rise, and where it is loudest. */
interface EffectMoments {
  rise: number;
  loudest: number;
}

/**
 * The moments of a source that is an effect. They are markers like any others, so any sound can be made one by hand: the loudest
 * is the marker “Loudest” or else the strongest; it begins to rise at the marker “Rise” or else at its start.
 *
 * @returns undefined for a source without markers
 */
export function effectMoments(source: Source): EffectMoments | undefined {
  const markers = source.markers ?? [];
  const named = (name: string): Marker | undefined => markers.find((marker) => marker.name === name);
  const strongest = markers.toSorted((a, b) => (b.strength ?? 0) - (a.strength ?? 0))[0];
  const loudest = named(LOUDEST) ?? strongest;
  if (!loudest) return undefined;
  const rise = named(RISE);
  return { rise: rise ? positionSeconds(source, rise.at) : 0, loudest: positionSeconds(source, loudest.at) };
}

type NewSource = Parameters<typeof addSource>[1];

/** The project with a file added that is an effect; no clip of it is laid. */
export function addEffectSource(
  project: ProjectDocument,
  file: NewSource,
  { rise, loudest }: EffectMoments,
  newId: () => string,
): ProjectDocument {
  const waiting = { ...project, defaults: { ...project.defaults, arrivals: 'wait' as const } };
  const added = { ...addSource(waiting, file, newId()), defaults: project.defaults };
  const source = findSource(added, file.id)!;
  const marker = (name: string, seconds: number, strength: number): Marker => ({
    id: newId(),
    at: Math.min(sourceFrames(source), secondsPosition(source, seconds)),
    ...{ name, tone: 'slate', kind: 'hit', set: EFFECT_SET, strength },
  });
  return addSourceMarkers(added, source.id, [marker(RISE, rise, 0), marker(LOUDEST, loudest, 1)]);
}

interface Laying {
  /** Whether the effect's rise is stretched to last as long as the ramp up to each target that has one. */
  follow: boolean;
  /** The track it is to lie on, if that is a sound track and free there. */
  track?: string;
  newId(): string;
}

/** A clip's map in what it will lie in, for it lies nowhere yet. */
const mapIn = (project: ProjectDocument, clip: Clip, outputRate: Rate): RetimeMap => ({
  ...mapOf(project, clip),
  outputRate,
});

/**
 * A clip moved so that a position of its source is seen exactly on a frame: to whole frames by its place, the rest by a slip of its
 * content, which is less than a frame.
 *
 * @returns the clip, and the frame it is to be laid at
 */
function onFrame(map: RetimeMap, clip: Clip, position: number, frame: number): { clip: Clip; at: number } {
  const [first] = timesAt(map, position);
  if (!first) throw new EditRefused('clip', 'This clip doesn’t show the sound’s loudest moment. Extend it first.');
  const whole = Math.floor(first.from + 1e-9);
  const slip = position - positionAt(compile(map), whole);
  const timing = { ...clip.timing, start: clip.timing.start + slip };
  const hidden = Math.max(clip.shown.from, whole - frame);
  const shown = { from: hidden, frames: clip.shown.frames - (hidden - clip.shown.from) };
  // What would begin before the film begins is cut off there.
  if (!(shown.frames > 0))
    throw new EditRefused('frame', 'This clip would end before the timeline starts. Choose a later frame.');
  return { clip: { ...clip, timing, shown }, at: frame - (whole - hidden) };
}

/** A clip whose rise lasts as long as the ramp up to a target, then goes on in real time. */
function followingClip(clip: Clip, source: Source, outputRate: Rate, ramp: number): Clip {
  const rate = rateToNumber(outputRate);
  const { rise, loudest } = effectMoments(source)!;
  const frames = (loudest - rise) * rate;
  const rest = Math.max(1, (sourceFrames(source) / secondsPosition(source, 1) - loudest) * rate);
  return {
    ...clip,
    timing: {
      start: secondsPosition(source, rise),
      spans: [constantSpan(frames / ramp, ramp), constantSpan(1, rest)],
    },
    shown: { from: 0, frames: Math.max(1, Math.ceil(ramp + rest - 1e-6)) },
    // Air that lasts longer is not to sound deeper.
    sound: { ...(clip.sound ?? plainSound), pitch: 'kept' },
  };
}

function laidOn(project: ProjectDocument, containerId: string, clip: Clip, target: Target, laying: Laying) {
  const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const moments = source && effectMoments(source);
  if (!source || !moments)
    throw new EditRefused('clip', 'Add a marker named Loudest at this sound’s loudest moment first.');
  const ramp = target.frame - (target.rampFrom ?? target.frame);
  const { rate } = findContainer(project, containerId)!;
  const fitted = laying.follow && ramp > 0 ? followingClip(clip, source, rate, ramp) : clip;
  const loudest = secondsPosition(source, moments.loudest);
  const { clip: moved, at } = onFrame(mapIn(project, fitted, rate), fitted, loudest, target.frame);
  return layOnSound(project, containerId, at, moved, laying.newId(), laying.track);
}

/** Lays a clip of a source that is an effect on each target, its loudest moment exactly there, on sound tracks that are free. */
export function layEffect(
  project: ProjectDocument,
  containerId: string,
  sourceId: string,
  targets: readonly Target[],
  laying: Laying,
): ProjectDocument {
  const source = findSource(project, sourceId);
  const container = findContainer(project, containerId);
  if (!source || !container) throw new EditRefused('source', 'This source isn’t in the project.');
  if (targets.length === 0) throw new EditRefused('targets', 'There is nothing to align it with.');
  return targets.reduce((state, target) => {
    const clip = wholeClip(state, laying.newId(), source, container.rate);
    return laidOn(state, containerId, clip, target, laying);
  }, project);
}

/** Moves a clip so that its loudest moment is exactly on the first target, and lays copies of it on all others. */
export function alignWithTargets(
  project: ProjectDocument,
  clipId: string,
  targets: readonly Target[],
  laying: Laying,
): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const [first, ...others] = targets;
  if (!first) throw new EditRefused('targets', 'There is nothing to align it with.');
  if (place.track.kind !== 'sound') throw new EditRefused('clip', 'Only a clip on a sound track can be aligned.');
  const moved = laidOn(removeClips(project, [clipId], 'leave'), place.containerId, clip, first, laying);
  return others.reduce(
    (state, target) => laidOn(state, place.containerId, { ...clip, id: laying.newId() }, target, laying),
    moved,
  );
}
