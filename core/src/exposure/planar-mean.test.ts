import { planarBytes, type PlanarPicture } from '../flow';
import { fromPlanes, rgbaToI420, toPlanes, YUV_BITS, type YuvSpace } from '../picture';
import { DISPLAY_GAMMA } from './light';
import { PlanarMean } from './planar-mean';

const hdtv: YuvSpace = { matrix: 'bt709', fullRange: false };

const even = (width: number, height: number, y: number, cb: number, cr: number): PlanarPicture => {
  const data = new Uint8Array(planarBytes(width, height)).fill(y, 0, width * height);
  const chroma = ((width + 1) >> 1) * ((height + 1) >> 1);
  data.fill(cb, width * height, width * height + chroma).fill(cr, width * height + chroma);
  return { width, height, data };
};

it('planes come to colours as ITU-R BT.709-6, items 3.2 to 3.5, and BT.601-7 say', () => {
  const one = 2 ** YUV_BITS;
  // E′R = E′Y + 1.5748 E′CR; E′B = E′Y + 1.8556 E′CB (BT.709-6, 3.3, solved), and 1.402, 1.772 (BT.601-7, 2.5.2).
  for (const [matrix, red, blue] of [
    ['bt709', 1.5748, 1.8556],
    ['bt601', 1.402, 1.772],
  ] as const) {
    const full = fromPlanes({ matrix, fullRange: true });
    expect(full.redCr / one).toBeCloseTo(red, 3);
    expect(full.blueCb / one).toBeCloseTo(blue, 3);
    const limited = fromPlanes({ matrix, fullRange: false });
    expect(limited.luma / one).toBeCloseTo(255 / 219, 3);
    expect(limited.redCr / one).toBeCloseTo((red * 255) / 224, 3);
  }
  expect(toPlanes(hdtv).yr / one).toBeCloseTo((0.2126 * 219) / 255, 3);
});

it.each([
  ['bt709', false],
  ['bt709', true],
  ['bt601', false],
  ['bt601', true],
] as const)('the mean of pictures that are alike is that picture (%s, full range %s)', (matrix, fullRange) => {
  const [width, height] = [16, 12];
  const pixels = Uint8ClampedArray.from({ length: 4 * width * height }, (_, n) => (n >> 3) % 256);
  const data = new Uint8Array(planarBytes(width, height));
  rgbaToI420(pixels, width, height, { matrix, fullRange }, data);
  const mean = new PlanarMean(width, height, { matrix, fullRange });
  for (let n = 0; n < 4; n++) mean.add(data, 0.25);
  const { data: made } = mean.picture();
  expect(made).toEqual(data);
  // Where something else is seen for a moment that is as short as none, by red, green and blue and back.
  mean.add(
    data.map((value) => value ^ 1),
    1e-12,
  );
  const most = mean.picture().data.reduce((most, value, n) => Math.max(most, Math.abs(value - data[n]!)), 0);
  // Rounded to whole values of red, green and blue once on the way.
  expect(most).toBeLessThanOrEqual(1);
});

it('half black and half white is what half the light looks like (ITU-R BT.1886)', () => {
  for (const [width, height] of [
    [2, 2],
    [1, 1],
    [5, 3],
  ] as const) {
    const mean = new PlanarMean(width, height, hdtv);
    mean.add(even(width, height, 16, 128, 128).data, 0.5);
    mean.add(even(width, height, 235, 128, 128).data, 0.5);
    const { data } = mean.picture();
    expect(data[0]).toBe(Math.round(16 + 219 * 0.5 ** (1 / DISPLAY_GAMMA)));
    expect(new Set(data)).toEqual(new Set([data[0], 128]));
  }
});
