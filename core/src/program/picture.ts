import { AUTO_SAMPLES, type Effect, type ExposureStep, type PictureSettings, type Rate } from '@hastig/contract';
import { effectsOn, holdsFor } from '../effects';
import { rateRatio } from '../time';
import {
  exposureOf,
  framesExposed,
  holdsAt,
  instant,
  NEAR,
  wishOf,
  type Exposure,
  type ExposureWish,
} from '../exposure';
import { coversFrame, pictureKeys, plainPicture, type Point } from '../picture';
import type { ClipMoment } from '../values';
import { frameCount, HELD_EPSILON, positionAt } from '../retime';
import { effectChain, isDrafted, NOTHING, type EffectChain, type Layers, type Seen } from './apply-effects';
import { exposedMoves, type Move } from './blur';
import { comparedAt, type ComparedLook } from './compared';
import { carrierAt, pointInFrame } from './points';
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
  /** What the film does to all its clips at this moment. */
  effects: readonly Effect[];
  /** Those of the film's effects that smooth cameras at this moment, by their ids; in groups too. */
  smooths: readonly string[];
  /** As a draft: what takes long is left out. */
  draft: boolean;
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

function layersIn(program: Program, body: ProgramBody, looking: Looking): Layers {
  const t = looking.times(0);
  const layers: SeenLayer[] = [];
  let covers = false;
  // From above, down to what hides the rest: what is not seen need not be decoded.
  for (let index = body.tracks.length - 1; index >= 0 && !covers; index--) {
    const track = body.tracks[index]!;
    const item = track.kind === 'picture' ? itemAt(track, t) : undefined;
    if (!item) continue;
    const found = layersOf(program, body, item, looking);
    layers.unshift(...found.layers);
    covers = found.covers;
  }
  return { layers, covers };
}

function layersOf(program: Program, body: ProgramBody, item: ProgramItem, looking: Looking): Layers {
  const { picture, of } = item;
  const { times } = looking;
  const opened = timeIn(item, times(0));
  if (opened === undefined) return NOTHING;
  const timeAfter = (after: number): number =>
    after === 0 ? opened : (timeIn(item, Math.min(times(after), lastTime(item))) ?? opened);
  const positionAfter = (after: number): number => positionAt(item.map, timeAfter(after));
  const momentAfter = (after: number): ClipMoment => ({ output: timeAfter(after), source: positionAfter(after) });
  const wish = wishIn(item, momentAfter(0), positionAfter, looking);
  const settingsAfter = (after: number): PictureSettings | undefined =>
    picture && pictureKeys.now(picture, momentAfter(after));
  const chain = effectChain(effectsIn(item, momentAfter(0), positionAfter, looking), {
    ...{ program, momentAfter, rate: looking.rate, whole: false },
    all: { from: item.at, to: item.at + item.frames },
    isThere: (after) => isThere(item, times(after)),
    pointAfter: (effect, after) => {
      const t = times(after);
      if (effect.kind === 'carry')
        return pointOn(program, carrierAt(program, body, effect.clip, effect.track, t), effect.track, t, looking);
      const { follow } = effect;
      return follow && pointOn(program, item, follow.track, t, looking, follow.seconds > 0);
    },
  });
  const seenWith = (its: ExposureWish): Seen =>
    chain.apply((after) => {
      const positions = (later: number): number => positionAfter(after + later);
      return shownBy(program, steadiedAt(item, momentAfter(after), looking.smooths), settingsAfter(after), positions, {
        ...looking,
        wish: its,
      });
    });
  const size = of.kind === 'source' ? (program.sizes[of.id] ?? undefined) : program.frame;
  return exposedMoves(
    exposureOf(wish),
    [...(picture?.keys ? [{ settingsAfter, size }] : []), ...frameMoves(chain, program)],
    program.frame,
    (as) => seenWith(as === 'exposed' ? wish : { ...wish, shutter: 0 }),
  );
}

/**
 * Where a track is in the frame, as an item shows it at a time of what it lies in; before its beginning and past its end as there.
 *
 * @param looking how it is looked at: where frames are held, the point is held with them, unless it is to be told `between` them
 */
function pointOn(
  program: Program,
  item: ProgramItem | undefined,
  track: string,
  t: number,
  looking: Looking,
  between = false,
): Point | undefined {
  if (!item) return undefined;
  const time = timeIn(item, Math.min(t, lastTime(item)));
  if (time === undefined) return undefined;
  const moment = { output: time, source: positionAt(item.map, time) };
  const after = (later: number): number => positionAt(item.map, Math.max(0, time + later));
  const held = !between && exposureOf(wishIn(item, moment, after, looking)).slow === 'held';
  return pointInFrame(program, steadiedAt(item, moment, looking.smooths), track, time, held);
}

/** An item as it is at a moment: past the stretch over which it is steadied, it is not; the film may smooth it then. */
function steadiedAt(item: ProgramItem, moment: ClipMoment, smooths: readonly string[]): ProgramItem {
  const own = item.steady !== undefined && (!item.steadyOver || holdsAt({ over: item.steadyOver }, moment));
  if (own) return item;
  const { steady, ...rest } = item;
  const smooth = item.smoothed && smooths.find((id) => item.smoothed![id] !== undefined);
  if (smooth !== undefined) return { ...rest, steady: item.smoothed![smooth]! };
  return steady === undefined ? item : rest;
}

