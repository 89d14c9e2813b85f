import type { Clip, ProjectDocument } from '@hastig/contract';
import { constantSpan, EditRefused, positionAt } from '../retime';
import { rateToNumber } from '../time';
import { mapOf } from '../timeline/clip-map';
import { removeClips } from '../timeline/edit/arrange';
import { layOnSound } from '../timeline/edit/insert';
import { needClip, withClip } from '../timeline/edit/items';
import { findSource, placeOf } from '../timeline/lookup';
import { scaledClip } from './scaled-source';
import { secondsPosition } from './source-markers';
import { soundOf } from './sources';

/** What becomes of the timing of sound that is detached: the picture's, copied; or real time from where it begins. */
export type DetachedTiming = 'copied' | 'real';

/** The clip on a sound track that was a clip's sound, if it was detached and is still there. */
export function detachedSound(project: ProjectDocument, clipId: string): Clip | undefined {
  return project.clips.find(({ soundFrom }) => soundFrom === clipId);
}

/**
 * Makes a clip's sound a clip of its own, on a sound track under it, where it stays at its place; the picture's is muted.
 *
 * @param ids of the new clip, and of a track where none has room
 */
export function detachSound(
  project: ProjectDocument,
  clipId: string,
  timing: DetachedTiming,
  ids: { clip: string; track: string },
): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  if (source && !soundOf(source)) throw new EditRefused('clip', 'This clip has no sound.');
  if (place.track.kind === 'sound') throw new EditRefused('clip', 'This clip is on a sound track already.');
  if (detachedSound(project, clipId)) throw new EditRefused('clip', 'The sound of this clip is detached already.');
  const { picture: _picture, exposures: _exposures, effects: _effects, muted: _muted, ...rest } = clip;
  const { frames, from } = clip.shown;
  const own: Clip = { ...rest, id: ids.clip, soundFrom: clipId };
  if (timing === 'real') {
    own.timing = { start: positionAt(mapOf(project, clip), from), spans: [constantSpan(1, frames)] };
    own.shown = { from: 0, frames };
    delete own.sound;
    if (clip.sound) {
      const { parts: _parts, keys: _keys, ...settings } = clip.sound;
      own.sound = settings;
    }
  }
  const silent = withClip(project, clipId, ({ sound: _sound, ...one }) => ({ ...one, muted: true }));
  return layOnSound(silent, place.containerId, place.from, own, ids.track);
}

/** Takes a clip's detached sound away and lets its own be heard again, with the level and pitch the detached one had. */
export function attachSound(project: ProjectDocument, clipId: string): ProjectDocument {
  const detached = detachedSound(project, clipId);
  if (!detached) throw new EditRefused('clip', 'The sound of this clip is not detached.');
  const left = placeOf(project, detached.id) ? removeClips(project, [detached.id], 'leave') : project;
  return withClip(left, clipId, ({ muted: _muted, ...one }) => ({
    ...one,
    ...(detached.sound && { sound: detached.sound }),
  }));
}

/**
 * Puts other sound in the place of a clip's, at the clip's timing: a clip on a sound track gets another source, the sound of a
 * picture is detached and gets one.
 *
 * @param seconds of the other source that are heard with the first picture of the clip's own, negative where it begins later
 * @param ids of the new clip, and of a track where none has room
 */
export function replaceSound(
  project: ProjectDocument,
  clipId: string,
  sourceId: string,
  seconds: number,
  ids: { clip: string; track: string },
): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const other = findSource(project, sourceId);
  if (!other || !soundOf(other)) throw new EditRefused('source', 'This source has no sound.');
  const apart = place.track.kind === 'sound' ? clip : detachedSound(project, clipId);
  const target = apart?.id ?? ids.clip;
  const detached = apart ? project : detachSound(project, clipId, 'copied', ids);
  return withClip(detached, target, (one) => {
    const before = one.of.kind === 'source' ? findSource(project, one.of.id) : undefined;
    const perSecond = before ? secondsPosition(before, 1) : rateToNumber(mapOf(detached, one).sourceRate);
    const scaled = scaledClip(one, secondsPosition(other, 1) / perSecond);
    const by = secondsPosition(other, seconds);
    const { start, pins } = scaled.timing;
    const moved = pins?.map((pin) => ({ ...pin, source: pin.source + by }));
    return {
      ...scaled,
      of: { kind: 'source', id: sourceId },
      name: other.name.replace(/(?<=\S)\.[^.]+$/, ''),
      timing: { ...scaled.timing, start: start + by, ...(moved && { pins: moved }) },
    };
  });
}

/**
 * Moves a clip's sound against its picture, the timing as it is: to mend what is out of step.
 *
 * @param seconds later, or earlier where they are negative
 */
export function slipSound(project: ProjectDocument, clipId: string, seconds: number): ProjectDocument {
  const { clip } = needClip(project, clipId);
  const source = clip.of.kind === 'source' ? findSource(project, clip.of.id) : undefined;
  const positions = source ? secondsPosition(source, seconds) : seconds * rateToNumber(mapOf(project, clip).sourceRate);
  if (!Number.isFinite(positions)) throw new EditRefused('by', 'must be a number');
  // Past the ends of the source it is silent, which is no fault of sound.
  return withClip(project, clipId, (one) => {
    const { start, pins } = one.timing;
    const slipped = pins?.map((pin) => ({ ...pin, source: pin.source - positions }));
    return { ...one, timing: { ...one.timing, start: start - positions, ...(slipped && { pins: slipped }) } };
  });
}
