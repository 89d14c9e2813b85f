import { AUTO_SAMPLES, MOST_SAMPLES, MOST_SHUTTER, type SlowWay } from '@hastig/contract';

/** How the pictures of a clip or a file are exposed. */
export interface Exposure {
  /** Between source frames: the one that stands, the two neighbours by their share, or what moved made on its way. */
  slow: SlowWay;
  /** For how long the shutter is open, in degrees of an output frame: 0 is an instant, 360 all of it. */
  shutter: number;
  /** At how many moments of an open shutter a slow part is looked at, 1 or more; or as many as what moves in it asks for. */
  samples: number | typeof AUTO_SAMPLES;
  /** Of the source's frames, only every so many one is looked at, counted from one; all of them where it is not told. */
  every?: { frames: number; from?: number };
  /** Most frames that are averaged, evenly spread; as many as pass where it is not told. */
  most?: number;
  /** In place of each frame, the nearest that is coded by itself. */
  keys?: boolean;
  /** Whether light that flickers from frame to frame is evened out. */
  evenLight?: boolean;
}

/** Moments of an exposure whose number follows what moves, before that is known: as many as it may come to. */
const AUTO_MOMENTS = 64;

/** The number of moments that an exposure has at most. */
export const momentsOf = ({ samples }: Exposure): number =>
  samples === AUTO_SAMPLES ? AUTO_MOMENTS : Math.min(MOST_SAMPLES, Math.max(1, Math.round(samples)));

/** An instant, and the frame that stands there. */
export const instant: Exposure = { slow: 'held', shutter: 0, samples: 16 };

/** The part of an output frame for which a shutter is open, 0 to 1. */
export const openShare = ({ shutter }: Exposure): number => Math.min(Math.max(0, shutter), MOST_SHUTTER) / 360;

/** How a picture between two frames is made. */
export type MadeWay = Exclude<SlowWay, 'held'>;

/** A frame of a source and its part of an exposure. */
interface FramePart {
  frame: number;
  /**
   * How far the picture is on its way to the next frame, 0 to less than 1; the frame itself where it is not told. At 0 it may be no
   * frame of its own: where a source repeats one, what it shows there lies between two others.
   */
  share?: number;
  /** How it is made there. */
  way?: MadeWay;
  /** The nearest frame that is coded by itself stands for it. */
  key?: true;
  /** More than 0; those of an exposure add up to 1. */
  weight: number;
}

/** Of many parts so few, evenly spread; each counts for those that are nearest to it. */
export function thinned<Part extends { weight: number }>(parts: readonly Part[], most: number): Part[] {
  if (parts.length <= most) return [...parts];
  const few: Part[] = [];
  for (let place = 0; place < most; place++) {
    const [from, to] = [Math.round((place * parts.length) / most), Math.round(((place + 1) * parts.length) / most)];
    const weight = parts.slice(from, to).reduce((sum, part) => sum + part.weight, 0);
    few.push({ ...parts[(from + to - 1) >> 1]!, weight });
  }
  return few;
}

/** Whether all frames of a source are looked at, so that what lies between two of them can be made. */
export const wholeSource = ({ every, keys }: Exposure): boolean => !keys && (every?.frames ?? 1) === 1;

/** Cells in which an exposure is looked at for frames that pass: to and fro within one is not seen. */
const CELLS = 16;
/** Parts of an output frame to which the moment is found at which one frame gives way to the next. */
const FINEST = 1 / 65_536;
/** Output frames over which the speed at an instant is measured. */
export const NEAR = 1e-3;
/** Real frames that pass, as a part of the samples, below which pictures between them are made. */
const FEW = 0.5;
/** Pictures that are made for an open shutter at least. */
const LEAST_MADE = 2;
/** A position that is less than so much short of a frame is taken to be at it: that is less than rounding. */
const EPSILON = 1e-6;

