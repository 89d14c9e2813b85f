import type { FrameBox, PictureSettings, Reframe } from '@hastig/contract';
import { plainPicture, type Point, type Size } from '../picture';
import { valueAt } from '../values';

/** A part of a frame, in shares of its width and height. */
interface BoxInFrame {
  left: number;
  top: number;
  width: number;
  height: number;
}

/**
 * Where a box lies in a frame: moved in as far as it takes to lie in it whole.
 *
 * @param shape its width by its height
 */
export function boxInFrame({ x, y, size }: FrameBox, shape: number, frame: Size): BoxInFrame {
  const wide = frame.width / frame.height;
  const width = size * Math.min(1, shape / wide);
  const height = size * Math.min(1, wide / shape);
  const within = (middle: number, length: number): number => Math.min(1 - length, Math.max(0, middle - length / 2));
  return { left: within(x, width), top: within(y, height), width, height };
}

/** How a frame's picture lies in it when a part of it is seen, as large as it fits, and nothing else. */
export function framedBox({ left, top, width, height }: BoxInFrame): PictureSettings {
  const scale = Math.min(1 / width, 1 / height);
  return {
    ...plainPicture,
    scale,
    x: -scale * (left + width / 2 - 0.5),
    y: -scale * (top + height / 2 - 0.5),
    crop: { left, top, right: Math.max(0, 1 - left - width), bottom: Math.max(0, 1 - top - height) },
  };
}

/** How far a move is on its way by its ease, 0 to 1, at a share of its time. */
const eased = (ease: Reframe['ease'], share: number): number =>
  valueAt({ by: 'output', keys: [{ at: 0, value: 0, ease }, { at: 1, value: 1 }] }, { output: share, source: share }); // prettier-ignore

/** The box of a move at a share of its time, 0 to 1. */
export function boxAt({ from, to, ease }: Pick<Reframe, 'from' | 'to' | 'ease'>, share: number): FrameBox {
  const way = eased(ease, Math.min(1, Math.max(0, share)));
  const between = (name: keyof FrameBox): number => from[name] + (to[name] - from[name]) * way;
  // Sizes are passed evenly to the eye when each is the same part of the one before.
  const size = from.size * (to.size / from.size) ** way;
  return { x: between('x'), y: between('y'), size: Math.min(1, size) };
}

/** Moments by which a place that follows is evened out, to each side. */
const LOOKS = 12;

/**
 * Where something is, evened out over time: places around a moment, those further away counting less (a Gaussian that ends at half of the
 * time to each side).
 *
 * @param at where it is so many seconds later; nothing where that is not known
 */
export function followedPlace(at: (seconds: number) => Point | undefined, seconds: number): Point | undefined {
  if (seconds === 0) return at(0);
  let [x, y, all] = [0, 0, 0];
  for (let look = -LOOKS; look <= LOOKS; look++) {
    const place = at((look / LOOKS) * (seconds / 2));
    const weight = Math.exp(-0.5 * ((2.5 * look) / LOOKS) ** 2);
    if (!place) continue;
    x += weight * place.x;
    y += weight * place.y;
    all += weight;
  }
  return all > 0 ? { x: x / all, y: y / all } : undefined;
}
