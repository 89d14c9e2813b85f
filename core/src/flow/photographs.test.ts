import { peakRatio } from '../../test/moving';
import { HEIGHT, photographOf, photographs, pictured, WIDTH, type Warp } from '../../test/photographs';
import { InBetween } from '.';

const lumaOf = ({ data }: { data: Uint8Array }): Uint8Array => data.subarray(0, WIDTH * HEIGHT);

describe.each(photographs)('between two pictures of the photograph %s', (name) => {
  const photograph = photographOf(name);
  it.each([
    ['moved', (t: number): Warp => ({ x: 11 * t, y: -6.5 * t })],
    ['turned', (t: number): Warp => ({ angle: 0.06 * t })],
    ['pushed in', (t: number): Warp => ({ scale: 1 + 0.08 * t })],
    ['all at once', (t: number): Warp => ({ x: -7 * t, y: 4 * t, angle: -0.03 * t, scale: 1 + 0.04 * t })],
  ])('%s, the one half-way is nearer to the true one than a blend or the first', (_, warp) => {
    const [one, two, between] = [0, 1, 0.5].map((t) => pictured(photograph, warp(t)));
    const truth = lumaOf(between!);
    const [first, second] = [lumaOf(one!), lumaOf(two!)];
    const blend = first.map((value, n) => Math.round((value + second[n]!) / 2));
    const made = peakRatio(lumaOf(new InBetween(one!, two!).at(0.5)), truth);
    expect(made).toBeGreaterThan(peakRatio(blend, truth) + 4);
    expect(made).toBeGreaterThan(peakRatio(first, truth) + 6);
  });
});
