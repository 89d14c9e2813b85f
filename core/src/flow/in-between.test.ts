import { constantLike, moving, peakRatio } from '../../test/moving';
import { InBetween, planarBytes, type PlanarPicture } from '.';

const WIDTH = 176;
const HEIGHT = 112;
const lumaOf = ({ data }: { data: Uint8Array }): Uint8Array => data.subarray(0, WIDTH * HEIGHT);
const blended = (a: Uint8Array, b: Uint8Array, share: number): Uint8Array =>
  Uint8Array.from(a, (value, n) => Math.round(value * (1 - share) + b[n]! * share));

/** How far from the true picture, in decibels: made, and blended. */
function judged(at: (time: number) => PlanarPicture, share: number): { made: number; blended: number; held: number } {
  const [one, two, between] = [at(0), at(1), at(share)].map((picture) => picture);
  const truth = lumaOf(between!);
  const made = new InBetween(one!, two!).at(share);
  return {
    made: peakRatio(lumaOf(made), truth),
    blended: peakRatio(blended(lumaOf(one!), lumaOf(two!), share), truth),
    held: peakRatio(lumaOf(one!), truth),
  };
}

describe('pictures between two', () => {
  it.each([0.25, 0.5, 0.8])(
    'are nearer to the true ones than blends, for what moves over what stands (at %d)',
    (share) => {
      const found = judged((time) => moving(WIDTH, HEIGHT, { discX: 60 + 14 * time, discY: 50 - 9 * time }), share);
      expect(found.made).toBeGreaterThan(found.blended + 6);
      expect(found.made).toBeGreaterThan(34);
    },
  );

  it('follow what is small and goes farther than half its size', () => {
    const found = judged((time) => moving(WIDTH, HEIGHT, { discX: 50 + 26 * time, discY: 45 + 13 * time }), 0.5);
    expect(found.made).toBeGreaterThan(found.blended + 4);
  });

  it('follow a push-in and a turn of all of it', () => {
    const push = judged((time) => moving(WIDTH, HEIGHT, { scale: 1 + 0.06 * time }), 0.5);
    expect(push.made).toBeGreaterThan(push.blended + 4);
    const turn = judged((time) => moving(WIDTH, HEIGHT, { angle: 0.04 * time }), 0.5);
    expect(turn.made).toBeGreaterThan(turn.blended + 4);
  });

  it('follow a pan of more than a tenth of the picture, up to its edge', () => {
    const pan = judged((time) => moving(WIDTH, HEIGHT, { x: 20 * time }), 0.5);
    expect(pan.made).toBeGreaterThan(pan.blended + 5);
  });

  it('keep thin lines whole that move over a faint texture', () => {
    // Slanted lines one pixel wide, at uneven distances, 14 pixels on from picture to picture.
    const lined = (time: number): PlanarPicture => {
      const { data, ...size } = moving(WIDTH, HEIGHT, {});
      const drawn = data.map((value) => 80 + 0.2 * value);
      for (const line of [8, 47, 70, 115])
        for (let y = 20; y < 90; y++) {
          const at = line + 0.4 * (y - 20) + 14 * time;
          const [left, part] = [Math.floor(at), at % 1];
          for (const [x, share] of [
            [left, 1 - part],
            [left + 1, part],
          ] as const) {
            const n = y * WIDTH + x;
            drawn[n] = Math.round(drawn[n]! * (1 - share) + 255 * share);
          }
        }
      return { ...size, data: drawn };
    };
    const found = judged(lined, 0.5);
    expect(found.made).toBeGreaterThan(found.blended + 3);
    expect(found.made).toBeGreaterThan(found.held + 4);
  });

  it('are the pictures themselves at both ends, and where nothing moves', () => {
    const [one, two] = [moving(WIDTH, HEIGHT, { discX: 60 }), moving(WIDTH, HEIGHT, { discX: 66 })];
    const between = new InBetween(one, two);
    expect(between.at(0).data).toEqual(one.data);
    expect(between.at(1).data).toEqual(two.data);
    expect(peakRatio(new InBetween(one, one).at(0.5).data, one.data)).toBeGreaterThan(50);
  });

  it('do not mix what a cut parts', () => {
    const other = moving(WIDTH, HEIGHT, { x: 5000, y: 3000, invert: true });
    const one = moving(WIDTH, HEIGHT, {});
    const between = new InBetween(one, other);
    expect(between.isCut).toBe(true);
    expect(between.at(0.4).data).toEqual(one.data);
    expect(between.at(0.6).data).toEqual(other.data);
    // A flash is no cut.
    const bright = {
      ...one,
      data: one.data.map((value, n) => (n < WIDTH * HEIGHT ? Math.min(255, value + 40) : value)),
    };
    expect(new InBetween(one, bright).isCut).toBe(false);
  });

  it('of grey are grey, of one colour that colour', () => {
    const plain = constantLike(WIDTH, HEIGHT, [90, 130, 60]);
    expect(new InBetween(plain, plain).at(0.3).data).toEqual(plain.data);
  });

  it('can be of any size', () => {
    for (const [width, height] of [
      [1, 1],
      [2, 2],
      [1, 9],
      [7, 5],
      [8, 8],
      [9, 33],
      [63, 17],
    ] as const) {
      const [one, two] = [moving(width, height, {}), moving(width, height, { x: 1 })];
      const { data, doubt } = new InBetween(one, two).at(0.5);
      expect(data).toHaveLength(planarBytes(width, height));
      expect(doubt).toBeGreaterThanOrEqual(0);
      expect(doubt).toBeLessThanOrEqual(1);
    }
  });
});
