import type { PictureSettings, Rate } from '@hastig/contract';
import { rateRatio } from '../time';
import { framesExposed, instant, type Exposure } from '../exposure';
import { coversFrame, pictureKeys, plainPicture, sameSettings } from '../picture';
import { frameCount, HELD_EPSILON, positionAt } from '../retime';
import { itemAt, programFrames, type Program, type ProgramBody, type ProgramItem } from './program';

/** Which frame of which source is seen. */
export interface SeenFrame {
  sourceId: string;
  /** Source frame, clamped to the source. */
  frame: number;
  /** The clip of the outermost sequence or group that shows it. */
  clipId: string;
}

/** Several frames of one source in one exposure: their mean, in linear light. */
export interface SeenMean {
  /** In the order of the source; their weights add up to 1. */
  parts: readonly { seen: SeenFrame; weight: number }[];
}

/** What one source gives to a picture. */
export type SeenLeaf = SeenFrame | SeenMean;

const isMean = (of: SeenLeaf | readonly SeenLayer[]): of is SeenMean => 'parts' in of;
const isFrame = (of: SeenLeaf | readonly SeenLayer[]): of is SeenFrame => 'sourceId' in of;

/** One layer of a picture: what a source gives, or the layers of a group whose picture has settings of its own. */
export interface SeenLayer {
  of: SeenLeaf | readonly SeenLayer[];
  /** How it lies in the frame; in the middle, as large as it fits, where this is not there. */
  settings?: PictureSettings;
}

/** What is seen at a moment, from the lowest layer upwards; empty where nothing is. What nothing covers is black. */
export type SeenPicture = readonly SeenLayer[];

/** What each picture of a file or a preview shows. Data only; pixels are elsewhere. */
export interface PicturePlan {
  /** Number of pictures. */
  count: number;
  rate: Rate;
  /** What picture `n` shows, `0 ≤ n < count`. */
  at(n: number): SeenPicture;
}

/** Times of what is looked at, so many of its output frames after the shutter opens. */
type Times = (after: number) => number;

/** Output time of an item's map at an output time of what it lies in; undefined past the map's end. */
function timeIn(item: ProgramItem, t: number): number | undefined {
  const time = item.at + Math.max(0, t - item.from);
  return time < frameCount(item.map) ? time : undefined;
}

/** A little before the first moment at which something else is seen. */
const BEFORE_END = 1e-6;

// A cut ends an exposure: what comes after it is not mixed in.
function lastTime({ at, from, frames, map }: ProgramItem): number {
  return Math.min(from + frames, from + frameCount(map) - at) - BEFORE_END;
}

/**
 * The position inside a group, held at its first and last frame where the map runs out of it, as a source's is.
 *
 * Positions are composed as they are, real numbers through every level: nothing is rounded to a group's frames.
 */
function heldPosition(position: number, body: ProgramBody): number {
  if (position < 0) return 0;
  return position + HELD_EPSILON < body.length ? position : Math.max(0, programFrames(body) - 1);
}

/** Layers, and whether they leave nothing of the frame free and let nothing through. */
interface Layers {
  layers: readonly SeenLayer[];
  covers: boolean;
}

const NOTHING: Layers = { layers: [], covers: false };

function layersIn(program: Program, body: ProgramBody, times: Times, exposure: Exposure): Layers {
  const t = times(0);
  const layers: SeenLayer[] = [];
  let covers = false;
  // From above, down to what hides the rest: what is not seen need not be decoded.
  for (let index = body.tracks.length - 1; index >= 0 && !covers; index--) {
    const track = body.tracks[index]!;
    const item = track.kind === 'picture' ? itemAt(track, t) : undefined;
    if (!item) continue;
    const found = layersOf(program, item, times, exposure);
    layers.unshift(...found.layers);
    covers = found.covers;
  }
  return { layers, covers };
}

function layersOf(program: Program, item: ProgramItem, times: Times, exposure: Exposure): Layers {
  const { of, map, clipId, picture } = item;
  const time = timeIn(item, times(0));
  if (time === undefined) return NOTHING;
  const position = positionAt(map, time);
  const positions: Times = (after) =>
    after === 0 ? position : positionAt(map, timeIn(item, Math.min(times(after), lastTime(item))) ?? time);
  const settings = picture && pictureKeys.now(picture, { output: time, source: position });
  if (settings?.opacity === 0) return NOTHING;
  if (of.kind === 'source') {
    const size = program.sizes[of.id];
    if (size === null) return NOTHING;
    return {
      layers: [{ of: leafOf(item, positions, exposure), ...(settings && { settings }) }],
      covers: !size?.alpha && (!size || !program.frame || coversFrame(settings ?? plainPicture, size, program.frame)),
    };
  }
  const body = program.groups[of.id];
  const inside =
    body && body.length > 0
      ? layersIn(program, body, (after) => heldPosition(positions(after), body), exposure)
      : NOTHING;
  const layers = inside.layers.map((layer) => namedFor(clipId, layer));
  // A group that lies in its frame as it is by itself is no layer of its own.
  if (!settings || layers.length === 0) return { layers, covers: inside.covers };
  const { frame } = program;
  return {
    layers: [{ of: layers, settings }],
    covers: inside.covers && !!frame && coversFrame(settings, frame, frame),
  };
}

