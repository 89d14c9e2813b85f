import type { Rate } from '@hastig/contract';
import { rateToNumber } from '@hastig/core';
import { endOf, frameAtPosition, positionOfFrame, type FrameIndex } from './frame-index';
import { isotonic } from './isotonic';

/** What an even rate along a file's time shows of its frames. */
export interface FrameGrid {
  /** Whether each position shows what stands at its instant, or frames were laid to the nearest. */
  readonly kind: 'instant' | 'laid';
  readonly rate: Rate;
  /** Seconds, on the file's clock, of position 0. */
  readonly start: number;
  /** How many positions there are; at least 1. */
  readonly positions: number;
  /** The frame of the file shown at a position, 0 … positions − 1. */
  frameAt(position: number): number;
  /** The first position at which a frame is shown, or the one after it where none shows it. */
  positionOf(frame: number): number;
  /** Where a frame stands along the grid by its time, in positions and parts of one. */
  placeOf(frame: number): number;
}

/**
 * Positions that show what the file shows at the instant position / rate: how sources were counted before frames were laid to the
 * nearest. Kept for projects that count so.
 *
 * @param positions how many there are
 */
export function instantGrid(index: FrameIndex, rate: Rate, positions: number): FrameGrid {
  return {
    ...{ kind: 'instant', rate, start: index.timestamps[0]!, positions },
    frameAt: (position) => frameAtPosition(index, rate, position),
    positionOf: (frame) => positionOfFrame(index, rate, frame),
    placeOf: (frame) => ((index.timestamps[frame]! - index.timestamps[0]!) * rate.num) / rate.den,
  };
}

/** Frames laid on places of an even rate. */
export interface LaidFrames extends FrameGrid {
  /** The place of each frame; −1 for those that have none. Rising where it is not −1. */
  readonly places: Int32Array;
  /** Frames that no place shows. */
  readonly skipped: number;
  /** Places that show the frame before once more. */
  readonly repeated: number;
  /** The largest distance of a laid frame's time from its place, in seconds. */
  readonly within: number;
}

/** Places by which a frame may be moved where its neighbours lie beside the grid too. */
const ROOM = 1;
/** Places by which a frame may be moved where there are more frames than places. */
const CROWDED = 0.5 + 1e-6;

/**
 * Lays frames on the places of an even rate, each to the nearest, in order, each on a place of its own; what is missing shows what
 * stands.
 *
 * A frame's distance from its number, x_i − i in places, never falls by more than its time trembles, and rises by one wherever a
 * frame is missing. The rising row nearest to it (isotonic regression, least squares) is therefore within the trembling of the true
 * row, for the regression never moves two rows further apart (R. Barlow et al., Statistical Inference under Order Restrictions,
 * 1972): trembling of less than half a frame leaves every frame on its own place. Where frames come faster than the rate, only as
 * many are laid as fit within half a place of their times. After a hole the grid goes on, and frames that come beside it for good
 * are laid as they lie to each other.
 */
export function layFrames(index: FrameIndex, rate: Rate): LaidFrames {
  const { timestamps } = index;
  const [count, perSecond, first] = [timestamps.length, rateToNumber(rate), timestamps[0]!];
  const away = timestamps.map((time, frame) => (time - first) * perSecond - frame);
  const row = isotonic(away);
  const stretches = stretchesOf(index);
  const phases = stretches.map((stretch) => phaseOf(away, row, stretch));
  const phase = amid(phases);
  const places = new Int32Array(count);
  let [last, skipped, within] = [-Infinity, 0, 0];
  for (const [number, { from, to }] of stretches.entries()) {
    // The same grid, as many whole places away as makes least difference.
    const beside = phases[number]! - Math.round(phases[number]! - phase);
    for (let frame = from; frame < to; frame++) {
      const at = away[frame]! + frame - beside;
      const smooth = frame + Math.round(row[frame]! - beside);
      const hasRoom = Math.abs(at - smooth) <= ROOM;
      const place = Math.max(last + 1, hasRoom ? smooth : Math.round(at));
      if (frame > 0 && place - at > (hasRoom ? ROOM : CROWDED)) {
        places[frame] = LEFT_OUT;
        skipped++;
        continue;
      }
      places[frame] = last = place;
      within = Math.max(within, Math.abs(at - place));
    }
  }
  const origin = places[0]!;
  for (let frame = 0; frame < count; frame++)
    places[frame] = places[frame]! === LEFT_OUT ? -1 : places[frame]! - origin;
  const start = first + (phase + origin) / perSecond;
  // How long the last frame stays, by its own length or by where it ends: the shorter, for both tremble.
  const stays = Math.min((endOf(index) - start) * perSecond - (last - origin), index.lastDuration * perSecond);
  const positions = last - origin + Math.max(1, Math.round(stays));
  let shown: Uint32Array | undefined;
  return {
    ...{ kind: 'laid', rate, start, positions, places, skipped, repeated: positions - (count - skipped) },
    within: within / perSecond,
    frameAt: (position) => (shown ??= shownAt(places, positions))[position] ?? count - 1,
    positionOf: (frame) => placeFrom(places, positions, frame),
    // Its time trembles; the place it was laid on is the better one.
    placeOf: (frame) => placeFrom(places, positions, frame),
  };
}

