import type { PictureSettings, Rate } from '@hastig/contract';
import { plainPicture, type Size } from '../picture';
import { timesAt } from '../retime';
import { rateRatio } from '../time';
import { motionAt, type SeenMotion } from './motion';
import type { Program, ProgramBody, ProgramItem } from './program';
import type { SeenLayer, SeenPicture } from './seen';

export const compareSides = ['a', 'b'] as const;
export type CompareSide = (typeof compareSides)[number];

/**
 * How two programs are seen together: `beside` or `above` one another, with a line to `wipe` between them, what differs, or one
 * of them `alone`, as where they take turns.
 */
export const compareWays = ['beside', 'above', 'wipe', 'difference', 'alone'] as const;
export type CompareWay = (typeof compareWays)[number];

/** How two programs are compared. */
export interface Comparing {
  way: CompareWay;
  /** Whose sound is heard. Its frames are counted, and the other goes along with it. */
  lead: CompareSide;
  /** Whether both are at the same output time, or show the same of their footage. */
  by: 'output' | 'source';
  /** Where the line of a wipe is, as a share of the width: the first is left of it. */
  at: number;
  /** Which is seen alone. */
  alone: CompareSide;
}

/** Two programs that are seen together. */
export interface Compared extends Comparing {
  a: Program;
  b: Program;
}

/** The frame a program's pictures are laid in; of one that has none, the size of what it shows. */
export function frameOf({ frame, sizes, tracks }: Program): Size {
  if (frame) return frame;
  const own = tracks.flatMap(({ items }) => items).find(({ of }) => of.kind === 'source');
  return (own && sizes[own.of.id]) ?? { width: 1280, height: 720 };
}

/** The frame that both are laid in. The second is as large as the first, whatever it is by itself. */
function comparedFrame({ a, way }: Compared): Size {
  const { width, height } = frameOf(a);
  return { width: way === 'beside' ? 2 * width : width, height: way === 'above' ? 2 * height : height };
}

/**
 * A program that shows two and lets one be heard: it plays, rests and renders like any other.
 *
 * @param a the first, on the left or above
 */
export function comparedProgram(a: Program, b: Program, how: Comparing): Program {
  const compared: Compared = { ...how, a, b };
  const [lead, other] = how.lead === 'a' ? [a, b] : [b, a];
  const length = how.by === 'source' ? lead.length : Math.max(lead.length, other.length * rateRatio(lead.rate, other.rate)); // prettier-ignore
  const { exposures: _exposures, effects: _effects, points: _points, ...heard } = lead;
  return {
    ...heard,
    ...{ length, frame: comparedFrame(compared), compared },
    sizes: a.sizes === b.sizes ? a.sizes : { ...a.sizes, ...b.sizes },
    ...((a.steadies ?? b.steadies) && { steadies: { ...a.steadies, ...b.steadies } }),
  };
}

/** Times at which an item shows a position of what it is made of, as times of what it lies in. */
function timesOf({ map, at, from, frames }: ProgramItem, position: number): number[] {
  return timesAt(map, position)
    .filter((showing) => showing.to >= at && showing.from < at + frames)
    .map((showing) => from + Math.max(showing.from, at) - at);
}

// An item does not reach a position that it skips by a cut; what is shown nearest to it is not asked for.
function timesIn(program: Program, body: ProgramBody, seen: SeenMotion): number[] {
  return body.tracks
    .filter(({ kind }) => kind === 'picture')
    .flatMap(({ items }) => items)
    .flatMap((item) => {
      if (item.of.kind === 'source') return item.of.id === seen.sourceId ? timesOf(item, seen.position) : [];
      const group = program.groups[item.of.id];
      return group ? timesIn(program, group, seen).flatMap((time) => timesOf(item, time)) : [];
    });
}

/**
 * When a program shows the same of its footage as another does at a time: of several, what is nearest in time.
 *
 * @returns undefined where it never shows that
 */
export function sameFootageAt(lead: Program, t: number, other: Program): number | undefined {
  const seen = motionAt(lead, t);
  if (!seen) return undefined;
  const wanted = t * rateRatio(other.rate, lead.rate);
  const times = timesIn(other, other, seen);
  return times.length === 0 ? undefined : times.reduce((best, time) => (Math.abs(time - wanted) < Math.abs(best - wanted) ? time : best)); // prettier-ignore
}

/** What one program shows at a time of its own, in frames. */
export type ComparedLook = (program: Program, rate: Rate, t: number) => SeenPicture;

/** The time of each side, in its own frames, at a time of the one that leads; undefined where one never shows the same footage. */
export function comparedTimes({ a, b, lead, by }: Compared, t: number): Record<CompareSide, number | undefined> {
  const [leading, other] = lead === 'a' ? [a, b] : [b, a];
  const along = by === 'source' ? sameFootageAt(leading, t, other) : t * rateRatio(other.rate, leading.rate);
  const within = ({ length }: Program, time: number | undefined): number | undefined =>
    time !== undefined && time < length ? time : undefined;
  const [own, its] = [within(leading, t), within(other, along)];
  return lead === 'a' ? { a: own, b: its } : { a: its, b: own };
}

/** What both show at a time of the one that leads, in its frames. */
export function comparedAt(compared: Compared, rate: Rate, t: number, look: ComparedLook): SeenPicture {
  const { a, b, way, alone } = compared;
  const times = comparedTimes(compared, t);
  const layer = (side: CompareSide, settings: Partial<PictureSettings>, more: Partial<SeenLayer> = {}): SeenLayer => {
    const program = side === 'a' ? a : b;
    const [inner, cell] = [frameOf(program), frameOf(a)];
    const scale = Math.min(cell.width / inner.width, cell.height / inner.height);
    const laid: PictureSettings = { ...plainPicture, fit: 'pixels', scale, ...settings };
    const time = times[side];
    return { of: time === undefined ? [] : look(program, rate, time), settings: laid, frame: inner, ...more };
  };
  if (way === 'alone') return [layer(alone, {})];
  if (way === 'beside') return [layer('a', { x: -0.25 }), layer('b', { x: 0.25 })];
  if (way === 'above') return [layer('a', { y: -0.25 }), layer('b', { y: 0.25 })];
  if (way === 'difference') return [layer('a', {}), layer('b', {}, { differing: true })];
  const left = Math.min(0.9999, Math.max(0, compared.at));
  return [layer('a', {}), layer('b', { crop: { ...plainPicture.crop, left } }, { covering: true })];
}
