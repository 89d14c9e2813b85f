import { DISPLAY_GAMMA, LightMean, lightOf, valueOf } from './light';

it('light follows a display’s curve (ITU-R BT.1886, annex 1: L = V^2.4 with black at no light)', () => {
  expect(DISPLAY_GAMMA).toBe(2.4);
  for (const value of [0, 1, 16, 64, 128, 235, 255]) expect(lightOf(value)).toBeCloseTo((value / 255) ** 2.4, 6);
  // Every value comes back from light as it was, the darkest too.
  for (let value = 0; value < 256; value++) expect(valueOf(lightOf(value))).toBe(value);
});

const pixel = (...rgba: number[]): Uint8ClampedArray => Uint8ClampedArray.from(rgba);

it('a mean is taken of light, not of values', () => {
  const mean = new LightMean(1);
  mean.add(pixel(255, 0, 100, 255), 0.5);
  mean.add(pixel(0, 0, 100, 255), 0.5);
  const out = pixel(0, 0, 0, 0);
  mean.write(out);
  // Half of the light is shown by 255 · 0.5^(1/2.4).
  expect([...out]).toEqual([Math.round(255 * 0.5 ** (1 / 2.4)), 0, 100, 255]);
});

it('what is seen through counts as much as there is of it', () => {
  const mean = new LightMean(1);
  mean.add(pixel(200, 50, 0, 255), 0.25);
  mean.add(pixel(0, 0, 0, 0), 0.75);
  const out = pixel(0, 0, 0, 0);
  mean.write(out);
  expect([...out]).toEqual([200, 50, 0, 64]);
});
