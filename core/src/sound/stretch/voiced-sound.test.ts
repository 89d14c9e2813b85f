import type { RetimeMap, SoundSettings } from '@hastig/contract';
import { mapOf } from '../../../test/maps';
import {
  constantSpan,
  frameCount,
  mapProgram,
  plainSound,
  ProgramMix,
  rampSpan,
  reverseRange,
  soundRuns,
  Voices,
  type Program,
  type SoundSupply,
} from '../..';
import { centsBetween, firstDifference, madeSupply, toneIn } from '../test-supply';

// Looked up once: they run for every sample.
const { sin, exp, abs, max, PI } = Math;
const RATE = 48_000;

const programOfMap = (map: RetimeMap, sound: Partial<SoundSettings>): Program => {
  const program = mapProgram(map, 'a');
  const [track] = program.tracks;
  return { ...program, tracks: [{ ...track!, items: [{ ...track!.items[0]!, sound: { ...plainSound, ...sound } }] }] };
};

const mixOf = (map: RetimeMap, sound: Partial<SoundSettings>, sampleAt: (n: number) => number, samples?: number) =>
  new ProgramMix(
    programOfMap(map, sound),
    async () => madeSupply([sampleAt], { sampleRate: RATE, ...(samples && { samples }) }),
    new Voices(),
  );

/** What is heard of made sound through a map, on the left. */
async function heard(
  map: RetimeMap,
  sound: Partial<SoundSettings>,
  sampleAt: (n: number) => number,
  from: number,
  seconds: number,
): Promise<Float32Array> {
  const { channels } = await mixOf(map, sound, sampleAt).read(from * RATE, seconds * RATE, RATE);
  return channels![0]!;
}

const sine =
  (hertz: number) =>
  (n: number): number =>
    0.5 * sin((2 * PI * hertz * n) / RATE);

const steady = (speed: number): RetimeMap =>
  mapOf([constantSpan(speed, 300)], { sourceFrames: 10_000, start: speed < 0 ? 3000 : 0 });

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
    const [from, count] = [RATE, 6 * RATE];
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

  it('keeps soft beginnings better for speech than for music', async () => {
    // Too soft to be an attack: it takes 40 ms to be there, and as long to be gone.
    const soft = (since: number): number => sin((PI * max(0, since)) / 0.08) ** 2 * (since < 0.08 ? 1 : 0);
    const [music, speech] = [await early('music', soft), await early('speech', soft)];
    expect(speech).toBeLessThan(music / 2);
  });

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
    const notes = [523, 659, 784, 880, 587];
    const bars = (n: number): number =>
      notes.reduce((sum, hertz, i) => sum + stroke(n / RATE - 0.5 - 0.7 * i, hertz), 0);
    for (const speed of [0.25, 0.5, 4]) {
      const map = mapOf([constantSpan(speed, 120 / speed)], { sourceFrames: 1000 });
      const samples = await heard(map, { pitch: 'kept' }, bars, 0, 4 / speed);
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