/** What moves the whole frame. What it cuts off of it is no movement. */
const frameMoves = ({ moves }: EffectChain, { frame }: Program): Move[] =>
  moves.map((move) => ({ settingsAfter: (after) => ({ ...move(after), crop: plainPicture.crop }), size: frame }));

/** Whether a clip is there at a time of what it lies in. */
const isThere = (item: ProgramItem, t: number): boolean =>
  t > item.from - HELD_EPSILON && t < item.from + item.frames - HELD_EPSILON && timeIn(item, t) !== undefined;

/** The effects that hold for an item at a moment: its own, then the film's. */
function effectsIn(
  item: ProgramItem,
  moment: ClipMoment,
  positionAfter: (after: number) => number,
  looking: Looking,
): readonly Effect[] {
  const all = [...effectsOn(item.effects), ...looking.effects].filter((effect) => !looking.draft || isDrafted(effect));
  if (!all.some(({ kind }) => kind === 'trail')) return all;
  const speed = speedOf(item, positionAfter, looking);
  // Of the film's, only those that hold are there.
  const film = new Set(looking.effects);
  const holds = (effect: Effect): boolean =>
    effect.kind !== 'trail' || holdsFor(film.has(effect) ? { only: effect.only } : effect, moment, speed);
  return all.filter(holds);
}

/** What an item shows that lies as some settings say. */
function shownBy(
  program: Program,
  item: ProgramItem,
  settings: PictureSettings | undefined,
  positionAfter: (after: number) => number,
  { wish, rate, draft, smooths }: Looking,
): Layers {
  const { of, clipId } = item;
  if (settings?.opacity === 0) return NOTHING;
  if (of.kind === 'source') {
    const size = program.sizes[of.id];
    if (size === null) return NOTHING;
    return {
      layers: [{ of: leafOf(item, positionAfter, exposureOf(wish), draft), ...(settings && { settings }) }],
      covers: !size?.alpha && (!size || !program.frame || coversFrame(settings ?? plainPicture, size, program.frame)),
    };
  }
  const body = program.groups[of.id];
  const times = (after: number): number => heldPosition(positionAfter(after), body!);
  const within = { times, rate, wish, draft, smooths, film: [], effects: [] };
  const inside = body && body.length > 0 ? layersIn(program, body, within) : NOTHING;
  const layers = inside.layers.map((layer) => namedFor(clipId, layer));
  // A group that lies in its frame as it is by itself is no layer of its own.
  if (!settings || layers.length === 0) return { layers, covers: inside.covers };
  const { frame } = program;
  return {
    layers: [{ of: layers, settings }],
    covers: inside.covers && !!frame && coversFrame(settings, frame, frame),
  };
}

/** How fast an item runs at the moment that is looked at, as a factor of real time. */
const speedOf = ({ map }: ProgramItem, positionAfter: (after: number) => number, { rate }: Looking): number =>
  ((positionAfter(NEAR) - positionAfter(0)) / NEAR) * rateRatio(rate, map.sourceRate);

/** What is wished of an item's pictures: by its own steps, over them by the film's, and over them from further outside. */
function wishIn(
  item: ProgramItem,
  moment: ClipMoment,
  positionAfter: (after: number) => number,
  looking: Looking,
): ExposureWish {
  const { wish, film } = looking;
  const own = item.exposures?.filter((step) => holdsAt(step, moment)) ?? [];
  if (own.length === 0 && film.length === 0) return wish;
  const speed = speedOf(item, positionAfter, looking);
  return { ...wishOf(own, speed), ...wishOf(film, speed), ...wish };
}

