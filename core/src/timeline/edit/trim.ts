import type { ProjectDocument, TrackItem, SoundSettings } from '@hastig/contract';
import {
  carryPins,
  constantSpan,
  EditRefused,
  frameCount,
  isConstantSpeed,
  mapLength,
  refuseEndless,
  slipMap,
} from '../../retime';
import { splitFade } from '../../sound';
import { withCarriedSettings } from '../clip-settings';
import { footageKind, mapOf } from '../clip-map';
import { carryUp } from './length';
import { needClip, needFrames, withClip, withItems } from './items';

/** What becomes of the room a trim or a removal makes: `close`, what follows moves up; `leave`, a gap stays. */
export type RippleMode = 'close' | 'leave';

/**
 * Cuts a clip in two at a frame of what it lies in. Both halves keep the whole timing and show their part of it, so
 * nothing that is seen changes, and each can be trimmed out again.
 *
 * @param newId of the second half
 */
export function splitClip(project: ProjectDocument, clipId: string, at: number, newId: string): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  const head = at - place.from;
  needFrames('at', at, 0);
  if (!(head > 0 && head < clip.shown.frames)) {
    throw new EditRefused('at', 'The playhead is outside the clip. Move it between the clip’s first and last frames.');
  }
  const { from, frames } = clip.shown;
  if (from + head >= frameCount(mapOf(project, clip))) {
    throw new EditRefused(
      'at',
      'The clip’s timing ends before this point, so it shows nothing here. Split it further left.',
    );
  }
  const [earlier, later] = halvedFades(clip.sound, head, frames);
  const second = {
    ...clip,
    id: newId,
    shown: { from: from + head, frames: frames - head },
    ...(later && { sound: later }),
  };
  const halved = withClip(project, clipId, (one) => ({
    ...one,
    shown: { from, frames: head },
    ...(earlier && { sound: earlier }),
  }));
  return withItems({ ...halved, clips: [...halved.clips, second] }, place.containerId, place.track.id, (items) =>
    items.toSpliced(place.itemIndex + 1, 0, { clip: newId }),
  );
}

// Each half keeps the fades of its own outer edge, and its part of one that it was cut in, so that nothing that is heard changes.
function halvedFades(
  sound: SoundSettings | undefined,
  head: number,
  frames: number,
): [SoundSettings | undefined, SoundSettings | undefined] {
  if (!sound) return [undefined, undefined];
  const { fadeIn, fadeOut, cross, ...rest } = sound;
  const [begins, goesOn] = fadeIn ? splitFade(fadeIn, head, frames) : [];
  const [ends, endsSoon] = fadeOut ? splitFade(fadeOut, frames - head, frames) : [];
  return [
    { ...rest, ...(begins && { fadeIn: begins }), ...(endsSoon && { fadeOut: endsSoon }), ...(cross && { cross }) },
    { ...rest, ...(goesOn && { fadeIn: goesOn }), ...(ends && { fadeOut: ends }) },
  ];
}

/** Frames by which each edge of a clip can be moved outwards before its timing ends. */
export function handlesOf(project: ProjectDocument, clipId: string): { head: number; tail: number } {
  const { clip } = needClip(project, clipId);
  const { from, frames } = clip.shown;
  return { head: from, tail: Math.max(0, frameCount(mapOf(project, clip)) - from - frames) };
}

/** Frames by which each edge of a clip can be moved outwards: its handles; a still is held as long as one likes. */
export function reachOf(project: ProjectDocument, clipId: string): { head: number; tail: number } {
  const { clip } = needClip(project, clipId);
  return footageKind(project, clip) === 'still' ? { head: Infinity, tail: Infinity } : handlesOf(project, clipId);
}

// A still with so many more frames hidden at an edge.
function heldLonger(project: ProjectDocument, clipId: string, side: 'start' | 'end', by: number): ProjectDocument {
  return withClip(project, clipId, (clip) => {
    const map = mapOf(project, clip);
    const edge = side === 'start' ? 0 : map.spans.length - 1;
    const span = map.spans[edge]!;
    refuseEndless(mapLength(map) + by);
    const held = isConstantSpeed(span) && span.y[0] === 0;
    const spans = held
      ? map.spans.with(edge, { ...span, frames: span.frames + by })
      : map.spans.toSpliced(side === 'start' ? 0 : edge + 1, 0, constantSpan(0, by));
    const before = side === 'start' ? by : 0;
    const { pins } = carryPins({ ...map, spans }, (output) => output + before);
    const timing = { ...clip.timing, spans, ...(pins && { pins }) };
    const carried = withCarriedSettings(clip, (output) => output + before);
    return { ...carried, timing, shown: { ...clip.shown, from: clip.shown.from + before } };
  });
}