/**
 * The source frames that one exposure consists of, with how much each counts. Where frames pass quickly, each by how long it
 * stands while the shutter is open; where they pass slowly, the pictures between them at some moments, blended or compensated; where
 * they are compensated, fast or slow, as many for each source frame that passes. Where frames are left out, neighbours are told by
 * their share.
 *
 * @param positionAt source position (frames, real) so many output frames after the shutter opens, 0 to 1
 * @param frames of the source; positions outside show the first or the last
 * @returns in the order of the source, each picture once
 */
export function framesExposed(positionAt: (after: number) => number, exposure: Exposure, frames: number): FramePart[] {
  const { slow, samples, every, most: taken, keys } = exposure;
  const whole = wholeSource(exposure);
  const step = Math.max(1, every?.frames ?? 1);
  const base = (every?.from ?? 0) % step;
  const open = openShare(exposure);
  // By their place: the frame, and how far from it.
  const parts = new Map<number, FramePart>();
  const add = (frame: number, weight: number, made?: { share: number; way: MadeWay }): void => {
    const place = frame + (made?.share ?? 0);
    const before = parts.get(place)?.weight ?? 0;
    parts.set(place, { frame, ...made, weight: before + weight });
  };
  const frameAt = (position: number): number => {
    const frame = Math.min(frames - 1, Math.max(0, Math.floor(position + EPSILON)));
    return step === 1 ? frame : Math.min(frames - 1, Math.max(0, base + Math.floor((frame - base) / step) * step));
  };

  const over = open > 0 ? open : NEAR;
  const passed = Math.abs(positionAt(over) - positionAt(0));
  const most = momentsOf(exposure);
  const isSlow = passed / over < step - EPSILON;
  // Where enough real frames pass, nothing need be made between them.
  const isFew = slow === 'compensated' && open > 0 && passed < most * FEW;
  if (slow !== 'held' && (isSlow || isFew)) {
    // As many for each source frame that passes: where little moves, few are enough.
    const follows = slow === 'compensated' && samples !== AUTO_SAMPLES;
    const enough = follows ? Math.min(most, Math.max(LEAST_MADE, Math.ceil(most * passed))) : most;
    const moments = open > 0 ? enough : 1;
    for (let moment = 0; moment < moments; moment++) {
      const position = positionAt(open > 0 ? ((moment + 0.5) / moments) * open : 0);
      const [frame, next] = [frameAt(position), frameAt(position + step)];
      const share = Math.min(1, Math.max(0, (position - frame) / step));
      if (next === frame) add(frame, 1 / moments);
      else if (whole) add(frame, 1 / moments, { share: share < EPSILON ? 0 : share, way: slow });
      else {
        add(frame, (1 - share) / moments);
        add(next, share / moments);
      }
    }
  } else if (open === 0) {
    add(frameAt(positionAt(0)), 1);
  } else {
    // Halves a cell until one frame stands in it, or until it is so short that its two halves may be shared out.
    const cover = (from: number, to: number, first: number, last: number): void => {
      if (first === last) return add(first, (to - from) / open);
      const middle = (from + to) / 2;
      if (to - from < FINEST) {
        add(first, (middle - from) / open);
        return add(last, (to - middle) / open);
      }
      const between = frameAt(positionAt(middle));
      cover(from, middle, first, between);
      cover(middle, to, between, last);
    };
    // The shutter is shut again before the frame stands that comes at that very moment.
    const at = Array.from({ length: CELLS + 1 }, (_, cell) =>
      frameAt(positionAt(Math.min((cell / CELLS) * open, open - FINEST))),
    );
    for (let cell = 0; cell < CELLS; cell++)
      cover((cell / CELLS) * open, ((cell + 1) / CELLS) * open, at[cell]!, at[cell + 1]!);
  }
  const inOrder = [...parts].sort(([a], [b]) => a - b).map(([, part]) => part);
  const few = taken === undefined ? inOrder : thinned(inOrder, Math.max(1, Math.round(taken)));
  return keys ? few.map(({ frame, weight }) => ({ frame, weight, key: true as const })) : few;
}
