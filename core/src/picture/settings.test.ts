import type { PictureSettings } from '@hastig/contract';
import {
  after,
  coversFrame,
  croppedPart,
  fitFactor,
  identity,
  inverse,
  isPlain,
  mapPoint,
  pictureMap,
  plainPicture,
  sameSettings,
  type Affine,
  type Size,
} from '..';

const wide: Size = { width: 1280, height: 720 };
const tall: Size = { width: 1080, height: 1920 };
const old: Size = { width: 640, height: 480 };

const settings = (change: Partial<PictureSettings>): PictureSettings => ({ ...plainPicture, ...change });
/** Where a picture's corners come to lie, from the upper left one clockwise, to a millionth of a pixel. */
const corners = (change: Partial<PictureSettings>, picture: Size, frame: Size): number[][] => {
  const map = pictureMap(settings(change), picture, frame);
  const round = (value: number): number => Math.round(value * 1e6) / 1e6 + 0;
  return [
    [0, 0],
    [picture.width, 0],
    [picture.width, picture.height],
    [0, picture.height],
  ].map(([x, y]) => {
    const point = mapPoint(map, { x: x!, y: y! });
    return [round(point.x), round(point.y)];
  });
};

// The expected places are worked out by hand from the sizes.
describe('how a picture lies in its frame', () => {
  it.each<[string, Partial<PictureSettings>, Size, Size, number[][]]>([
    ['whole, bars beside it', {}, old, wide, [[160, 0], [1120, 0], [1120, 720], [160, 720]]], // prettier-ignore
    ['filling, cut above and below', { fit: 'fill' }, old, wide, [[0, -120], [1280, -120], [1280, 840], [0, 840]]], // prettier-ignore
    ['whole in an upright frame', {}, wide, tall, [[0, 656.25], [1080, 656.25], [1080, 1263.75], [0, 1263.75]]], // prettier-ignore
    ['pixel for pixel', { fit: 'pixels' }, old, wide, [[320, 120], [960, 120], [960, 600], [320, 600]]], // prettier-ignore
    ['a quarter, in the upper right', { scale: 0.25, x: 0.375, y: -0.375 }, wide, wide, [[960, 0], [1280, 0], [1280, 180], [960, 180]]], // prettier-ignore
    ['a quarter turn clockwise', { turn: 90, fit: 'pixels' }, old, wide, [[880, 40], [880, 680], [400, 680], [400, 40]]], // prettier-ignore
    ['mirrored', { mirror: 'across' }, wide, wide, [[1280, 0], [0, 0], [0, 720], [1280, 720]]], // prettier-ignore
    ['upside down and mirrored is half a turn', { mirror: 'both' }, wide, wide, corners({ turn: 180 }, wide, wide)],
    ['mirrored first, then turned', { mirror: 'across', turn: 90 }, wide, wide, [[1000, 1000], [1000, -280], [280, -280], [280, 1000]]], // prettier-ignore
  ])('%s', (_name, change, picture, frame, expected) => {
    expect(corners(change, picture, frame)).toEqual(expected);
  });

  it('keeps its shape, whatever is turned and moved', () => {
    const [a, b, c, d] = pictureMap(settings({ turn: 33.3, scale: 0.7, x: 0.2, mirror: 'down' }), old, wide);
    const factor = fitFactor('whole', old, wide) * 0.7;
    expect(Math.hypot(a, b)).toBeCloseTo(factor, 12);
    expect(Math.hypot(c, d)).toBeCloseTo(factor, 12);
    expect(a * c + b * d).toBeCloseTo(0, 12);
    // Mirrored once: the plane is turned over.
    expect(a * d - b * c).toBeCloseTo(-factor * factor, 12);
  });

  it('crops shares off the picture’s own edges', () => {
    const crop = { left: 0.25, top: 0.1, right: 0, bottom: 0.4 };
    expect(croppedPart(settings({ crop }), old)).toEqual({ x: 160, y: 48, width: 480, height: 240 });
    expect(croppedPart(settings({ crop: { ...crop, right: 0.75 } }), old)).toBeUndefined();
  });
});

describe('whether a picture hides what lies below', () => {
  it.each<[boolean, string, Partial<PictureSettings>, Size, Size]>([
    [true, 'the frame’s own shape', {}, wide, wide],
    [true, 'the same shape in other pixels', {}, { width: 1920, height: 1080 }, wide],
    [false, 'bars', {}, old, wide],
    [true, 'filled', { fit: 'fill' }, old, wide],
    [false, 'filled and a little smaller', { fit: 'fill', scale: 0.999 }, old, wide],
    [false, 'filled and moved along its tight side', { fit: 'fill', x: 0.01 }, old, wide],
    [true, 'filled and moved along its free side', { fit: 'fill', y: 0.1 }, old, wide],
    [false, 'seen through', { opacity: 0.99 }, wide, wide],
    [true, 'mirrored', { mirror: 'both' }, wide, wide],
    [false, 'turned a little', { turn: 1 }, wide, wide],
    [true, 'turned a little and larger', { turn: 1, scale: 1.1 }, wide, wide],
    [false, 'a quarter turn', { turn: 90 }, wide, wide],
    [true, 'a quarter turn, as much larger as the frame is wider than high', { turn: 90, scale: 16 / 9 }, wide, wide],
    [false, 'cropped', { crop: { left: 0, top: 0, right: 0.01, bottom: 0 } }, wide, wide],
    [true, 'cropped outside the frame', { fit: 'fill', crop: { left: 0, top: 0.1, right: 0, bottom: 0.1 } }, old, wide],
  ])('%s: %s', (covers, _name, change, picture, frame) => {
    expect(coversFrame(settings(change), picture, frame)).toBe(covers);
  });
});

describe('settings that change nothing', () => {
  it('are none', () => {
    expect([isPlain(undefined), isPlain(settings({})), isPlain(settings({ opacity: 0.5 }))]).toEqual([
      true,
      true,
      false,
    ]);
    expect(isPlain(settings({ crop: { left: 0.1, top: 0, right: 0, bottom: 0 } }))).toBe(false);
    expect(sameSettings(undefined, { ...plainPicture })).toBe(true);
    expect(sameSettings(settings({ turn: 1 }), settings({ turn: 2 }))).toBe(false);
  });
});

describe('maps of the plane', () => {
  const shear: Affine = [2, 1, -1, 3, 5, 7];

  it('are done one after the other', () => {
    const both = after(shear, [0, 1, -1, 0, 10, 0]);
    const point = { x: 3, y: 4 };
    expect(mapPoint(both, point)).toEqual(mapPoint(shear, mapPoint([0, 1, -1, 0, 10, 0], point)));
  });

  it('have a way back, unless they press it flat', () => {
    after(inverse(shear)!, shear).forEach((value, index) => expect(value).toBeCloseTo(identity[index]!, 12));
    expect(inverse([1, 2, 2, 4, 0, 0])).toBeUndefined();
  });
});
