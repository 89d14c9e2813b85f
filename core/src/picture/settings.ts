import type { Mirror, PictureSettings } from '@hastig/contract';
import { after, inverse, mapPoint, type Affine, type Size } from './affine';

/** A picture as it lies where nothing was set: all of it, as large as it fits, in the middle. */
export const plainPicture: PictureSettings = {
  fit: 'whole',
  scale: 1,
  x: 0,
  y: 0,
  turn: 0,
  mirror: 'none',
  crop: { left: 0, top: 0, right: 0, bottom: 0 },
  opacity: 1,
};

/** Whether settings change nothing; so do none. */
export function isPlain(settings: PictureSettings | undefined): boolean {
  return !settings || sameSettings(settings, plainPicture);
}

export function sameSettings(a: PictureSettings | undefined, b: PictureSettings | undefined): boolean {
  if (a === b) return true;
  const [one, other] = [a ?? plainPicture, b ?? plainPicture];
  const { crop, keys, ...rest } = one;
  return (
    (keys === other.keys || JSON.stringify(keys) === JSON.stringify(other.keys)) &&
    Object.entries(rest).every(([key, value]) => other[key as keyof PictureSettings] === value) &&
    Object.entries(crop).every(([side, share]) => other.crop[side as keyof PictureSettings['crop']] === share)
  );
}

/** The factor by which a picture is scaled to lie in a frame as it should, before `scale`. */
export function fitFactor(fit: PictureSettings['fit'], picture: Size, frame: Size): number {
  const [across, down] = [frame.width / picture.width, frame.height / picture.height];
  return fit === 'pixels' ? 1 : fit === 'whole' ? Math.min(across, down) : Math.max(across, down);
}

/** Which way the axes run: −1 where mirrored. */
function mirrorSigns(mirror: Mirror): { across: 1 | -1; down: 1 | -1 } {
  return {
    across: mirror === 'across' || mirror === 'both' ? -1 : 1,
    down: mirror === 'down' || mirror === 'both' ? -1 : 1,
  };
}

/** Cosine and sine of degrees, exact at whole quarter turns, so that pixels stay on pixels. */
function direction(degrees: number): { cos: number; sin: number } {
  const quarter = degrees / 90;
  if (Number.isInteger(quarter)) {
    const turns = ((quarter % 4) + 4) % 4;
    return { cos: [1, 0, -1, 0][turns]!, sin: [0, 1, 0, -1][turns]! };
  }
  const angle = (degrees * Math.PI) / 180;
  return { cos: Math.cos(angle), sin: Math.sin(angle) };
}

/**
 * The map from a picture's own pixels to those of the frame it lies in: mirrored and scaled about its middle, turned, then
 * moved. What is cropped stays where it was, so cropping is no part of it.
 */
export function pictureMap(settings: PictureSettings, picture: Size, frame: Size): Affine {
  const { across, down } = mirrorSigns(settings.mirror);
  const scale = fitFactor(settings.fit, picture, frame) * settings.scale;
  const { cos, sin } = direction(settings.turn);
  const shape: Affine = [cos * scale * across, sin * scale * across, -sin * scale * down, cos * scale * down, 0, 0];
  const middle: Affine = [1, 0, 0, 1, frame.width * (0.5 + settings.x), frame.height * (0.5 + settings.y)];
  return after(middle, after(shape, [1, 0, 0, 1, -picture.width / 2, -picture.height / 2]));
}

/** The part of a picture that is left of it, in its own pixels; undefined where nothing is. */
export function croppedPart(
  { crop }: PictureSettings,
  { width, height }: Size,
): { x: number; y: number; width: number; height: number } | undefined {
  const [across, down] = [1 - crop.left - crop.right, 1 - crop.top - crop.bottom];
  if (!(across > 0) || !(down > 0)) return undefined;
  return { x: crop.left * width, y: crop.top * height, width: across * width, height: down * height };
}

/** Pixels by which a picture's edge may miss the frame's and still count as lying on it: a rounding error. */
const EDGE = 1e-6;

/** Whether a picture leaves nothing of its frame free and lets nothing through, so that what lies below is not seen. */
export function coversFrame(settings: PictureSettings, picture: Size, frame: Size): boolean {
  const part = croppedPart(settings, picture);
  const back = inverse(pictureMap(settings, picture, frame));
  if (settings.opacity < 1 || !part || !back) return false;
  // A picture is convex: where it holds the frame's corners it holds the frame.
  const near = EDGE / fitFactor(settings.fit, picture, frame) / settings.scale;
  return [0, 1, 2, 3].every((corner) => {
    const { x, y } = mapPoint(back, { x: frame.width * (corner & 1), y: frame.height * (corner >> 1) });
    return (
      x >= part.x - near && x <= part.x + part.width + near && y >= part.y - near && y <= part.y + part.height + near
    );
  });
}
