import { evennessOf, StepFinder } from '..';

/** A textured square on a flat ground, at a place across (pixels, may be between two). */
function square(x: number, width = 96, height = 48) {
  const data = new Uint8Array(width * height).fill(40);
  const texture = (across: number, down: number): number =>
    128 + 60 * Math.sin(across * 0.9) * Math.cos(down * 0.7) + 40 * Math.sin(down * 0.5 + across * 0.3);
  for (let row = 12; row < 36; row++)
    for (let column = 0; column < width; column++) {
      const inside = column - x;
      if (inside >= 0 && inside < 24) data[row * width + column] = texture(inside, row);
    }
  return { width, height, data };
}

const stepsOf = (places: readonly number[]): number[] => {
  const finder = new StepFinder();
  return places.map((x) => finder.next(square(x)));
};
const evenAt = (steps: readonly number[]): number => evennessOf(Float32Array.from(steps)).uneven!;

describe('steps of what moves', () => {
  it('are as long as it goes, and nothing where it stands', () => {
    const [first, ...steps] = stepsOf([10, 12, 14, 14, 17]);
    expect(first).toBeNaN();
    expect(steps.map((step) => Math.round(step * 10) / 10)).toEqual(
      [2, 2, 0, 3].map((step) => expect.closeTo(step, 0)),
    );
    expect(steps[2]).toBe(0);
  });

  it('are none across a cut, told or seen', () => {
    const finder = new StepFinder();
    finder.next(square(10));
    expect(finder.next(square(40), true)).toBeNaN();
    const white = { ...square(0), data: new Uint8Array(96 * 48).fill(230) };
    expect(finder.next(white)).toBeNaN();
  });
});

describe('evenness', () => {
  const along = (count: number, at: (n: number) => number): number[] => Array.from({ length: count }, (_, n) => at(n));

  it('is whole at a constant speed and through a ramp', () => {
    expect(evenAt([NaN, ...along(40, () => 3)])).toBeCloseTo(0, 6);
    expect(evenAt([NaN, ...along(40, (n) => 1 + n / 10)])).toBeCloseTo(0, 6);
    expect(evenAt([NaN, ...along(40, (n) => 1 + (n / 20) ** 2)])).toBeCloseTo(0, 5);
  });

  // The weights of nine points for a parabola, over 231 (Savitzky and Golay 1964, table I; from memory).
  const weights = [-21, 14, 39, 54, 59, 54, 39, 14, -21].map((weight) => weight / 231);
  /** How far the steps of a pattern that comes again and again are from what those weights say, on average, over the mean step. */
  const published = (pattern: readonly number[]): number => {
    const at = (n: number): number => pattern[((n % pattern.length) + pattern.length) % pattern.length]!;
    const off = pattern.map((step, n) => Math.abs(step - weights.reduce((sum, weight, i) => sum + weight * at(n + i - 4), 0))); // prettier-ignore
    return off.reduce((sum, one) => sum + one, 0) / pattern.reduce((sum, one) => sum + one, 0);
  };

  it('is told by how far steps are off: every frame twice, and 24 frames in 30 pictures (common practice)', () => {
    for (const pattern of [
      [0, 2],
      [1.25, 1.25, 1.25, 1.25, 0],
    ]) {
      const uneven = evenAt(along(2000, (n) => pattern[n % pattern.length]!));
      expect(uneven).toBeCloseTo(published(pattern), 2);
    }
    expect(published([0, 2])).toBeGreaterThan(2 * published([1.25, 1.25, 1.25, 1.25, 0]));
  });

  it('smooths as the published weights do', () => {
    const steps = [2, 3, 1, 5, 4, 2, 6, 3, 1];
    const smooth = weights.reduce((sum, weight, n) => sum + weight * steps[n]!, 0);
    expect(evennessOf(Float32Array.from(steps)).off[4]).toBeCloseTo(Math.abs(4 - smooth), 5);
  });

  it('is not asked for where nothing moves', () => {
    expect(evenAt(along(20, () => 0.001))).toBeUndefined();
    expect(evenAt([])).toBeUndefined();
  });

  it('of pictures: held frames are uneven, those in between are not', () => {
    const held = stepsOf(along(20, (n) => 5 + 2 * Math.floor(n / 2)));
    const between = stepsOf(along(20, (n) => 5 + n));
    expect(evenAt(between)).toBeLessThan(0.15);
    expect(evenAt(held)).toBeGreaterThan(0.8);
  });
});
