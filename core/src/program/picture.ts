import { AUTO_SAMPLES, type ExposureStep, type PictureSettings, type Rate } from '@hastig/contract';
import { rateRatio } from '../time';
import {
  exposureOf,
  framesExposed,
  holdsAt,
  instant,
  momentsOf,
  NEAR,
  openShare,
  wishOf,
  type Exposure,
  type ExposureWish,
} from '../exposure';
import { coversFrame, pictureCorners, pictureKeys, plainPicture, sameSettings, type Size } from '../picture';
import { frameCount, HELD_EPSILON, positionAt } from '../retime';
import { itemAt, programFrames, type Program, type ProgramBody, type ProgramItem } from './program';
import { namedFor, topFrame, type SeenFrame, type SeenLayer, type SeenLeaf, type SeenPicture } from './seen';

/** What each picture of a file or a preview shows. Data only; pixels are elsewhere. */
export interface PicturePlan {
  /** Number of pictures. */
  count: number;
  rate: Rate;
  /** What picture `n` shows, `0 ≤ n < count`. */
  at(n: number): SeenPicture;
}

/** How one looks at what plays. */
interface Looking {
  /** Times of what is looked at, so many pictures after the shutter opens. */
  times(after: number): number;
  /** Pictures in a second. */
  rate: Rate;
  /** What is wished further outside; it counts over what is wished further inside. */
  wish: ExposureWish;
  /** What the film says of all its clips at this moment: it depends on how fast each is. */
  film: readonly ExposureStep[];
}

/** As an instant of all frames, whatever anybody wishes. */
const INSTANT: ExposureWish = { slow: 'held', shutter: 0, every: { frames: 1 }, keys: false, evenLight: false };

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

function layersIn(program: Program, body: ProgramBody, looking: Looking): Layers {
  const t = looking.times(0);
  const layers: SeenLayer[] = [];
  let covers = false;
  // From above, down to what hides the rest: what is not seen need not be decoded.
  for (let index = body.tracks.length - 1; index >= 0 && !covers; index--) {
    const track = body.tracks[index]!;
    const item = track.kind === 'picture' ? itemAt(track, t) : undefined;
    if (!item) continue;
    const found = layersOf(program, item, looking);
    layers.unshift(...found.layers);
    covers = found.covers;
  }
  return { layers, covers };
}

function layersOf(program: Program, item: ProgramItem, looking: Looking): Layers {
  const { picture, of } = item;
  const { times } = looking;
  const opened = timeIn(item, times(0));
  if (opened === undefined) return NOTHING;
  const timeAfter = (after: number): number =>
    after === 0 ? opened : (timeIn(item, Math.min(times(after), lastTime(item))) ?? opened);
  const positionAfter = (after: number): number => positionAt(item.map, timeAfter(after));
  const wish = wishIn(item, opened, positionAfter, looking);
  const settingsAfter = (after: number): PictureSettings | undefined =>
    picture && pictureKeys.now(picture, { output: timeAfter(after), source: positionAfter(after) });
  const exposure = exposureOf(wish);
  if (movesWithin(settingsAfter, exposure, !!picture?.keys)) {
    const size = of.kind === 'source' ? (program.sizes[of.id] ?? undefined) : program.frame;
    const moments = momentsWithin(exposure, settingsAfter, size, program.frame);
    return blurred(moments, exposure, (after) =>
      shownBy(program, item, settingsAfter(after), (later) => positionAfter(after + later), {
        ...looking,
        wish: { ...wish, shutter: 0 },
      }),
    );
  }
  return shownBy(program, item, settingsAfter(0), positionAfter, { ...looking, wish });
}

/** What an item shows that lies as some settings say. */
function shownBy(
  program: Program,
  item: ProgramItem,
  settings: PictureSettings | undefined,
  positionAfter: (after: number) => number,
  { wish, rate }: Looking,
): Layers {
  const { of, clipId } = item;
  if (settings?.opacity === 0) return NOTHING;
  if (of.kind === 'source') {
    const size = program.sizes[of.id];
    if (size === null) return NOTHING;
    return {
      layers: [{ of: leafOf(item, positionAfter, exposureOf(wish)), ...(settings && { settings }) }],
      covers: !size?.alpha && (!size || !program.frame || coversFrame(settings ?? plainPicture, size, program.frame)),
    };
  }
  const body = program.groups[of.id];
  const times = (after: number): number => heldPosition(positionAfter(after), body!);
  const inside = body && body.length > 0 ? layersIn(program, body, { times, rate, wish, film: [] }) : NOTHING;
  const layers = inside.layers.map((layer) => namedFor(clipId, layer));
  // A group that lies in its frame as it is by itself is no layer of its own.
  if (!settings || layers.length === 0) return { layers, covers: inside.covers };
  const { frame } = program;
  return {
    layers: [{ of: layers, settings }],
    covers: inside.covers && !!frame && coversFrame(settings, frame, frame),
  };
}

/** What is wished of an item's pictures: by its own steps, over them by the film's, and over them from further outside. */
function wishIn(
  { exposures, map }: ProgramItem,
  time: number,
  positionAfter: (after: number) => number,
  { wish, film, rate }: Looking,
): ExposureWish {
  const moment = { output: time, source: positionAfter(0) };
  const own = exposures?.filter((step) => holdsAt(step, moment)) ?? [];
  if (own.length === 0 && film.length === 0) return wish;
  const speed = ((positionAfter(NEAR) - positionAfter(0)) / NEAR) * rateRatio(rate, map.sourceRate);
  return { ...wishOf(own, speed), ...wishOf(film, speed), ...wish };
}

