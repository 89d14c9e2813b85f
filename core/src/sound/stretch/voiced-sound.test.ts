import { mapOf } from '../../../test/maps';
import {
  constantSpan,
  frameCount,
  ProgramMix,
  rampSpan,
  reverseRange,
  soundRuns,
  Voices,
  type SoundSupply,
} from '../..';
import { centsBetween, firstDifference, madeSupply, toneIn } from '../test-supply';
import { heard, mixOf, programOfMap, RATE, sine, steady } from './test-heard';

// Looked up once: they run for every sample.
const { sin, abs, max, PI } = Math;

/** Most cents by which the pitch misses an expected one, in half seconds, joints between sections included. */
function missOf(samples: Float32Array, hertz: number): number {
  const half = RATE / 2;
  const parts = Array.from({ length: Math.floor(samples.length / half) }, (_, i) =>
    samples.subarray(i * half, (i + 1) * half),
  );
  return Math.max(...parts.map((part) => abs(centsBetween(hertz, toneIn(part, hertz, RATE).hertz))));
}

describe('a pitch of its own', () => {
  // The cent: 1200 to the octave (definition, A. J. Ellis 1885).
  it.each([0.1, 0.25, 0.5, 1, 2, 4, -0.5])('is kept within a cent at speed %d', async (speed) => {
    const samples = await heard(steady(speed), { pitch: 'kept' }, sine(440), 1, 6);
    expect(missOf(samples, 440)).toBeLessThan(1);
    expect(toneIn(samples.subarray(0, RATE), 440, RATE).level).toBeGreaterThan(0.48);
    expect(samples.every((value) => abs(value) < 0.55)).toBe(true);
  });

  it.each([
    [700, 0.5],
    [-500, 1],
    [33, 2],
  ])('is shifted by %d cents within a cent at speed %d, its length kept', async (cents, speed) => {
    const hertz = 440 * 2 ** (cents / 1200);
    expect(missOf(await heard(steady(speed), { pitch: 'kept', cents }, sine(440), 1, 5), hertz)).toBeLessThan(1);
  });

  it('follows the speed and is shifted beside: 1200 · log2(v) + 300', async () => {
    const hertz = 440 * 0.5 * 2 ** (300 / 1200);
    expect(missOf(await heard(steady(0.5), { cents: 300 }, sine(440), 1, 5), hertz)).toBeLessThan(1);
  });

  it('−12 semitones at half speed are exactly tape (common practice)', async () => {
    const kept = await heard(steady(0.5), { pitch: 'kept', cents: -1200 }, sine(440), 1, 1);
    expect(firstDifference(kept, await heard(steady(0.5), {}, sine(440), 1, 1))).toBe(-1);
  });

  it('is left as it is, to the sample, where speed and pitch are those of the file', async () => {
    const samples = await heard(steady(1), { pitch: 'kept' }, sine(440), 1, 1);
    for (let n = 0; n < samples.length; n += 997) expect(samples[n]).toBeCloseTo(sine(440)(RATE + n), 6);
  });

  it('is shifted over time by keys', async () => {
    const keys = {
      cents: {
        by: 'output' as const,
        keys: [
          { at: 60, value: 0 },
          { at: 120, value: 1200 },
        ],
      },
    };
    const map = steady(0.5);
    const at = async (seconds: number): Promise<number> =>
      (await heard(map, { pitch: 'kept', keys }, sine(440), seconds, 0.5)).reduce(
        (crossings, value, n, all) => crossings + (n > 0 && all[n - 1]! < 0 && value >= 0 ? 2 : 0),
        0,
      );
    expect(await at(1)).toBeCloseTo(440, -1);
    expect(await at(4.5)).toBeCloseTo(880, -1);
    // Half way through an even ease in and out it has half of the cents: 440 · √2.
    expect(await at(2.75)).toBeGreaterThan(560);
    expect(await at(2.75)).toBeLessThan(690);
  });
});

