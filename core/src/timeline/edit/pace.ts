import type { Clip, ProjectDocument, Rate, RetimeMap, Timing } from '@hastig/contract';
import {
  carryPins,
  compile,
  EditRefused,
  pasteTiming,
  positionAt,
  positionBefore,
  splitAt,
  scaleSpan,
  tracked,
  type PasteHow,
} from '../../retime';
import { replaceRange } from '../../retime/edit/range';
import { mapOf } from '../clip-map';
import { layoutOf } from '../layout';
import { carryUp, withStoredTiming, withTiming } from './length';
import { needClip, needFrames, withItems } from './items';

/** Source frames that pass over what a clip shows, per output frame, over those at real time: its mean speed; 0 where it shows nothing. */
export function shownSpeed(project: ProjectDocument, clipId: string): number {
  const { clip, place } = needClip(project, clipId);
  return shownSpeedIn(project, clip, place.container.rate);
}

/**
 * The same of a clip whose place is known.
 *
 * @param rate of what it lies in
 */
export function shownSpeedIn(project: ProjectDocument, clip: Clip, rate: Rate): number {
  const map = mapOf(project, clip, rate);
  const known = shownSpeeds.get(clip);
  if (known?.map === map) return known.speed;
  const speed = meanShownSpeed(map, clip.shown);
  shownSpeeds.set(clip, { map, speed });
  return speed;
}

const shownSpeeds = new WeakMap<Clip, { map: RetimeMap; speed: number }>();

// Jumps inside pass nothing, so what passes is added up span by span.
function meanShownSpeed(map: RetimeMap, { from, frames }: { from: number; frames: number }): number {
  if (from >= compile(map).length) return 0;
  const cut = compile(splitAt(splitAt(map, from).map, Math.min(from + frames, compile(map).length)).map);
  let passed = 0;
  for (let index = 0; index < cut.count; index++) {
    const [start, end] = [cut.times[index]!, cut.times[index + 1]!];
    if (start >= from - 1e-9 && end <= from + frames + 1e-9)
      passed += positionBefore(cut, end) - positionAt(cut, start);
  }
  return passed / (cut.ratio * Math.min(frames, cut.length - from));
}

/**
 * Makes what a clip shows last a given number of frames: the same source frames, all speeds in proportion. Its hidden
 * handles stay as they are.
 *
 * @param frames at least 1, whole
 */
export function paceClip(project: ProjectDocument, clipId: string, frames: number): ProjectDocument {
  const { clip, place } = needClip(project, clipId);
  needFrames('frames', frames, 1);
  const map = tracked(mapOf(project, clip));
  const range = { from: clip.shown.from, to: Math.min(clip.shown.from + clip.shown.frames, compile(map).length) };
  if (!(range.from < range.to))
    throw new EditRefused('frames', 'The clip shows no frames, so its duration can’t change.');
  const inside = splitAt(splitAt(map, range.from).map, range.to);
  const { times } = compile(inside.map);
  const spans = inside.map.spans.filter(
    (_, index) => times[index]! >= range.from - 1e-9 && times[index]! < range.to - 1e-9,
  );
  // A last part of a frame belongs to the frame it is seen in: the whole frames are what is scaled.
  const factor = frames / (range.to - range.from);
  const paced = replaceRange(
    map,
    range,
    spans.map((span) => scaleSpan(span, factor)),
    'stay',
  );
  // What is promised inside the part goes along with its frames, what is promised after it moves with what follows.
  const carried = carryPins(paced, (output) => {
    if (output <= range.from) return output;
    return output >= range.to ? output + frames - (range.to - range.from) : range.from + (output - range.from) * factor;
  });
  const changed = withStoredTiming(project, clipId, carried, { from: clip.shown.from, frames });
  return carryUp(project, changed, place.containerId);
}

/**
 * Gives what a clip shows one mean speed; the shape of its curve stays, and its length follows, in whole frames.
 *
 * @param speed more than 0; backwards clips stay backwards
 */
export function speedClip(project: ProjectDocument, clipId: string, speed: number): ProjectDocument {
  if (!(speed > 0) || !Number.isFinite(speed)) throw new EditRefused('speed', 'must be more than 0');
  const { clip } = needClip(project, clipId);
  const now = Math.abs(shownSpeed(project, clipId));
  if (now < 1e-9)
    throw new EditRefused('speed', 'The clip is frozen, so it has no speed to change. Set its duration instead.');
  return paceClip(project, clipId, Math.max(1, Math.round((clip.shown.frames * now) / speed)));
}

/** A gap of a track, as something to fill. */
export interface Gap {
  trackId: string;
  from: number;
  frames: number;
}

/** The gaps of what a clip lies in, nearest to the clip first. */
export function gapsNear(project: ProjectDocument, clipId: string): Gap[] {
  const { place } = needClip(project, clipId);
  return place.container.tracks
    .filter(({ kind }) => kind === place.track.kind)
    .flatMap((track) =>
      layoutOf(project, track)
        .filter(({ clip }) => !clip)
        .map(({ from, to }) => ({ trackId: track.id, from, frames: to - from })),
    )
    .sort((a, b) => Math.abs(a.from - place.from) - Math.abs(b.from - place.from));
}

/** The mean speed a clip gets when it fills a gap: 150 frames into 209 at equal rates are 150/209. */
export function speedInGap(project: ProjectDocument, clipId: string, gap: Gap): number {
  const { clip } = needClip(project, clipId);
  return (shownSpeed(project, clipId) * clip.shown.frames) / gap.frames;
}

/** Moves a clip into a gap and makes it exactly as long; the place it leaves stays a gap. */
export function fillGap(project: ProjectDocument, clipId: string, gap: Gap): ProjectDocument {
  const { place } = needClip(project, clipId);
  const { containerId } = place;
  const track = place.container.tracks.find(({ id }) => id === gap.trackId);
  const under = track && layoutOf(project, track).find(({ from, clip }) => from === gap.from && !clip);
  if (!under || under.to - under.from !== gap.frames) throw new EditRefused('gap', 'This gap no longer exists.');
  const { clip } = needClip(project, clipId);
  const swapped = [...new Set([place.track.id, gap.trackId])].reduce(
    (state, trackId) =>
      withItems(state, containerId, trackId, (items) =>
        items.map((item, index) => {
          if ('clip' in item && item.clip === clipId) return { gap: clip.shown.frames };
          return trackId === gap.trackId && index === under.index ? { clip: clipId } : item;
        }),
      ),
    project,
  );
  return paceClip(swapped, clipId, gap.frames);
}

/** Gives clips a copied timing, each within its own content; see `pasteTiming`. */
export function pasteTimingOn(
  project: ProjectDocument,
  clipIds: readonly string[],
  copied: Timing,
  how: PasteHow,
): ProjectDocument {
  return clipIds.reduce((state, id) => {
    const { clip } = needClip(state, id);
    return withTiming(state, id, pasteTiming(tracked(mapOf(state, clip)), copied, how));
  }, project);
}
