import { strokesOf, turned, type Passing } from './strokes';

const RATE = 48_000;
const passing = (sample: number, at: number, more: Partial<Passing> = {}): Passing => ({
  sample,
  at,
  backwards: false,
  drowns: true,
  ...more,
});
const strokes = (...attacks: Passing[]) => strokesOf(attacks, 4800, ({ at }) => at * RATE, 96);
const boundsOf = (...attacks: Passing[]) => strokes(...attacks).map(({ bounds }) => bounds);

describe('strokes', () => {
  it('go from one attack to the next, each without what the others add', () => {
    expect(boundsOf(passing(1000, 0.1), passing(9000, 0.5))).toEqual([
      { high: 1000 },
      { low: 1000, high: 9000 },
      { low: 9000 },
    ]);
  });

  it('backwards have what follows in the source before them', () => {
    const back = { backwards: true };
    expect(boundsOf(passing(9000, 0.1, back), passing(1000, 0.5, back))).toEqual([
      { low: 9000 },
      { low: 1000, high: 9000 },
      { high: 1000 },
    ]);
  });

  it('have one bound where sound turns round at the attack it came from', () => {
    expect(boundsOf(passing(1000, 0.1), passing(1000, 0.5, { backwards: true }))).toEqual([
      { high: 1000 },
      { low: 1000 },
      { high: 1000 },
    ]);
  });

  it('take turns: what one leaves, the other has', () => {
    const [one, two] = strokes(passing(1000, 0.1));
    expect(one!.to).toEqual(two!.from);
    expect(turned(one!.to, 4800 - 97)).toBe(0);
    expect(turned(one!.to, 4800 - 48)).toBeCloseTo(0.5, 6);
    expect(turned(one!.to, 4800)).toBe(1);
    // Backwards, after the moment: there the attack ends.
    const [back] = strokes(passing(1000, 0.1, { backwards: true }));
    expect(back!.to).toEqual({ start: 4800, end: 4896 });
  });

  it('go on over attacks that drown nothing, and over those that are too near', () => {
    expect(strokes(passing(1000, 0.1, { drowns: false }))).toHaveLength(1);
    expect(strokes(passing(1000, 0.1), passing(2000, 0.15), passing(3000, 0.21))).toHaveLength(3);
  });
});
