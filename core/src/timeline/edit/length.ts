import type { Clip, LengthMode, ProjectDocument, RetimeMap } from '@hastig/contract';
import {
  compile,
  constantSpan,
  frameCount,
  mapLength,
  positionAt,
  refuseEndless,
  timesMoved,
  timingOf,
  tracked,
  untracked,
} from '../../retime';
import { countsInOutput, withCarriedSettings } from '../clip-settings';
import { clipMap, mapOf } from '../clip-map';
import { containerFrames } from '../layout';
import { findGroup, placeOf, SEQUENCE } from '../lookup';
import { needClip, withClip } from './items';

/** Spans of fewer frames than this are rounding errors. */
const SAME = 1e-6;

/**
 * The stretch of a changed timing that a clip shows: its edges go where the edit put what stood there; an edge that lay at the
 * end of the timing lies there again.
 */
function movedStretch(
  before: RetimeMap,
  after: RetimeMap,
  shown: Clip['shown'],
  moved: (output: number) => number,
): Clip['shown'] {
  const [old, now] = [frameCount(before), frameCount(after)];
  const end = shown.from + shown.frames;
  const from = shown.from === 0 ? 0 : Math.round(moved(shown.from));
  const to = end >= old ? now + (end - old) : Math.round(moved(end));
  const first = Math.min(Math.max(0, from), Math.max(0, now - 1));
  return { from: first, frames: Math.max(1, to - first) };
}

/**
 * Gives a clip another timing, made by an edit of its `tracked` map: what is counted in its output goes along, see `timesMoved`.
 * With the length mode `ripple` the clip becomes as long as what it shows, and what
 * follows on its track moves; with `slot` it keeps its place, and the excess is hidden.
 */
export function withTiming(
  project: ProjectDocument,
  clipId: string,
  timing: RetimeMap | Clip['timing'],
): ProjectDocument {
  const { clip } = needClip(project, clipId);
  const before = mapOf(project, clip);
  const after: RetimeMap = { ...before, start: timing.start, spans: [...timing.spans] };
  refuseEndless(mapLength(after));
  const carriedTo = movedStretch(before, after, clip.shown, timesMoved(before, after));
  // In a slot the part begins where it began, as far as the new timing reaches there.
  const shown = clip.length === 'ripple' ? carriedTo : { from: carriedTo.from, frames: clip.shown.frames };
  const changed = withStoredTiming(project, clipId, timing, shown);
  return carryUp(project, changed, placeOf(project, clipId)!.containerId);
}

/** The same where it is known what the clip shows of its timing from then on. */
export function withStoredTiming(
  project: ProjectDocument,
  clipId: string,
  { start, spans, pins }: RetimeMap | Clip['timing'],
  shown: Clip['shown'],
): ProjectDocument {
  return withClip(project, clipId, (clip) => {
    const before = mapOf(project, clip);
    const carried = countsInOutput(clip)
      ? withCarriedSettings(clip, timesMoved(before, { ...before, start, spans: [...spans] }))
      : clip;
    const timing = { start, spans: untracked(spans), ...(pins && { pins }) };
    return { ...carried, timing, shown };
  });
}

export function withLengthMode(project: ProjectDocument, clipId: string, length: LengthMode): ProjectDocument {
  const { clip } = needClip(project, clipId);
  const map = mapOf(project, clip);
  // Nothing empty is shown any more once the clip takes the room it needs.
  const frames =
    length === 'ripple'
      ? Math.min(clip.shown.frames, Math.max(1, frameCount(map) - clip.shown.from))
      : clip.shown.frames;
  const changed = withClip(project, clipId, (one) => ({ ...one, length, shown: { ...one.shown, frames } }));
  return carryUp(project, changed, placeOf(project, clipId)!.containerId);
}

/**
 * What an edit inside a group means for the clips of that group, and so on upwards: a clip that began or ended at the end
 * of the group still does. A clip of a group that has not changed its length is left alone.
 *
 * @param before the project before the edit, `after` the one after it
 * @param containerId where the edit was made
 */
export function carryUp(before: ProjectDocument, after: ProjectDocument, containerId: string): ProjectDocument {
  if (containerId === SEQUENCE) return after;
  const [old, now] = [findGroup(before, containerId), findGroup(after, containerId)];
  if (!old || !now) return after;
  const change = { from: containerFrames(before, old), to: Math.max(1, containerFrames(after, now)) };
  if (change.from === change.to) return after;
  return after.clips
    .filter(({ of }) => of.kind === 'group' && of.id === containerId)
    .reduce((project, clip) => {
      const map = clipMap(before, before.clips.find(({ id }) => id === clip.id) ?? clip);
      return map ? withTiming(project, clip.id, regrown(tracked(map), change.from, change.to)) : project;
    }, after);
}

// A timing of a group whose length has changed: an end of it that met the group's end meets it again, at the same speed.
function regrown(map: RetimeMap, from: number, to: number): Clip['timing'] {
  const ready = compile(map);
  const timing = timingOf(map);
  const spans = timing.spans.slice();
  const [first, last] = [spans[0]!, spans.at(-1)!];
  const longer = (span: typeof first, by: number): typeof first | undefined => {
    const speed = span.y[0];
    const level = span.of === 'speed' && span.y.every((value) => value === speed);
    const frames = level && speed !== 0 ? span.frames + by / (ready.ratio * Math.abs(speed)) : 0;
    return frames > SAME ? { ...span, ...constantSpan(speed, frames) } : undefined;
  };
  if (last.y[3] > 0 && Math.abs(positionAt(ready, ready.length) - from) < SAME) {
    const grown = longer(last, to - from);
    if (grown) spans[spans.length - 1] = grown;
  }
  // Backwards it starts a frame before the end, or less where a frame of the output is less.
  if (first.y[0] < 0 && from - map.start <= 1 + SAME && from - map.start >= -SAME) {
    const grown = longer(first, to - from);
    if (grown) {
      spans[0] = grown;
      return { ...timing, start: map.start + to - from, spans };
    }
  }
  return { ...timing, spans };
}
