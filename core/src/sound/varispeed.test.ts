import type { RetimeMap } from '@hastig/contract';
import {
  centsOfSpeed,
  constantSpan,
  mapProgram,
  putLevels,
  rampSpan,
  readVarispeed,
  reverseRange,
  soundExtent,
  soundPieces,
  soundRuns,
  type SoundSource,
} from '..';
import { mapOf } from '../../test/maps';

const RATE = 48_000;
const source: SoundSource = { sampleRate: RATE, pictureStart: 0, pictureRate: 30 };

/** A sine of `hertz` over 10 s, read at the timing of a map for some output samples. */
function read(map: RetimeMap, hertz: number, first: number, count: number): Float32Array {
  const out = new Float32Array(count);
  for (const piece of soundPieces(soundRuns(mapProgram(map, 'tone')), RATE, first, count)) {
    const { start, end } = soundExtent(piece, source, RATE);
    const samples = Float32Array.from({ length: end - start }, (_, i) => {
      const n = start + i;
      return n < 0 || n > 10 * RATE ? 0 : Math.sin((2 * Math.PI * hertz * n) / RATE);
    });
    const heard = new Float32Array(piece.count);
    readVarispeed(piece, source, RATE, { start, channels: [samples] }, [heard]);
    putLevels(piece, source, RATE, [heard]);
    heard.forEach((value, n) => (out[piece.first - first + n]! += value));
  }
  return out;
}

/** Hertz from the zero crossings upwards. */
function pitch(samples: Float32Array): number {
  const ups = [...samples.keys()].filter((i) => i > 0 && samples[i - 1]! < 0 && samples[i]! >= 0);
  return ((ups.length - 1) * RATE) / (ups.at(-1)! - ups[0]!);
}

const level = (samples: Float32Array): number =>
  Math.sqrt(samples.reduce((sum, value) => sum + value * value, 0) / samples.length);

describe('sound that follows the speed', () => {
  it('falls by an octave at half speed: 1200 · log2(0.5) = −1200 cents (definition of the cent)', () => {
    expect(centsOfSpeed(0.5)).toBe(-1200);
    expect(pitch(read(mapOf([constantSpan(0.5, 300)]), 440, RATE, RATE / 2))).toBeCloseTo(220, 0);
    const [run] = soundRuns(mapProgram(mapOf([constantSpan(0.5, 300)]), 'tone'));
    expect((run!.to - run!.from) * RATE).toBe(10 * RATE);
  });

  it.each([1, 2, 0.25, -1, 3.7])('has %d times the pitch, sample by sample', (speed) => {
    const map = mapOf([constantSpan(speed, 60)], { start: speed < 0 ? 150 : 0 });
    const heard = read(map, 500, 4000, 9600);
    for (let i = 0; i < heard.length; i += 101) {
      const seconds = (speed < 0 ? 5 : 0) + (speed * (4000 + i)) / RATE;
      expect(heard[i]!).toBeCloseTo(Math.sin(2 * Math.PI * 500 * seconds), 2);
    }
  });

  it('filters what would fold back when it is fast', () => {
    const fast = mapOf([constantSpan(4, 60)]);
    // 9 kHz at ×4 would be 36 kHz, above half the rate; 2 kHz becomes 8 kHz and stays.
    expect(level(read(fast, 9000, 4000, 4800))).toBeLessThan(0.02);
    expect(level(read(fast, 2000, 4000, 4800))).toBeGreaterThan(0.6);
  });

  // Half the rate is passed by so many times: what is heard of it below 19 kHz, and below 12 kHz, at 48 kHz.
  it.each([
    [2, 1.25, -43],
    [4, 1.25, -43],
    [16, 1.25, -43],
    [2, 1.5, -60],
    [4, 1.5, -60],
    [16, 1.5, -60],
  ])('at ×%d a tone at %d times what can be heard of it folds back %d dB down at most', (speed, times, decibels) => {
    const fast = mapOf([constantSpan(speed, 60)], { sourceFrames: 3000 });
    const [asked, plain] = [times, 0.5].map((share) =>
      level(read(fast, Math.round((share * 24_000) / speed), 4000, 24_000)),
    );
    expect(20 * Math.log10(asked! / plain!)).toBeLessThan(decibels);
  });

  it('is silent in a freeze and outside the source', () => {
    const map = mapOf([constantSpan(1, 30), constantSpan(0, 30), rampSpan(0, 1, 30)]);
    expect(level(read(map, 500, 31 * 1600, 1600 * 20))).toBe(0);
    expect(level(read(mapOf([constantSpan(1, 60)], { start: -60 }), 500, 0, 4800))).toBe(0);
  });

  it('is the same in one piece or in many, jumps included', () => {
    const map = reverseRange(mapOf([constantSpan(1, 40), rampSpan(1, 2, 20), constantSpan(2, 40)]), {
      from: 30,
      to: 55,
    });
    const whole = read(map, 300, 40_000, 60_000);
    const parts = Float32Array.from(
      [0, 1, 2, 3, 4, 5].flatMap((part) => [...read(map, 300, 40_000 + part * 10_000, 10_000)]),
    );
    const difference = whole
      .map((value, i) => Math.abs(value - parts[i]!))
      .reduce((most, value) => Math.max(most, value), 0);
    expect(difference).toBeLessThan(1e-5);
  });

  it('does not click where the source jumps', () => {
    const map = reverseRange(mapOf([constantSpan(1, 100)]), { from: 30, to: 60 });
    const around = read(map, 50, 30 * 1600 - 200, 400);
    const steps = around.slice(1).map((value, i) => Math.abs(value - around[i]!));
    expect(Math.max(...steps)).toBeLessThan(0.03);
  });
});
