import { extrapolate } from './extrapolate';

const { cos, exp, sin, PI } = Math;
const RATE = 48_000;

const energy = (samples: Float64Array): number => samples.reduce((sum, value) => sum + value * value, 0);

describe('how sound would go on', () => {
  // A hiss 60 dB down, as no recording is without: repeatable, of equal spread.
  const hiss = (n: number): number => ((((n * 1_103_515_245 + 12_345) >>> 8) % 2048) / 1024 - 1) * 0.0005;
  const bar = (n: number): number =>
    0.4 * exp(-n / 30_000) * sin((2 * PI * 523.25 * n) / RATE) + 0.2 * cos((2 * PI * 2827 * n) / RATE) + hiss(n);

  it('is known of tones: five milliseconds of two of them are off by less than a tenth', () => {
    const known = Float64Array.from({ length: 1152 }, (_, n) => bar(n));
    const next = extrapolate(known, 240, 64);
    const off = next.map((value, n) => value - bar(1152 + n));
    expect(energy(off) / energy(next)).toBeLessThan(0.01);
  });

  // x(n) = 1.6·x(n−1) − 0.81·x(n−2) + noise: a process whose weights are known (second order, poles at radius 0.9).
  it('is predicted by the weights of a process of two', () => {
    const known = new Float64Array(4000);
    for (let n = 2; n < known.length; n++) known[n] = 1.6 * known[n - 1]! - 0.81 * known[n - 2]! + 2000 * hiss(n);
    const [first, second] = extrapolate(known, 2, 2);
    const [a, b] = [known.at(-1)!, known.at(-2)!];
    expect(first).toBeCloseTo(1.6 * a - 0.81 * b, 0);
    expect(second).toBeCloseTo(1.6 * first! - 0.81 * a, 0);
  });

  it('never grows without end, and silence stays silent', () => {
    const known = Float64Array.from({ length: 400 }, (_, n) => exp(n / 50) * sin(n * 0.3));
    const next = extrapolate(known, 48_000, 64);
    expect(Math.max(...next.map(Math.abs).subarray(40_000))).toBeLessThan(Math.max(...known.map(Math.abs)));
    expect(energy(extrapolate(new Float64Array(400), 100, 64))).toBe(0);
  });
});