/**
 * Moves an edge of a clip over its timing, which stays as it is: frames are hidden, or handles shown again. A still has as many
 * as are wanted.
 *
 * @param by frames the edge moves, positive to the right
 * @param room `close`: the clip's beginning stays, and what follows moves; `leave`: everything else stays where it is, a gap
 *   taking up or giving the room. Only as much as the gap beside the clip has room for
 */
export function trimClip(
  project: ProjectDocument,
  clipId: string,
  side: 'start' | 'end',
  by: number,
  rippleMode: RippleMode,
): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  if (!Number.isInteger(by)) throw new EditRefused('by', 'Edges move by whole frames.');
  const { head, tail } = handlesOf(project, clipId);
  const { from, frames } = clip.shown;
  const more = side === 'start' ? -by : by;
  const missing = more - (side === 'start' ? head : tail);
  if (missing > 0 && footageKind(project, clip) === 'still') {
    return trimClip(heldLonger(project, clipId, side, missing), clipId, side, by, rippleMode);
  }
  // Where a clip keeps a place longer than its timing, nothing is seen at its end.
  const seen = frameCount(mapOf(project, clip)) - from;
  if (frames + more < 1 || (side === 'start' && by >= seen)) {
    throw new EditRefused('by', 'A clip must keep at least one frame.');
  }
  const handle = side === 'start' ? head : tail;
  if (more > handle) {
    const words = handle === 1 ? 'There is 1 more frame' : `There are ${handle} more frames`;
    throw new EditRefused('by', `${words} at this edge.`);
  }
  const shown = side === 'start' ? { from: from + by, frames: frames - by } : { from, frames: frames + by };
  const trimmed = withClip(project, clipId, (one) => ({ ...one, shown }));
  if (rippleMode === 'close') return carryUp(project, trimmed, place.containerId);
  const { items } = place.track;
  const beside = side === 'start' ? place.itemIndex - 1 : place.itemIndex + 1;
  const neighbour: TrackItem | undefined = items[beside];
  const gap = neighbour && 'gap' in neighbour ? neighbour.gap : 0;
  // After the last clip there is room without end.
  const free = side === 'end' && place.itemIndex === items.length - 1 ? Infinity : gap;
  if (more > free) {
    throw new EditRefused('by', `Only ${free} frames are free beside the clip. Turn Ripple on instead.`);
  }
  const moved = withItems(trimmed, place.containerId, place.track.id, (row) => {
    if (gap > 0) return row.with(beside, { gap: gap - more });
    if (more >= 0) return row;
    return row.toSpliced(side === 'start' ? place.itemIndex : place.itemIndex + 1, 0, { gap: -more });
  });
  return carryUp(project, moved, place.containerId);
}

/**
 * What a slip moves: `content`, other source frames under the same curve; `timing`, content and curve together, so that
 * another stretch of the same timing is seen.
 */
export type SlipWay = 'content' | 'timing';

/**
 * Shows another stretch of what a clip is made of, in the same place and as long as before.
 *
 * @param by source frames (`content`) or output frames (`timing`); positive shows what comes later
 */
export function slipClip(project: ProjectDocument, clipId: string, by: number, way: SlipWay): ProjectDocument {
  const { clip } = needClip(project, clipId);
  if (footageKind(project, clip) === 'still') {
    throw new EditRefused('by', 'A still never changes, so it can’t be slipped.');
  }
  if (!Number.isFinite(by)) throw new EditRefused('by', 'must be a number of frames');
  if (way === 'content') {
    const { start, spans, pins } = slipMap(mapOf(project, clip), by);
    return withClip(project, clipId, (one) => ({ ...one, timing: { start, spans, ...(pins && { pins }) } }));
  }
  const { head, tail } = handlesOf(project, clipId);
  const rounded = Math.round(by);
  if (rounded < -head || rounded > tail) {
    throw new EditRefused('by', `The timing has ${head} frames before and ${tail} frames after the visible part.`);
  }
  return withClip(project, clipId, (one) => ({ ...one, shown: { ...one.shown, from: one.shown.from + rounded } }));
}