function leafOf(
  item: ProgramItem,
  positionAfter: (after: number) => number,
  exposure: Exposure,
  draft: boolean,
): SeenLeaf {
  const { of, clipId, map, steady } = item;
  const moved = !draft && steady !== undefined && { steady };
  if (exposure === instant) return { ...frameAt(item, positionAfter(0)), ...moved };
  const parts = framesExposed(positionAfter, exposure, map.sourceFrames).map(({ weight, ...part }) => ({
    seen: { sourceId: of.id, ...part, clipId, ...moved },
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

/** The film's effects of a kind, on its clips, that hold at one of its frames. */
const heldAt = (effects: readonly Effect[], kind: 'trail' | 'smooth', t: number): readonly Effect[] =>
  effects.filter((effect) => effect.kind === kind && holdsAt(effect, { output: t, source: t }));

const smoothsAt = (effects: readonly Effect[], t: number): readonly string[] =>
  heldAt(effects, 'smooth', t).map(({ id }) => id);

const lookingAt = (program: Program, t: number): Looking => ({
  ...{ times: (after) => t + after, rate: program.rate, wish: INSTANT, film: [], effects: [], draft: true },
  smooths: smoothsAt(effectsOn(program.effects), t),
});

/**
 * What stands at an output time (frames, real), as an instant: all picture tracks that have something there, unless one hides the
 * rest.
 */
export function pictureAt(program: Program, t: number): SeenPicture {
  const { compared } = program;
  if (compared) return comparedAt(compared, program.rate, t, (one, _rate, time) => pictureAt(one, time));
  return layersIn(program, program, lookingAt(program, t)).layers;
}

/** The uppermost source frame that stands at an output time (frames, real). */
export function seenAt(program: Program, t: number): SeenFrame | undefined {
  return topFrame(pictureAt(program, t));
}

/** What one item shows at an output time of what it lies in, as it lies in the frame, whatever lies above or beneath it. */
export function pictureBy(program: Program, item: ProgramItem, t: number): SeenPicture {
  return layersOf(program, program, item, lookingAt(program, t)).layers;
}

/**
 * What each picture of a program shows: what is exposed while the shutter is open, from its moment on, as clips and film say; as an
 * instant, the source frame in which the moment lies.
 *
 * @param rate of the pictures; where it is not the program's, the moments are taken at the new rate and the length in
 *   seconds stays
 * @param wish counts over what clips and film say; its shutter, as theirs, is counted in pictures of the plan
 * @param span what of it the pictures show; all of it unless told
 */
export const picturePlan = (
  program: Program,
  rate?: Rate,
  wish: ExposureWish = {},
  span: ProgramSpan = { from: 0, to: program.length },
): PicturePlan => planOf(program, rate, wish, false, span);

/** A stretch of a program, in its frames; `to` not included. */
export interface ProgramSpan {
  from: number;
  to: number;
}

function planOf(
  program: Program,
  rate: Rate = program.rate,
  wish: ExposureWish,
  draft: boolean,
  { from, to }: ProgramSpan = { from: 0, to: program.length },
): PicturePlan {
  const step = rateRatio(program.rate, rate);
  const { compared } = program;
  if (compared) {
    const look: ComparedLook = (one, its, t) => planOf(one, its, wish, draft, { from: t, to: one.length }).at(0);
    return {
      count: Math.max(1, Math.ceil((to - from) / step - HELD_EPSILON)),
      rate,
      at: (n) => comparedAt(compared, rate, from + n * step, look),
    };
  }
  const done = effectsOn(program.effects).filter((effect) => !draft || isDrafted(effect));
  // Trails are the clips' own: what came before a cut is no earlier moment of what is seen after it.
  const ofWhole = done.filter(({ kind }) => kind !== 'trail' && kind !== 'smooth');
  return {
    count: Math.max(1, Math.ceil((to - from) / step - HELD_EPSILON)),
    rate,
    at: (n) => {
      const times = (after: number): number => from + (n + after) * step;
      const film = filmAt(program, times(0));
      const effects = heldAt(done, 'trail', times(0));
      const smooths = smoothsAt(done, times(0));
      const look = (later: number, its: ExposureWish): Layers => {
        const shifted = (after: number): number => times(after + later);
        return layersIn(program, program, { times: shifted, rate, wish: its, film, effects, smooths, draft });
      };
      return ofWhole.length === 0 ? look(0, wish).layers : filmed(program, ofWhole, look, { rate, wish, times });
    },
  };
}

/** The film's pictures with what is done to the whole of each. */
function filmed(
  program: Program,
  effects: readonly Effect[],
  look: (later: number, wish: ExposureWish) => Layers,
  { rate, wish, times }: Pick<Looking, 'rate' | 'wish' | 'times'>,
): SeenPicture {
  const chain = effectChain(effects, {
    ...{ program, rate, whole: true, isThere: () => true, pointAfter: () => undefined },
    momentAfter: (after) => ({ output: times(after), source: times(after) }),
    all: { from: 0, to: program.length },
  });
  const exposure = exposureOf(wishOf(filmAt(program, times(0)), 1), wish);
  const seenWith = (its: ExposureWish): Seen => chain.apply((after) => look(after, its));
  return exposedMoves(exposure, frameMoves(chain, program), program.frame, (as) =>
    seenWith(as === 'exposed' ? wish : { ...wish, shutter: 0 }),
  ).layers;
}

/** The same as instants, which can be shown as soon as their frames are decoded. */
export const instantPlan = (program: Program, rate?: Rate): PicturePlan => planOf(program, rate, INSTANT, true);

/** Whether anything of a program asks for more than instants. */
export function isExposed(program: Program): boolean {
  if (program.compared) return isExposed(program.compared.a) || isExposed(program.compared.b);
  const bodies = [program, ...Object.values(program.groups)];
  const isMade = ({ exposures, effects }: Pick<ProgramItem, 'exposures' | 'effects'>): boolean =>
    !!exposures || effectsOn(effects).some((effect) => !isDrafted(effect));
  return (
    !!program.exposures ||
    !!program.steadies ||
    effectsOn(program.effects).some((effect) => !isDrafted(effect)) ||
    bodies.some(({ tracks }) => tracks.some(({ items }) => items.some(isMade)))
  );
}