/** Whether a picture lies otherwise at some moment of an exposure than when the shutter opens. */
function movesWithin(
  settingsAfter: (after: number) => PictureSettings | undefined,
  exposure: Exposure,
  keyed: boolean,
): boolean {
  const open = openShare(exposure);
  if (!keyed || open === 0) return false;
  const first = settingsAfter(0);
  return [0.5, 1].some((part) => !sameSettings(first, settingsAfter(part * open)));
}

/** Pixels of the frame by which a corner moves from one moment to the next where moments follow movement. */
const CORNER_STEP = 1.5;

/** At how many moments a picture is looked at that moves in its frame: as many as are told, or as its corners' way asks for. */
function momentsWithin(
  exposure: Exposure,
  settingsAfter: (after: number) => PictureSettings | undefined,
  size: Size | undefined,
  frame: Size | undefined,
): number {
  const most = momentsOf(exposure);
  if (exposure.samples !== AUTO_SAMPLES || !size || !frame) return most;
  const places = [0, 0.25, 0.5, 0.75, 1].map((part) =>
    pictureCorners(settingsAfter(part * openShare(exposure)) ?? plainPicture, size, frame),
  );
  const ways = places[0]!.map((_, corner) =>
    places.slice(1).reduce((way, corners, index) => {
      const [a, b] = [places[index]![corner]!, corners[corner]!];
      return way + Math.hypot(b.x - a.x, b.y - a.y);
    }, 0),
  );
  return Math.min(most, Math.max(FEWEST_MOMENTS, Math.ceil(Math.max(...ways) / CORNER_STEP)));
}

/** Also where only what is seen through changes. */
const FEWEST_MOMENTS = 8;

/** The mean of what is seen at the moments of an exposure. */
function blurred(samples: number, exposure: Exposure, at: (after: number) => Layers): Layers {
  const moments: { layers: SeenPicture; weight: number }[] = [];
  let covers = true;
  for (let moment = 0; moment < samples; moment++) {
    const seen = at(((moment + 0.5) / samples) * openShare(exposure));
    covers &&= seen.covers;
    moments.push({ layers: seen.layers, weight: 1 / samples });
  }
  return moments.some(({ layers }) => layers.length > 0) ? { layers: [{ of: { moments } }], covers } : NOTHING;
}

function leafOf(item: ProgramItem, positionAfter: (after: number) => number, exposure: Exposure): SeenLeaf {
  const { of, clipId, map } = item;
  if (exposure === instant) return frameAt(item, positionAfter(0));
  const parts = framesExposed(positionAfter, exposure, map.sourceFrames).map(({ weight, ...part }) => ({
    seen: { sourceId: of.id, ...part, clipId },
    weight,
  }));
  const { evenLight, samples, every } = exposure;
  if (parts.length === 1 && !evenLight) return parts[0]!.seen;
  const auto = samples === AUTO_SAMPLES && parts.length > 1 && parts.some(({ seen }) => seen.share !== undefined);
  return { parts, ...(auto && { auto }), ...(evenLight && { evenLight: every?.frames ?? 1 }) };
}

function frameAt({ of, map, clipId }: ProgramItem, position: number): SeenFrame {
  const frame = Math.floor(position + HELD_EPSILON);
  return { sourceId: of.id, frame: Math.min(Math.max(0, frame), map.sourceFrames - 1), clipId };
}

/** The film's steps that hold at one of its frames. */
function filmAt({ exposures }: Program, t: number): readonly ExposureStep[] {
  return exposures?.filter((step) => holdsAt(step, { output: t, source: t })) ?? [];
}

const lookingAt = (program: Program, t: number): Looking => ({
  ...{ times: (after) => t + after, rate: program.rate, wish: INSTANT, film: [] },
});

/**
 * What stands at an output time (frames, real), as an instant: all picture tracks that have something there, unless one hides the
 * rest.
 */
export function pictureAt(program: Program, t: number): SeenPicture {
  return layersIn(program, program, lookingAt(program, t)).layers;
}

/** The uppermost source frame that stands at an output time (frames, real). */
export function seenAt(program: Program, t: number): SeenFrame | undefined {
  return topFrame(pictureAt(program, t));
}

/** What one item shows at an output time of what it lies in, as it lies in the frame, whatever lies above or beneath it. */
export function pictureBy(program: Program, item: ProgramItem, t: number): SeenPicture {
  return layersOf(program, item, lookingAt(program, t)).layers;
}

/**
 * What each picture of a program shows: what is exposed while the shutter is open, from its moment on, as clips and film say; as an
 * instant, the source frame in which the moment lies.
 *
 * @param rate of the pictures; where it is not the program's, the moments are taken at the new rate and the length in
 *   seconds stays
 * @param wish counts over what clips and film say; its shutter, as theirs, is counted in pictures of the plan
 */
export function picturePlan(program: Program, rate: Rate = program.rate, wish: ExposureWish = {}): PicturePlan {
  const step = rateRatio(program.rate, rate);
  return {
    count: Math.max(1, Math.ceil(program.length / step - HELD_EPSILON)),
    rate,
    at: (n) => {
      const times = (after: number): number => (n + after) * step;
      return layersIn(program, program, { times, rate, wish, film: filmAt(program, times(0)) }).layers;
    },
  };
}

/** The same as instants, which can be shown as soon as their frames are decoded. */
export const instantPlan = (program: Program, rate?: Rate): PicturePlan => picturePlan(program, rate, INSTANT);

/** Whether anything of a program asks for more than instants. */
export function isExposed(program: Program): boolean {
  const bodies = [program, ...Object.values(program.groups)];
  return (
    !!program.exposures ||
    bodies.some(({ tracks }) => tracks.some(({ items }) => items.some(({ exposures }) => exposures)))
  );
}
