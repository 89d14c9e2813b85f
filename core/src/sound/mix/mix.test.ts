import type { Master, TrackSound } from '@hastig/contract';
import { mapOf, rate } from '../../../test/maps';
import { constantSpan, frameCount, LoudnessMeter, plainSound, ProgramMix, Voices, type Program } from '../..';
import { levelOf } from './duck';
import { firstDifference, madeSupply } from '../test-supply';

const { sin, PI, abs, max } = Math;
const RATE = 48_000;
const map = mapOf([constantSpan(1, 300)], { sourceFrames: 300 });

/** Two tracks: a tone throughout, and a voice from the third to the fifth second. */
function programOfTracks(music: TrackSound, voice: TrackSound, master?: Master): Program {
  const item = (id: string) => ({
    ...{ clipId: id, from: 0, frames: frameCount(map), map, at: 0, heard: true },
    of: { kind: 'source' as const, id },
  });
  return {
    rate: rate(30),
    length: 300,
    tracks: [
      { kind: 'sound', id: 'music', sound: music, items: [item('tone')] },
      { kind: 'sound', id: 'voice', sound: voice, items: [item('words')] },
    ],
    groups: {},
    sizes: {},
    ...(master && { master }),
  };
}

const sources: Record<string, (n: number) => number> = {
  tone: (n) => 0.4 * sin((2 * PI * 300 * n) / RATE),
  words: (n) => (n >= 3 * RATE && n < 5 * RATE ? 0.5 * sin((2 * PI * 700 * n) / RATE) : 0),
};
const mixOf = (program: Program): ProgramMix =>
  new ProgramMix(program, async (id) => madeSupply([sources[id]!], { sampleRate: RATE }), new Voices());

async function heard(program: Program, from: number, seconds: number): Promise<Float32Array[]> {
  return (await mixOf(program).read(from * RATE, seconds * RATE, RATE)).channels!;
}

const plain: TrackSound = { gain: 0, pan: 0 };
// Root mean square of the tone: 0.4 / √2.
const TONE = 20 * Math.log10(0.4 / Math.SQRT2);

describe('tracks in the mix', () => {
  it('have a gain in decibels, a side, and can be silent or alone', async () => {
    const quiet = await heard(programOfTracks({ gain: -6, pan: 0 }, plain), 1, 1);
    expect(levelOf(quiet)).toBeCloseTo(TONE - 6, 2);
    const [left, right] = await heard(programOfTracks({ gain: 0, pan: -1 }, plain), 1, 1);
    expect(levelOf([left!])).toBeCloseTo(TONE, 2);
    expect(levelOf([right!])).toBeLessThan(-120);
    expect(levelOf(await heard(programOfTracks({ ...plain, muted: true }, plain), 1, 1))).toBe(-Infinity);
    expect(levelOf(await heard(programOfTracks(plain, { ...plain, solo: true }), 1, 1))).toBe(-Infinity);
  });

  it('give way to another by so much, before it is heard and until it has ended', async () => {
    const duck = { under: 'voice', threshold: -30, amount: 12, attack: 0.2, release: 0.5 };
    const program = programOfTracks({ ...plain, duck }, { ...plain, gain: -96 });
    const toneAt = async (seconds: number): Promise<number> => levelOf(await heard(program, seconds, 0.02)) - TONE;
    // The voice must be louder than the threshold after its own gain: here it is not.
    expect(await toneAt(4)).toBeCloseTo(0, 1);
    const spoken = programOfTracks({ ...plain, duck }, plain);
    const difference = async (seconds: number): Promise<number> => {
      const [left] = await heard(spoken, seconds, 0.05);
      const words = Float32Array.from(
        { length: left!.length },
        (_, n) => left![n]! - sources['words']!(seconds * RATE + n),
      );
      return levelOf([words]) - TONE;
    };
    expect(await difference(2)).toBeCloseTo(0, 1);
    expect(await difference(2.95)).toBeLessThan(-8);
    expect(await difference(4)).toBeCloseTo(-12, 1);
    expect(await difference(5.225)).toBeCloseTo(-6, 0);
    expect(await difference(6)).toBeCloseTo(0, 1);
  });

  it('come out the same in whatever pieces they are asked for, ducked and limited', async () => {
    const duck = { under: 'voice', threshold: -30, amount: 9, attack: 0.1, release: 0.3 };
    const program = programOfTracks({ ...plain, gain: 6, duck }, plain, { gain: 6, limit: -3 });
    const [whole] = await heard(program, 2, 4);
    const mix = mixOf(program);
    const parts = new Float32Array(4 * RATE);
    for (const at of [3, 1, 0, 2]) parts.set((await mix.read((2 + at) * RATE, RATE, RATE)).channels![0]!, at * RATE);
    expect(firstDifference(parts, whole!)).toBe(-1);
  });
});