describe('sound with a pitch of its own', () => {
  const map = reverseRange(
    mapOf(
      [constantSpan(1, 40), rampSpan(1, 0.3, 60), constantSpan(0.3, 100), rampSpan(0.3, 2, 40), constantSpan(2, 30)],
      {
        sourceFrames: 2000,
        start: 100,
      },
    ),
    { from: 90, to: 150 },
  );
  const rough = (n: number): number => 0.3 * sin(n * n * 1e-7) + 0.1 * sin(n * 0.37);

  it('comes out the same in whatever pieces it is asked for, and in whatever order', async () => {
    const settings = { pitch: 'kept' as const };
    // Across a joint, at 4 s.
    const [from, count] = [3 * RATE, 2.5 * RATE];
    const whole = (await mixOf(map, settings, rough).read(from, count, RATE)).channels![0]!;
    const mix = mixOf(map, settings, rough);
    const parts = new Float32Array(count);
    const size = 12_345;
    const starts = Array.from({ length: Math.ceil(count / size) }, (_, i) => i * size).reverse();
    for (const start of starts) {
      const some = Math.min(size, count - start);
      parts.set((await mix.read(from + start, some, RATE)).channels![0]!, start);
    }
    expect(firstDifference(parts, whole)).toBe(-1);
  });

  it('lasts as long as the picture, to the sample', async () => {
    const [run] = soundRuns(programOfMap(map, { pitch: 'kept' }));
    expect(Math.round(run!.to * RATE)).toBeLessThanOrEqual(frameCount(map) * (RATE / 30));
    const all = mixOf(steady(0.5), { pitch: 'kept' }, () => 0.5);
    expect((await all.read(10 * RATE - 5, 10, RATE)).channels![0]!.map((value) => (value === 0 ? 0 : 1))).toEqual(
      new Float32Array([1, 1, 1, 1, 1, 0, 0, 0, 0, 0]),
    );
  });

  it('has no alias where it is shifted up past what the rate holds: 15 kHz an octave higher are 40 dB down', async () => {
    const level = async (hertz: number, cents: number, speed: number): Promise<number> => {
      const samples = await heard(steady(speed), { pitch: 'kept', cents }, sine(hertz), 1, 1);
      return Math.sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);
    };
    // The tone's own level is 0.354.
    expect(await level(15_000, 1200, 0.5)).toBeLessThan(0.00354);
    expect(await level(15_000, 1200, 4)).toBeLessThan(0.00354);
    expect(await level(7000, 1200, 4)).toBeGreaterThan(0.3);
  });

  it.each([40, 60, 100])('goes on at %d Hz across joints, where such waves may meet out of phase', async (hertz) => {
    // Joints lie at 4 and 8 s.
    const samples = await heard(steady(0.5), { pitch: 'kept' }, sine(hertz), 3, 6);
    const periods = Math.round((3 * RATE) / hertz);
    for (let at = 0; at + 2 * periods <= samples.length; at += 480) {
      const { level } = toneIn(samples.subarray(at, at + 2 * periods), hertz, RATE);
      expect(20 * Math.log10(level / 0.5)).toBeGreaterThan(-2);
    }
  });

  it('adds no offset and does not clip what does not', async () => {
    for (const speed of [0.25, 4]) {
      const samples = await heard(steady(speed), { pitch: 'kept' }, (n) => 1.8 * sine(220)(n), 1, 2);
      expect(abs(samples.reduce((sum, value) => sum + value, 0) / samples.length)).toBeLessThan(0.001);
      expect(samples.every((value) => abs(value) < 1)).toBe(true);
    }
  });

  it('that cannot be decoded somewhere is refused there, and heard before and after', async () => {
    const long = mapOf([constantSpan(0.5, 1200)], { sourceFrames: 1000 });
    const supply = madeSupply([sine(440)], { sampleRate: RATE });
    const broken: SoundSupply = {
      ...supply,
      block: (start, end) =>
        start < 9.5 * RATE && end > 9 * RATE
          ? Promise.reject(new Error('This packet is damaged.'))
          : supply.block(start, end),
    };
    const mix = new ProgramMix(programOfMap(long, { pitch: 'kept' }), async () => broken, new Voices());
    await expect(mix.read(18 * RATE, 4800, RATE)).rejects.toThrow('damaged');
    for (const seconds of [1, 30]) {
      const { channels } = await mix.read(seconds * RATE, RATE / 2, RATE);
      expect(toneIn(channels![0]!, 440, RATE).level).toBeGreaterThan(0.45);
    }
  });

  it('holds, fades or is silent in a freeze', async () => {
    const frozen = mapOf([constantSpan(1, 30), constantSpan(0, 90), constantSpan(1, 30)], { sourceFrames: 1000 });
    const at = async (freeze: 'silent' | 'held' | 'faded', seconds: number): Promise<number> =>
      toneIn(await heard(frozen, { pitch: 'kept', freeze }, sine(440), seconds, 0.4), 440, RATE).level;
    expect(await at('silent', 2)).toBe(0);
    expect(await at('held', 3)).toBeGreaterThan(0.45);
    expect(await at('faded', 1.2)).toBeGreaterThan(0.1);
    expect(await at('faded', 3)).toBe(0);
  });

  it('does not click where it is frozen, goes on, or sounds otherwise from there', async () => {
    const frozen = mapOf([constantSpan(1, 30), constantSpan(0, 30), constantSpan(0.5, 60)], { sourceFrames: 1000 });
    const parts = [
      { from: 80, to: 100, pitch: 'follows' as const, cents: 0, formants: 'shifted' as const, focus: 'music' as const },
    ];
    const samples = await heard(frozen, { pitch: 'kept', parts }, sine(440), 0.5, 3);
    // The steepest a tone of this height is from sample to sample, and half as much again.
    const steepest = 1.5 * 0.5 * ((2 * PI * 440) / RATE);
    const most = samples.reduce((step, value, n) => (n > 0 ? max(step, abs(value - samples[n - 1]!)) : 0), 0);
    expect(most).toBeLessThan(steepest);
  });

  it('does not click where a tape is stopped and started', async () => {
    const stopped = mapOf([constantSpan(0.8, 30), constantSpan(0, 30), constantSpan(-1, 20)], { sourceFrames: 1000 });
    const samples = await heard(stopped, {}, sine(200), 0.5, 2);
    const most = samples.reduce((step, value, n) => (n > 0 ? max(step, abs(value - samples[n - 1]!)) : 0), 0);
    expect(most).toBeLessThan(1.5 * 0.5 * ((2 * PI * 200) / RATE));
  });

  it('fades above a speed where that is asked for', async () => {
    const loud = async (speed: number): Promise<number> =>
      toneIn(await heard(steady(speed), { pitch: 'kept', quietAbove: 3 }, sine(440), 1, 1), 440, RATE).level;
    expect(await loud(2)).toBeGreaterThan(0.48);
    expect(await loud(4.5)).toBeCloseTo(0.25, 1);
    expect(await loud(8)).toBe(0);
  });

  it('keeps formants where they were, as a voice is told by', async () => {
    // A buzz of 120 Hz through one resonance at 900 Hz: shifted by 500 cents, the resonance moves to 1202 Hz or stays.
    const period = RATE / 120;
    const wave = Array.from({ length: period }, (_, n) => {
      let value = 0;
      for (let k = 1; k < 30; k++) value += (0.3 / (1 + ((120 * k - 900) / 120) ** 2)) * sin((2 * PI * k * n) / period);
      return value;
    });
    const resonant = (n: number): number => wave[n % period]!;
    const centre = async (formants: 'kept' | 'shifted'): Promise<number> => {
      const samples = await heard(steady(1), { pitch: 'kept', cents: 500, formants, focus: 'music' }, resonant, 1, 1);
      const base = 120 * 2 ** (500 / 1200);
      let [sum, weight] = [0, 0];
      for (let k = 1; k < 20; k++) {
        const { level } = toneIn(samples, base * k, RATE);
        sum += level * level * base * k;
        weight += level * level;
      }
      return sum / weight;
    };
    const [shifted, kept] = [await centre('shifted'), await centre('kept')];
    expect(shifted).toBeGreaterThan(1150);
    expect(kept).toBeLessThan(shifted - 150);
  });
});
