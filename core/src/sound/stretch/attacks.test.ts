import { mapOf } from '../../../test/maps';
import { constantSpan } from '../..';
import { centsBetween, toneIn } from '../test-supply';
import { heard, RATE, sine, steady } from './test-heard';

// Looked up once: they run for every sample.
const { sin, exp, abs, max, PI } = Math;

describe('attacks', () => {
  // One click each quarter second of a source that is slowed, then in real time, then doubled: common practice asks for 1 ms.
  it.each(['music', 'speech'] as const)('lets clicks be heard when they are seen, for %s', async (focus) => {
    const run = mapOf([constantSpan(0.5, 60), constantSpan(1, 60), constantSpan(2, 60)], { sourceFrames: 1000 });
    const click = (n: number): number => (n % 12_000 === 6000 ? 0.9 : 0);
    const samples = await heard(run, { pitch: 'kept', focus }, click, 0, 6);
    const expected = Array.from({ length: 7 / 0.25 }, (_, i) => 0.125 + i * 0.25).map((seconds) =>
      seconds < 1 ? seconds * 2 : seconds < 3 ? seconds + 1 : 4 + (seconds - 3) / 2,
    );
    for (const at of expected.filter((seconds) => seconds < 5.9)) {
      const near = Math.round(at * RATE);
      let best = near - 2000;
      for (let n = near - 2000; n < near + 2000; n++) if (abs(samples[n]!) > abs(samples[best]!)) best = n;
      expect(abs(best - near) / RATE).toBeLessThan(0.001);
    }
  });

  // Slow sound smears a click over a block, fast sound lets it pass between two; each is heard once, and in its place.
  it.each([
    [0.1, 'music'],
    [0.25, 'music'],
    [0.25, 'speech'],
    [-0.25, 'speech'],
    [4, 'music'],
    [4, 'speech'],
    [8, 'music'],
    [16, 'speech'],
    [-4, 'music'],
  ] as const)('lets every click be heard at ×%d, for %s', async (speed, focus) => {
    const map = mapOf([constantSpan(speed, 120)], { sourceFrames: 3000, start: speed < 0 ? 1000 : 0 });
    const every = 24_000;
    const click = (n: number): number => (n % every === 7001 ? 0.9 : n % every === 7003 ? -0.5 : 0);
    const samples = await heard(map, { pitch: 'kept', focus }, click, 0, 4);
    const start = (map.start / 30) * RATE;
    const expected: number[] = [];
    for (let at = 7001; at < 4e6; at += every) {
      const n = (at - start) / speed;
      if (n > 300 && n < 4 * RATE - 300) expected.push(n);
    }
    const found: number[] = [];
    samples.forEach((value, n) => {
      if (abs(value) > 0.4 && n - (found.at(-1) ?? -1e9) > 100) found.push(n);
    });
    expect(found).toHaveLength(expected.length);
    expected.sort((a, b) => a - b);
    for (const [i, n] of found.entries()) expect(abs(n - expected[i]!) / RATE).toBeLessThan(0.0005);
  });

  it('is in step after an hour', async () => {
    const hour = mapOf([constantSpan(0.75, 30 * 3600)], { sourceFrames: 30 * 2701 });
    const click = (n: number): number => (n % 36_000 === 1000 ? 0.9 : 0);
    const from = 3590;
    const samples = await heard(hour, { pitch: 'kept', focus: 'speech' }, click, from, 4);
    const clicks: number[] = [];
    samples.forEach((value, n) => {
      if (abs(value) > 0.3 && n - (clicks.at(-1) ?? -1e9) > 4800) clicks.push(n);
    });
    expect(clicks).toHaveLength(4);
    for (const n of clicks) {
      const at = (from * RATE + n) * 0.75;
      const off = ((at - 1000 + 18_000) % 36_000) - 18_000;
      expect(abs(off) / 0.75 / RATE).toBeLessThan(0.001);
    }
  });

  it('goes on sounding at ×4 beneath attacks, as loud as it is and at its pitch', async () => {
    const played = (n: number): number => 0.5 * sine(440)(n) + (n % 48_000 < 240 ? 0.6 * sin(n * n * 0.01) : 0);
    const samples = await heard(steady(4), { pitch: 'kept' }, played, 1, 2);
    const { hertz, level } = toneIn(samples, 440, RATE);
    expect(abs(centsBetween(440, hertz))).toBeLessThan(1);
    expect(level).toBeGreaterThan(0.22);
    expect(level).toBeLessThan(0.28);
  });

  // How much of the energy of a short noise in silence, at half speed, comes more than 5 ms before it should begin.
  const early = async (focus: 'music' | 'speech', knock: (since: number) => number): Promise<number> => {
    const sampleAt = (n: number): number =>
      n >= RATE && n < RATE + 4800 ? sin(n * n * 0.013) * knock((n - RATE) / RATE) : 0;
    const samples = await heard(steady(0.5), { pitch: 'kept', focus }, sampleAt, 1, 2);
    const energy = (a: number, b: number): number =>
      samples.subarray(a, b).reduce((sum, value) => sum + value * value, 0);
    return energy(0, RATE - 240) / energy(0, 2 * RATE);
  };

  it.each(['music', 'speech'] as const)(
    'lets next to nothing of a soft beginning come before it, for %s',
    async (focus) => {
      // Too soft to be an attack: it takes 40 ms to be there, and as long to be gone.
      const soft = (since: number): number => sin((PI * max(0, since)) / 0.08) ** 2 * (since < 0.08 ? 1 : 0);
      expect(await early(focus, soft)).toBeLessThan(1e-8);
    },
  );

  it.each(['music', 'speech'] as const)('lets nothing of an attack come before it, for %s', async (focus) => {
    expect(await early(focus, (since) => exp(-since / 0.004))).toBeLessThan(1e-4);
  });

  it('strikes every note of a bar that rings on at its moment, however fast', async () => {
    // Notes of two partials each, one into the other, as struck bars and bells do.
    const stroke = (since: number, hertz: number): number =>
      since < 0
        ? 0
        : 0.3 * exp(-1.5 * since) * sin(2 * PI * hertz * since) +
          0.1 * exp(-8 * since) * sin(2 * PI * 5.4 * hertz * since);
    const notes = [523, 784, 587];
    const bars = (n: number): number =>
      notes.reduce((sum, hertz, i) => sum + stroke(n / RATE - 0.5 - 0.7 * i, hertz), 0);
    for (const speed of [0.25, 4]) {
      const map = mapOf([constantSpan(speed, 120 / speed)], { sourceFrames: 1000 });
      const samples = await heard(map, { pitch: 'kept' }, bars, 0, 2.4 / speed);
      notes.forEach((_, i) => {
        const at = Math.round(((0.5 + 0.7 * i) / speed) * RATE);
        // What is high in it, as it is in a stroke only.
        const sharp = (from: number, to: number): number => {
          let most = 0;
          for (let n = from; n < to; n++) most = max(most, abs(samples[n]! - 2 * samples[n - 1]! + samples[n - 2]!));
          return most;
        };
        expect(sharp(at - 24, at + 48) / sharp(at - 720, at - 120)).toBeGreaterThan(3);
      });
    }
  });
});
