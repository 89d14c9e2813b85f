import { EFFECT_LEAD, effects, searchEffects, type Effect } from './catalogue';
import { makeEffect, whooshFrom } from './make-effect';
import { noiseOf, SweptFilter } from './noise';

const RATE = 16_000;

/** The root mean square of both sides around each moment, within so many seconds. */
function loudness([left, right]: readonly Float32Array[], seconds: number): Float64Array {
  const reach = Math.max(1, Math.round((seconds * RATE) / 2));
  const sums = new Float64Array(left!.length + 1);
  for (let i = 0; i < left!.length; i++) sums[i + 1] = sums[i]! + left![i]! ** 2 + right![i]! ** 2;
  return Float64Array.from(left!, (_, i) => {
    const [from, to] = [Math.max(0, i - reach), Math.min(left!.length, i + reach)];
    return Math.sqrt((sums[to]! - sums[from]!) / (to - from));
  });
}

const loudestOf = (sound: readonly Float32Array[], seconds: number): number => {
  const loud = loudness(sound, seconds);
  return loud.indexOf(loud.reduce((most, value) => Math.max(most, value), 0)) / RATE;
};

/** How near to its loudest moment a kind of effect is measured: what is struck at once, what swells as a whole. */
const window: Record<Effect['kind'], [over: number, within: number]> = {
  whoosh: [0.2, 0.12],
  riser: [0.3, 0.25],
  rumble: [1, 0.7],
  impact: [0.01, 0.012],
  tick: [0.004, 0.006],
};

describe.each(effects)('$name', (effect) => {
  const sound = makeEffect(effect, RATE);

  it('lasts as long as it says, begins and ends in silence, and does not clip', () => {
    const [left, right] = sound;
    expect(left).toHaveLength(Math.round(effect.seconds * RATE));
    const peak = Math.max(...sound.map((side) => side.reduce((most, value) => Math.max(most, Math.abs(value)), 0)));
    expect(peak).toBeCloseTo(0.7, 5);
    const lead = Math.floor(EFFECT_LEAD * RATE) - 1;
    for (const side of [left, right]) {
      expect(side.subarray(0, lead).every((value) => value === 0)).toBe(true);
      expect(Math.abs(side.at(-1)!)).toBeLessThan(0.002);
    }
  });

  it('has no offset', () => {
    for (const side of sound)
      expect(Math.abs(side.reduce((sum, value) => sum + value, 0) / side.length)).toBeLessThan(0.01);
  });

  it('is loudest where it says', () => {
    const [over, within] = window[effect.kind];
    expect(Math.abs(loudestOf(sound, over) - effect.loudest)).toBeLessThan(within);
  });
});

it('the same comes out every time, and each is another', () => {
  const [a, b] = [makeEffect(effects[0]!, RATE), makeEffect(effects[0]!, RATE)];
  expect(a[0]).toEqual(b[0]);
  expect(new Set(effects.map(({ id }) => id)).size).toBe(effects.length);
});

it('effects are found by all words of a search, and by kind', () => {
  const names = (...search: Parameters<typeof searchEffects>): string[] =>
    searchEffects(...search).map(({ name }) => name);
  expect(names('rising')).toEqual(['Upward rush', 'Short rise', 'Long rise']);
  expect(names('LONG low')).toEqual(['Deep boom', 'Long rumble']);
  expect(names('low', 'impact')).toEqual(['Soft thud', 'Deep boom']);
  expect(names('  ')).toHaveLength(effects.length);
  expect(names('trumpet')).toEqual([]);
});

describe('a whoosh made from a speed curve', () => {
  // Slow, a ramp of a second up to eight times, held for half a second, and down again.
  const perSecond = 25;
  const speeds = [
    ...Array.from({ length: 25 }, () => 0.5),
    ...Array.from({ length: 25 }, (_, i) => 0.5 + (7.5 * i) / 25),
    ...Array.from({ length: 12 }, () => 8),
    ...Array.from({ length: 25 }, (_, i) => 8 - (7.5 * i) / 25),
    ...Array.from({ length: 25 }, () => 0.5),
  ];
  const sound = whooshFrom({ speeds, perSecond }, RATE);
  const loudest = EFFECT_LEAD + 56 / perSecond;

  it('is loudest where it is fastest, silent where it is slowest, and as long as the curve', () => {
    expect(Math.abs(loudestOf(sound, 0.3) - loudest)).toBeLessThan(0.25);
    expect(sound[0].length / RATE).toBeCloseTo(EFFECT_LEAD + speeds.length / perSecond, 3);
    const loud = loudness(sound, 0.1);
    expect(loud[Math.round(0.6 * RATE)]).toBeLessThan(1e-4);
    const at = (seconds: number): number => loud[Math.round((EFFECT_LEAD + seconds) * RATE)]!;
    expect(at(1.3)).toBeLessThan(at(1.6));
    expect(at(1.6)).toBeLessThan(at(2.2));
    expect(at(2.2)).toBeGreaterThan(at(3));
  });

  it('is higher where it is faster', () => {
    // Crossings of zero a second say how high noise is.
    const crossings = (from: number, to: number): number => {
      let count = 0;
      const [a, b] = [(EFFECT_LEAD + from) * RATE, (EFFECT_LEAD + to) * RATE].map(Math.round) as [number, number];
      for (let i = a + 1; i < b; i++) if (sound[0][i]! >= 0 !== sound[0][i - 1]! >= 0) count++;
      return count / (to - from);
    };
    expect(crossings(2.05, 2.45)).toBeGreaterThan(1.5 * crossings(1.2, 1.5));
  });

  it('goes backwards as fast as forwards, and an even speed makes none', () => {
    expect(whooshFrom({ speeds: speeds.map((speed) => -speed), perSecond }, RATE)[0]).toEqual(sound[0]);
    const even = whooshFrom({ speeds: [1, 1, 1], perSecond }, RATE);
    expect(even[0].every((value) => value === 0)).toBe(true);
  });
});

it('the swept filter lets its own frequency pass and little two octaves beside it', () => {
  const gain = (hertz: number): number => {
    const filter = new SweptFilter(48_000, 0.5);
    let most = 0;
    for (let i = 0; i < 9600; i++) {
      const { band } = filter.next(Math.sin((2 * Math.PI * hertz * i) / 48_000), 1000);
      if (i > 4800) most = Math.max(most, Math.abs(band));
    }
    return most;
  };
  expect(gain(1000)).toBeCloseTo(1, 2);
  // Of a band of Q 2 (second order): 1 / √(1 + Q²(4 − 1/4)²) = 0.132.
  expect(gain(4000)).toBeLessThan(0.14);
  expect(gain(250)).toBeLessThan(0.14);
});

it('noise is even and has no offset', () => {
  const noise = noiseOf(5);
  const values = Array.from({ length: 20_000 }, noise);
  expect(Math.abs(values.reduce((sum, value) => sum + value, 0) / values.length)).toBeLessThan(0.01);
  const power = values.reduce((sum, value) => sum + value * value, 0) / values.length;
  expect(power).toBeCloseTo(1 / 3, 1);
});
