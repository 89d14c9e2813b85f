import type { FitWay } from '@hastig/contract';
import type { Size } from '../picture';

/** The nearest even number of pixels, at least 2: pictures are coded with colours at half the size. 853.3 becomes 854, 1 becomes 2. */
export const even = (pixels: number): number => Math.max(2, 2 * Math.round(pixels / 2));

/** The usual heights of smaller pictures, or widths of upright ones. */
const LINES = [2160, 1440, 1080, 720, 540, 480, 360] as const;

/** A size and smaller ones of the same shape, each side the nearest even number. */
export function sizesOf({ width, height }: Size): Size[] {
  const own = { width: even(width), height: even(height) };
  const smaller = LINES.filter((lines) => lines < Math.min(width, height)).map((lines) => {
    const scale = lines / Math.min(width, height);
    return { width: even(width * scale), height: even(height * scale) };
  });
  return [own, ...smaller];
}

/** The scale at which a frame lies in a picture: all of it in sight, all of the picture covered, or pixel for pixel. */
export function fitScale(fit: FitWay, frame: Size, picture: Size): number {
  const [across, down] = [picture.width / frame.width, picture.height / frame.height];
  return fit === 'crop' ? 1 : fit === 'fill' ? Math.max(across, down) : Math.min(across, down);
}