describe('the limiter', () => {
  it('keeps true peaks under the limit, and what lies under it as it is', async () => {
    const loud = await heard(programOfTracks(plain, plain, { gain: 6, limit: -3 }), 2, 4);
    const meter = new LoudnessMeter(RATE, 2);
    meter.add(loud);
    // To within what a gain that changes makes of what lies between samples.
    expect(meter.loudness.truePeak).toBeLessThan(-3 + 0.1);
    expect(meter.loudness.truePeak).toBeGreaterThan(-3.3);
    const under = programOfTracks(plain, plain, { gain: 0, limit: 0 });
    const [left] = await heard(under, 1, 1);
    expect(firstDifference(left!, (await heard(programOfTracks(plain, plain), 1, 1))[0]!)).toBe(-1);
  });
});

describe('levels of a clip', () => {
  const clipWith = (sound: object): Program => {
    const program = programOfTracks(plain, { ...plain, muted: true });
    const [track, other] = program.tracks;
    return {
      ...program,
      tracks: [{ ...track!, items: [{ ...track!.items[0]!, sound: { ...plainSound, ...sound } }] }, other!],
    };
  };
  const level = async (sound: object, seconds: number): Promise<number> =>
    levelOf([(await heard(clipWith(sound), seconds, 0.02))[0]!]) - TONE;

  it('fade in and out in the shapes that are asked for', async () => {
    const fade = (shape: string) => ({ fadeIn: { frames: 60, shape }, fadeOut: { frames: 30, shape } });
    // Half way: half the amplitude (−6 dB), half the power (−3 dB).
    expect(await level(fade('even'), 0.99)).toBeCloseTo(-6, 0);
    expect(await level(fade('smooth'), 0.99)).toBeCloseTo(-6, 0);
    expect(await level(fade('equal'), 0.99)).toBeCloseTo(-3, 0);
    expect(await level(fade('even'), 5)).toBeCloseTo(0, 3);
    expect(await level(fade('even'), 9.49)).toBeCloseTo(-6, 0);
  });

  it('have gain and pan, also over time', async () => {
    expect(await level({ gain: -9, pan: 1 }, 1)).toBeLessThan(-120);
    expect(await level({ gain: -9, pan: -1 }, 1)).toBeCloseTo(-9, 2);
    const gain = {
      by: 'output',
      keys: [
        { at: 0, value: 0 },
        { at: 240, value: -20 },
      ],
    };
    expect(await level({ keys: { gain } }, 3.99)).toBeCloseTo(-10, 0);
  });

  it('take turns across a cut with what lies before, at equal power or amplitude', async () => {
    const base = clipWith({});
    const [track, other] = base.tracks;
    const [item] = track!.items;
    const cut: Program = {
      ...base,
      tracks: [
        {
          ...track!,
          items: [
            { ...item!, frames: 150 },
            {
              ...item!,
              clipId: 'b',
              from: 150,
              at: 100,
              frames: 150,
              sound: { ...plainSound, cross: { frames: 30, shape: 'equal' } },
            },
          ],
        },
        other!,
      ],
    };
    const [left] = await heard(cut, 4, 2);
    const step = left!.reduce((most, value, n) => (n > 0 ? max(most, abs(value - left![n - 1]!)) : 0), 0);
    expect(step).toBeLessThan(0.03);
    // Before and after it each sounds alone; in it nothing is lost: two tones of the same pitch, whatever their phases, have power.
    expect(levelOf([left!], 0, RATE / 4) - TONE).toBeCloseTo(0, 1);
    expect(levelOf([left!], RATE * 1.75, RATE * 2) - TONE).toBeCloseTo(0, 1);
    expect(abs(levelOf([left!], RATE * 0.9, RATE * 1.1) - TONE)).toBeLessThan(3.1);
  });
});