function namedFor(clipId: string, layer: SeenLayer): SeenLayer {
  const { of } = layer;
  if (isFrame(of)) return { ...layer, of: { ...of, clipId } };
  if (isMean(of)) {
    const parts = of.parts.map(({ seen, weight }) => ({ seen: { ...seen, clipId }, weight }));
    return { ...layer, of: { parts } };
  }
  return { ...layer, of: of.map((inner) => namedFor(clipId, inner)) };
}

function leafOf(item: ProgramItem, positions: Times, exposure: Exposure): SeenLeaf {
  if (exposure === instant) return frameAt(item, positions(0));
  const parts = framesExposed(positions, exposure, item.map.sourceFrames).map(({ frame, weight }) => ({
    seen: { sourceId: item.of.id, frame, clipId: item.clipId },
    weight,
  }));
  return parts.length === 1 ? parts[0]!.seen : { parts };
}

function frameAt({ of, map, clipId }: ProgramItem, position: number): SeenFrame {
  const frame = Math.floor(position + HELD_EPSILON);
  return { sourceId: of.id, frame: Math.min(Math.max(0, frame), map.sourceFrames - 1), clipId };
}

/** What is seen at an output time (frames, real): all picture tracks that have something there, unless one hides the rest. */
export function pictureAt(program: Program, t: number): SeenPicture {
  return layersIn(program, program, (after) => t + after, instant).layers;
}

/** What the sources give to a picture, from the lowest layer upwards. */
export function leavesOf(picture: SeenPicture): SeenLeaf[] {
  return picture.flatMap(({ of }) => (isFrame(of) || isMean(of) ? [of] : leavesOf(of)));
}

/** The frames that one source gives to a picture, in order. */
export const leafFrames = (leaf: SeenLeaf): SeenFrame[] => (isMean(leaf) ? leaf.parts.map(({ seen }) => seen) : [leaf]);

/** The source frames a picture is made of, from the lowest layer upwards. */
export function framesOf(picture: SeenPicture): SeenFrame[] {
  return leavesOf(picture).flatMap(leafFrames);
}

/** The frame that counts most of what a source gives. */
export function mainFrame(leaf: SeenLeaf): SeenFrame {
  if (!isMean(leaf)) return leaf;
  return leaf.parts.reduce((most, part) => (part.weight > most.weight ? part : most)).seen;
}

/** The uppermost source frame of a picture: what a readout names. */
export function topFrame(picture: SeenPicture): SeenFrame | undefined {
  const top = leavesOf(picture).at(-1);
  return top && mainFrame(top);
}

/** The uppermost source frame that is seen at an output time (frames, real). */
export function seenAt(program: Program, t: number): SeenFrame | undefined {
  return topFrame(pictureAt(program, t));
}

/** What one item shows at an output time of what it lies in, as it lies in the frame, whatever lies above or beneath it. */
export function pictureBy(program: Program, item: ProgramItem, t: number): SeenPicture {
  return layersOf(program, item, (after) => t + after, instant).layers;
}

/** Whether two pictures show the same, pixel for pixel, in frames of one size. */
export function samePicture(a: SeenPicture, b: SeenPicture): boolean {
  return (
    a.length === b.length &&
    a.every(({ of, settings }, index) => {
      const other = b[index]!;
      if (!sameSettings(settings, other.settings)) return false;
      if (isFrame(of) || isMean(of)) return (isFrame(other.of) || isMean(other.of)) && sameLeaf(of, other.of);
      return Array.isArray(other.of) && samePicture(of, other.of as SeenPicture);
    })
  );
}

const sameFrame = (a: SeenFrame, b: SeenFrame): boolean => a.sourceId === b.sourceId && a.frame === b.frame;

/** Whether two leaves show the same. */
export function sameLeaf(a: SeenLeaf, b: SeenLeaf): boolean {
  if (isFrame(a) || isFrame(b)) return isFrame(a) && isFrame(b) && sameFrame(a, b);
  return (
    a.parts.length === b.parts.length &&
    a.parts.every(({ seen, weight }, index) => {
      const other = b.parts[index]!;
      return sameFrame(seen, other.seen) && weight === other.weight;
    })
  );
}

/** What makes a picture that is one source's as it lies by itself; undefined of any other. */
export function singleLeaf(picture: SeenPicture): SeenLeaf | undefined {
  const [layer] = picture;
  if (picture.length !== 1 || !layer || layer.settings) return undefined;
  return isFrame(layer.of) || isMean(layer.of) ? layer.of : undefined;
}

/**
 * What each picture of a program shows. As an instant that is the source frame in which its moment lies; otherwise all that is exposed
 * while the shutter is open, from that moment on.
 *
 * @param rate of the pictures; where it is not the program's, the moments are taken at the new rate and the length in
 *   seconds stays
 * @param exposure its shutter is counted in pictures of the plan
 */
export function picturePlan(program: Program, rate: Rate = program.rate, exposure: Exposure = instant): PicturePlan {
  const how = isInstant(exposure) ? instant : exposure;
  const step = rateRatio(program.rate, rate);
  return {
    count: Math.max(1, Math.ceil(program.length / step - HELD_EPSILON)),
    rate,
    at: (n) => layersIn(program, program, (after) => (n + after) * step, how).layers,
  };
}

const isInstant = ({ slow, shutter }: Exposure): boolean => slow === 'held' && shutter <= 0;