const LEFT_OUT = -(2 ** 31);

function shownAt(places: Int32Array, positions: number): Uint32Array {
  const shown = new Uint32Array(positions);
  let position = 0;
  let stands = 0;
  places.forEach((place, frame) => {
    if (place < 0) return;
    shown.fill(stands, position, place);
    position = place;
    stands = frame;
  });
  return shown.fill(stands, position);
}

function placeFrom(places: Int32Array, positions: number, frame: number): number {
  for (let next = frame; next < places.length; next++) if (places[next]! >= 0) return places[next]!;
  return positions;
}

/** Frames that follow each other without a hole: `from` included, `to` not. */
export interface Stretch {
  from: number;
  to: number;
}

/** Seconds without a frame that are a hole, where they are as long as several frames too. */
const HOLE = { seconds: 0.5, frames: 8 };

/** A file's frames between its holes: where nothing came for so long that what comes after says nothing of what came before. */
export function stretchesOf({ timestamps }: FrameIndex): Stretch[] {
  const gaps = timestamps.slice(1).map((time, frame) => time - timestamps[frame]!);
  const usual = gaps.slice().sort()[gaps.length >> 1] ?? 0;
  const hole = Math.max(HOLE.seconds, HOLE.frames * usual);
  const stretches: Stretch[] = [];
  let from = 0;
  gaps.forEach((gap, frame) => {
    if (gap < hole) return;
    stretches.push({ from, to: frame + 1 });
    from = frame + 1;
  });
  return [...stretches, { from, to: timestamps.length }];
}

// The phase in the middle of some, all around the circle: where each stretch begins a grid of its own, all are off the one that is
// laid by as little as can be.
function amid(phases: readonly number[]): number {
  if (phases.length === 1) return phases[0]!;
  const around = phases.map((phase) => phase - Math.floor(phase)).sort((a, b) => a - b);
  let [widest, after] = [around[0]! + 1 - around.at(-1)!, 0];
  for (let n = 1; n < around.length; n++) {
    const gap = around[n]! - around[n - 1]!;
    if (gap > widest) [widest, after] = [gap, n];
  }
  return around[after]! + (1 - widest) / 2;
}

// Where the grid begins, in parts of a place: first as what is level of the rising row says, all around the circle; then the mean of
// what the frames are off, strays left out, moved as little as puts all of them within half a place, where any beginning does.
function phaseOf(away: Float64Array, row: Float64Array, { from, to }: Stretch): number {
  let [across, up] = [0, 0];
  for (let frame = from; frame < to; frame++) {
    across += Math.cos(2 * Math.PI * row[frame]!);
    up += Math.sin(2 * Math.PI * row[frame]!);
  }
  const around = Math.atan2(up, across) / (2 * Math.PI);
  let [sum, count, lowest, highest] = [0, 0, Infinity, -Infinity];
  for (let frame = from; frame < to; frame++) {
    const off = away[frame]! - Math.round(row[frame]! - around);
    lowest = Math.min(lowest, off);
    highest = Math.max(highest, off);
    if (Math.abs(off - around) > 0.5) continue;
    sum += off;
    count++;
  }
  const mean = count > 0 ? sum / count : around;
  const [low, high] = [highest - 0.5, lowest + 0.5];
  return low <= high ? Math.min(high, Math.max(low, mean)) : mean;
}
