import type { PictureSettings, Rate } from '@hastig/contract';
import { rateRatio } from '../time';
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

/** One layer of a picture: a source's frame, or the layers of a group whose picture has settings of its own. */
export interface SeenLayer {
  of: SeenFrame | readonly SeenLayer[];
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

/** Output time of an item's map at an output time of what it lies in; undefined past the map's end. */
function timeIn(item: ProgramItem, t: number): number | undefined {
  const time = item.at + Math.max(0, t - item.from);
  return time < frameCount(item.map) ? time : undefined;
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

function layersIn(program: Program, body: ProgramBody, t: number): Layers {
  const layers: SeenLayer[] = [];
  let covers = false;
  // From above, down to what hides the rest: what is not seen need not be decoded.
  for (let index = body.tracks.length - 1; index >= 0 && !covers; index--) {
    const track = body.tracks[index]!;
    const item = track.kind === 'picture' ? itemAt(track, t) : undefined;
    if (!item) continue;
    const found = layersOf(program, item, t);
    layers.unshift(...found.layers);
    covers = found.covers;
  }
  return { layers, covers };
}

function layersOf(program: Program, item: ProgramItem, t: number): Layers {
  const { of, map, clipId, picture } = item;
  const time = timeIn(item, t);
  if (time === undefined) return NOTHING;
  const position = positionAt(map, time);
  const settings = picture && pictureKeys.now(picture, { output: time, source: position });
  if (settings?.opacity === 0) return NOTHING;
  if (of.kind === 'source') {
    const size = program.sizes[of.id];
    if (size === null) return NOTHING;
    return {
      layers: [{ of: frameAt(item, position), ...(settings && { settings }) }],
      covers: !size?.alpha && (!size || !program.frame || coversFrame(settings ?? plainPicture, size, program.frame)),
    };
  }
  const body = program.groups[of.id];
  const inside = body && body.length > 0 ? layersIn(program, body, heldPosition(position, body)) : NOTHING;
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
  const of = 'sourceId' in layer.of ? { ...layer.of, clipId } : layer.of.map((inner) => namedFor(clipId, inner));
  return { ...layer, of };
}

function frameAt({ of, map, clipId }: ProgramItem, position: number): SeenFrame {
  const frame = Math.floor(position + HELD_EPSILON);
  return { sourceId: of.id, frame: Math.min(Math.max(0, frame), map.sourceFrames - 1), clipId };
}

/** What is seen at an output time (frames, real): all picture tracks that have something there, unless one hides the rest. */
export function pictureAt(program: Program, t: number): SeenPicture {
  return layersIn(program, program, t).layers;
}

/** The source frames a picture is made of, from the lowest upwards. */
export function framesOf(picture: SeenPicture): SeenFrame[] {
  return picture.flatMap(({ of }) => ('sourceId' in of ? [of] : framesOf(of)));
}

/** The uppermost source frame of a picture: what a readout names. */
export function topFrame(picture: SeenPicture): SeenFrame | undefined {
  return framesOf(picture).at(-1);
}

/** The uppermost source frame that is seen at an output time (frames, real). */
export function seenAt(program: Program, t: number): SeenFrame | undefined {
  return topFrame(pictureAt(program, t));
}

/** What one item shows at an output time of what it lies in, as it lies in the frame, whatever lies above or beneath it. */
export function pictureBy(program: Program, item: ProgramItem, t: number): SeenPicture {
  return layersOf(program, item, t).layers;
}

/** Whether two pictures show the same, pixel for pixel, in frames of one size. */
export function samePicture(a: SeenPicture, b: SeenPicture): boolean {
  return (
    a.length === b.length &&
    a.every(({ of, settings }, index) => {
      const other = b[index]!;
      if (!sameSettings(settings, other.settings)) return false;
      if ('sourceId' in of) {
        return 'sourceId' in other.of && other.of.sourceId === of.sourceId && other.of.frame === of.frame;
      }
      return !('sourceId' in other.of) && samePicture(of, other.of);
    })
  );
}

/** The frame of a picture that is one source's frame as it lies by itself; undefined of any other. */
export function singleFrame(picture: SeenPicture): SeenFrame | undefined {
  const [layer] = picture;
  return picture.length === 1 && layer && !layer.settings && 'sourceId' in layer.of ? layer.of : undefined;
}

/**
 * The plan "held frame": each picture shows the source frame in which its moment lies.
 *
 * @param rate of the pictures; where it is not the program's, the moments are taken at the new rate and the length in
 *   seconds stays
 */
export function picturePlan(program: Program, rate: Rate = program.rate): PicturePlan {
  const step = rateRatio(program.rate, rate);
  return {
    count: Math.max(1, Math.ceil(program.length / step - HELD_EPSILON)),
    rate,
    at: (n) => pictureAt(program, n * step),
  };
}
