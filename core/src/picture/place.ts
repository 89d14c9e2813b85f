import type { PictureSettings } from '@hastig/contract';
import { mapPoint, type Point, type Size } from './affine';
import { croppedPart, pictureMap } from './settings';

/** Where in its frame a picture lies: at the left edge, in the middle or at the right (−1, 0, 1), and so downwards. */
export interface PicturePlace {
  across: -1 | 0 | 1;
  down: -1 | 0 | 1;
}

/** The corners of what is left of a picture, in pixels of its frame, from its own upper left one clockwise. */
export function pictureCorners(settings: PictureSettings, picture: Size, frame: Size): Point[] {
  const { x, y, width, height } = croppedPart(settings, picture) ?? { x: 0, y: 0, width: 0, height: 0 };
  const map = pictureMap(settings, picture, frame);
  return [
    { x, y },
    { x: x + width, y },
    { x: x + width, y: y + height },
    { x, y: y + height },
  ].map((corner) => mapPoint(map, corner));
}

/** The settings with what is left of the picture moved so that it touches its frame's edges there, or lies in the middle. */
export function placedAt(
  settings: PictureSettings,
  picture: Size,
  frame: Size,
  { across, down }: PicturePlace,
): PictureSettings {
  const corners = pictureCorners(settings, picture, frame);
  const shift = (values: readonly number[], size: number, place: -1 | 0 | 1): number => {
    const [least, most] = [Math.min(...values), Math.max(...values)];
    const gap = place < 0 ? -least : place > 0 ? size - most : (size - most - least) / 2;
    return gap / size;
  };
  return {
    ...settings,
    x: settings.x + shift(corners.map(({ x }) => x), frame.width, across), // prettier-ignore
    y: settings.y + shift(corners.map(({ y }) => y), frame.height, down), // prettier-ignore
  };
}

/** Share of the frame within which a place counts as taken: less than one step of a number typed in percent. */
const NEAR = 1e-4;

/** Whether a picture lies at a place. */
export function liesAt(settings: PictureSettings, picture: Size, frame: Size, place: PicturePlace): boolean {
  const { x, y } = placedAt(settings, picture, frame, place);
  return Math.abs(x - settings.x) < NEAR && Math.abs(y - settings.y) < NEAR;
}
