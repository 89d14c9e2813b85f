import { noise } from '../../beats/test-songs';
import { courseOfLoudness, followLoudness, REACH, stepOf } from './loudness-course';
import { correlation } from './test-heard';

const RATE = 48_000;
const reach = REACH.music;
const { abs, exp, max, sin, PI } = Math;

const made = (count: number, at: (n: number) => number): Float32Array =>
  Float32Array.from({ length: count }, (_, n) => at(n));
const chord = (n: number): number =>
  [220, 277.18, 1318.5].reduce((sum, hertz) => sum + 0.2 * sin((2 * PI * hertz * n) / RATE), 0);

it('what has the course of its source already stays as it is', () => {
  const source = made(RATE, chord);
  const out = source.slice();
  followLoudness([out], courseOfLoudness([source], RATE, reach), RATE, reach, (step) => step);
  expect(out.every((value, n) => abs(value - source[n]!) < 1e-5)).toBe(true);
});

it('strokes that were smeared have their course again, and what is held beneath them keeps its level', () => {
  const next = noise(3);
  // A hat twelve times a second over a held note; smeared, it is one even hiss.
  const hiss = made(2 * RATE, () => next());
  const stroke = (n: number): number => exp(-(n % 4000) / 400);
  const low = (n: number): number => 0.3 * sin((2 * PI * 110 * n) / RATE);
  const source = made(2 * RATE, (n) => low(n) + 0.3 * stroke(n) * hiss[n]!);
  const out = made(2 * RATE, (n) => low(n) + 0.1 * hiss[n]!);
  const course = courseOfLoudness([source], RATE, reach);
  const before = correlation(courseOfLoudness([out], RATE, reach)[2]!, course[2]!);
  followLoudness([out], course, RATE, reach, (step) => step);
  const after = courseOfLoudness([out], RATE, reach);
  expect(before).toBeLessThan(0.3);
  expect(correlation(after[2]!, course[2]!)).toBeGreaterThan(0.95);
  const level = (row: Float64Array): number => row.reduce((sum, value) => sum + value, 0);
  expect(abs(10 * Math.log10(level(after[0]!) / level(course[0]!)))).toBeLessThan(0.2);
});

it('channels go up and down together, and silence stays silent', () => {
  const next = noise(5);
  const source = made(RATE, (n) => (n % 12_000 < 2000 ? next() : 0.05 * next()));
  const [left, right] = [made(RATE, () => 0.2 * next()), made(RATE, () => 0)];
  const ratio = [left.slice(), left.map((value) => value / 2)] as const;
  followLoudness(ratio, courseOfLoudness([source], RATE, reach), RATE, reach, (step) => step);
  expect(ratio[0].every((value, n) => abs(value - 2 * ratio[1][n]!) < 1e-6)).toBe(true);
  followLoudness([left, right], courseOfLoudness([source], RATE, reach), RATE, reach, (step) => step);
  expect(right.every((value) => value === 0)).toBe(true);
  expect(left.reduce((most, value) => max(most, abs(value)), 0)).toBeLessThan(1);
  followLoudness([new Float32Array(0)], courseOfLoudness([], RATE, reach), RATE, reach, () => 0);
});

it('a step is a millisecond of whole samples', () => {
  expect([48_000, 44_100, 22_050].map(stepOf)).toEqual([48, 44, 22]);
});
