import type { ProjectDocument, RetimeMap, Span } from '@hastig/contract';
import {
  carryPins,
  compile,
  EditRefused,
  positionAt,
  positionBefore,
  rampSpan,
  spanTravel,
  tracked,
  speedAt,
  speedBefore,
  type Ease,
  type Keeps,
} from '../../retime';
import { replaceRange } from '../../retime/edit/range';
import { mapOf } from '../clip-map';
import { carryUp, withStoredTiming } from './length';
import { needClip } from './items';

/** How two clips are joined across their cut. */
interface Join {
  /** Output frames at the end of the first clip, and at the beginning of the second, that become ramps. */
  before: number;
  after: number;
  /** Speed both have at the cut; more than 0, a clip that runs backwards has it backwards. */
  speed: number;
  easeIn: Ease;
  easeOut: Ease;
  /**
   * `content`: the ramps pass what those frames passed, to within what one frame passes at the cut, so they last shorter;
   * `length`: they last as long, and the cut falls on other source frames.
   */
  keeps: Keeps;
}

/** A side of a cut with its ramp: the new map and what the clip shows of it. */
interface Side {
  map: RetimeMap;
  shown: { from: number; frames: number };
}

/** The clip that lies right behind another on its track, without a gap. */
export function nextClip(project: ProjectDocument, clipId: string): string | undefined {
  const { place } = needClip(project, clipId);
  const next = place.track.items[place.itemIndex + 1];
  return next && 'clip' in next ? next.clip : undefined;
}

/**
 * Joins two neighbouring clips across their cut: the last frames of the first run up to a speed, the first frames of the
 * second come down from it. All other timing of both stays.
 *
 * @throws EditRefused where the clips are no neighbours, too short, or stand still at the edges
 */
export function joinAcross(project: ProjectDocument, firstId: string, secondId: string, join: Join): ProjectDocument {
  const { clip: first, place } = needClip(project, firstId);
  const { clip: second } = needClip(project, secondId);
  if (nextClip(project, firstId) !== secondId) {
    throw new EditRefused('clips', 'Only adjacent clips can be joined. Close the gap between them first.');
  }
  if (!(join.speed > 0) || !Number.isFinite(join.speed)) throw new EditRefused('speed', 'must be more than 0');
  const up = runUp(tracked(mapOf(project, first)), first.shown, join);
  const down = comeDown(tracked(mapOf(project, second)), second.shown, join);
  const joined = [
    [firstId, up],
    [secondId, down],
  ].reduce((state, [id, side]) => {
    const { map, shown } = side as Side;
    return withStoredTiming(state, id as string, map, shown);
  }, project);
  return carryUp(project, joined, place.containerId);
}

// Whole frames a ramp lasts to pass about as much as was passed there before.
function rampFrames(join: Join, frames: number, perFrame: number, content: number): number {
  if (join.keeps === 'length') return frames;
  const lasts = content / perFrame;
  if (!(lasts > 0) || !Number.isFinite(lasts)) {
    throw new EditRefused(
      'speed',
      'These frames stand still or run the other way, so a ramp can’t cross them. Preserve the duration instead.',
    );
  }
  return Math.max(1, Math.round(lasts));
}

function checkFrames(field: string, frames: number, shown: { frames: number }): void {
  if (!Number.isInteger(frames) || frames < 1 || frames > shown.frames) {
    throw new EditRefused(field, `must be 1 to ${shown.frames} frames, as many as the clip shows`);
  }
}

// In a place longer than its timing a clip shows nothing at its end.
function refuseEmpty(field: string, { from, to }: { from: number; to: number }): void {
  if (!(from < to)) {
    throw new EditRefused(
      field,
      'The clip’s timing ends before the clip does, so it shows nothing there. Trim it first.',
    );
  }
}

const ramp =
  (from: number, to: number, ease: Ease) =>
  (frames: number): Span =>
    rampSpan(from, to, frames, ease);

// A ramp takes the place of what was promised inside it; what is promised after it moves with what follows.
function carriedPins(map: RetimeMap, range: { from: number; to: number }, frames: number): RetimeMap {
  return carryPins(map, (output) => {
    if (output <= range.from) return output;
    return output >= range.to ? output + frames - (range.to - range.from) : undefined;
  });
}

function runUp(map: RetimeMap, shown: Side['shown'], join: Join): Side {
  checkFrames('before', join.before, shown);
  const { length, ratio } = compile(map);
  const end = Math.min(shown.from + shown.frames, length);
  const range = { from: shown.from + shown.frames - join.before, to: end };
  refuseEmpty('before', range);
  const from = speedBefore(map, range.from);
  const span = ramp(from, Math.sign(from || 1) * join.speed, join.easeIn);
  const content = positionBefore(map, end) - positionAt(map, range.from);
  const frames = rampFrames(join, join.before, spanTravel(span(1), ratio), content);
  return {
    map: carriedPins(replaceRange(map, range, [span(frames)], 'follow'), range, frames),
    shown: { from: shown.from, frames: shown.frames - join.before + frames },
  };
}

function comeDown(map: RetimeMap, shown: Side['shown'], join: Join): Side {
  checkFrames('after', join.after, shown);
  const { length, ratio } = compile(map);
  // A last part of a frame is seen as a whole one.
  const range = { from: shown.from, to: Math.min(shown.from + join.after, length) };
  refuseEmpty('after', range);
  const to = speedAt(map, range.to);
  const span = ramp(Math.sign(to || 1) * join.speed, to, join.easeOut);
  const end = positionBefore(map, range.to);
  const frames = rampFrames(join, join.after, spanTravel(span(1), ratio), end - positionAt(map, range.from));
  const start = end - spanTravel(span(frames), ratio);
  return {
    map: carriedPins(replaceRange(map, range, [span(frames)], 'stay', start), range, frames),
    shown: { from: shown.from, frames: shown.frames - join.after + frames },
  };
}
