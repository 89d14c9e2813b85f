import type { PictureSettings } from '@hastig/contract';
import { liesAt, pictureCorners, placedAt, plainPicture } from '..';

const wide = { width: 1280, height: 720 };
const old = { width: 640, height: 480 };
const settings = (change: Partial<PictureSettings>): PictureSettings => ({ ...plainPicture, ...change });

describe('places in a frame', () => {
  it('touch its edges with what is left of the picture', () => {
    const small = settings({ scale: 0.25 });
    expect(placedAt(small, wide, wide, { across: 1, down: -1 })).toMatchObject({ x: 0.375, y: -0.375 });
    // 960 × 720 whole, a quarter of it cropped at the left: 180 of 240 pixels are left, and end at the frame's edge.
    const cropped = settings({ scale: 0.25, crop: { left: 0.25, top: 0, right: 0, bottom: 0 } });
    const corners = pictureCorners(placedAt(cropped, old, wide, { across: -1, down: 1 }), old, wide);
    expect(corners.map(({ x, y }) => [Math.round(x), Math.round(y)])).toEqual([
      [0, 540],
      [180, 540],
      [180, 720],
      [0, 720],
    ]);
  });

  it('hold for turned pictures too', () => {
    const turned = placedAt(settings({ scale: 0.3, turn: 30 }), wide, wide, { across: -1, down: -1 });
    const corners = pictureCorners(turned, wide, wide);
    expect(Math.min(...corners.map(({ x }) => x))).toBeCloseTo(0, 9);
    expect(Math.min(...corners.map(({ y }) => y))).toBeCloseTo(0, 9);
  });

  it('are told of a picture that lies there', () => {
    const small = settings({ scale: 0.25, x: 0.375, y: -0.375 });
    expect(liesAt(small, wide, wide, { across: 1, down: -1 })).toBe(true);
    expect(liesAt(small, wide, wide, { across: 0, down: 0 })).toBe(false);
    expect(liesAt(settings({}), wide, wide, { across: 0, down: 0 })).toBe(true);
  });
});
