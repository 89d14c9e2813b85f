import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import type { SoundSettings } from '@hastig/contract';
import { mapOf } from '../../../test/maps';
import { clipOf, group, paced, rowOf, withSound } from '../../../test/projects';
import {
  compile,
  constantSpan,
  findClip,
  mapOf as mapOfClip,
  mapProgram,
  plainSound,
  ProgramMix,
  programOf,
  rampSpan,
  reverseRange,
  SEQUENCE,
  setSound,
  timesAt,
  Voices,
} from '../..';
import { EnvelopeMaker } from '../../beats/envelope';
import { findOnsets } from '../../beats/onsets';
import { songs, sound } from '../../beats/test-songs';
import { madeSupply } from '../test-supply';

// Looked up once: they run for every sample.
const { abs, round } = Math;
const RATE = 48_000;

/** All that is heard of samples at a speed, on the left. */
async function heard(samples: Float32Array, speed: number, settings: Partial<SoundSettings>): Promise<Float32Array> {
  const frames = (samples.length / RATE) * 30;
  const length = frames / abs(speed);
  const map = mapOf([constantSpan(speed, length)], { sourceFrames: frames, start: speed < 0 ? frames : 0 });
  const program = mapProgram(map, 'a');
  program.tracks[0]!.items[0]!.sound = { ...plainSound, ...settings };
  const supply = madeSupply([(n) => samples[n]!], { sampleRate: RATE, samples: samples.length });
  const count = round((length / 30) * RATE);
  const { channels } = await new ProgramMix(program, async () => supply, new Voices()).read(0, count, RATE);
  return channels![0]!;
}

/** Onsets, in seconds; few and plain ones, or many. */
function onsetsOf(samples: Float32Array, sensitivity: number): number[] {
  const maker = new EnvelopeMaker(RATE);
  maker.push(samples);
  return findOnsets(maker.envelope(), { sensitivity, leastGap: 0.04 }).map(({ time }) => time);
}

const kept = (focus: 'music' | 'speech'): Partial<SoundSettings> => ({ pitch: 'kept', focus });

describe('a loop of drums', () => {
  const loop = songs.find(({ name }) => name.startsWith('rock'))!;
  const samples = sound(
    RATE,
    8,
    loop.hits.filter(({ at }) => at < 7.5),
  );
  const hits = onsetsOf(samples, 0.4);

  it.each([
    [0.5, kept('music'), 0.02],
    [0.5, kept('speech'), 0.012],
    [2, kept('music'), 0.012],
    [0.5, {}, 0.012],
    [2, {}, 0.012],
  ] as const)('at ×%d, %j, has its hits where they belong', async (speed, settings, within) => {
    const found = onsetsOf(await heard(samples, speed, settings), 0.9);
    const missed = hits.filter((hit) => !found.some((time) => abs(time - hit / speed) < within));
    expect(hits.length).toBeGreaterThan(10);
    expect(missed.length / hits.length).toBeLessThan(0.06);
  });
});

describe('speech', () => {
  // The demo's line, at 22.05 kHz in its file: here read at 48 kHz, which is as good a voice.
  const file = readFileSync(join(__dirname, '../../../../demo/media/spoken.wav'));
  const samples = Float32Array.from(
    { length: (file.length - 44) >> 1 },
    (_, n) => file.readInt16LE(44 + 2 * n) / 32_768,
  );

  /** Cycles of a voice a second near a moment, from how alike it is to itself a while later; undefined where none is plain. */
  function voiceAt(from: Float32Array, seconds: number): number | undefined {
    const start = round(seconds * RATE);
    const length = 1800;
    if (start < 0 || start + length + 480 >= from.length) return undefined;
    const alike = (lag: number): number => {
      let [both, one, other] = [0, 0, 0];
      for (let n = start; n < start + length; n++) {
        both += from[n]! * from[n + lag]!;
        one += from[n]! ** 2;
        other += from[n + lag]! ** 2;
      }
      return one > 0.5 ? both / Math.sqrt(one * other) : 0;
    };
    let best = 96;
    for (let lag = 96; lag < 480; lag++) if (alike(lag) > alike(best) + 1e-9) best = lag;
    if (alike(best) < 0.85) return undefined;
    const [a, b, c] = [alike(best - 1), alike(best), alike(best + 1)];
    return RATE / (best + (a - c) / (2 * (a - 2 * b + c)));
  }

  const voiced = Array.from({ length: 180 }, (_, i) => 0.1 + 0.03 * i).flatMap((at) => {
    const hertz = voiceAt(samples, at);
    return hertz ? [{ at, hertz }] : [];
  });

  it.each([
    [0.5, kept('speech'), 0],
    [0.7, kept('music'), 0],
    [2, kept('speech'), 0],
    [0.5, { ...kept('speech'), cents: 300 }, 300],
    [0.5, {}, -1200],
  ] as const)(
    'at ×%d, %j, has the pitch it is to have, and lasts as long as it should',
    async (speed, settings, cents) => {
      const out = await heard(samples, speed, settings);
      expect(out).toHaveLength(round(samples.length / speed));
      const off = voiced.flatMap(({ at, hertz }) => {
        const after = voiceAt(out, at / speed);
        return after ? [1200 * Math.log2(after / hertz) - cents] : [];
      });
      // A voice that moves is not measured to a cent; the middle one of many is near it.
      expect(off.length).toBeGreaterThan(6);
      const middle = off.sort((a, b) => a - b)[off.length >> 1]!;
      expect(abs(middle)).toBeLessThan(12);
    },
  );
});

it('clicks inside two groups are heard where they are seen, through ramps, a reverse and a freeze, pitch kept', async () => {
  const project = withSound(rowOf(300));
  const inner = paced(
    project,
    'c0',
    constantSpan(1, 30),
    rampSpan(1, 0.5, 30),
    constantSpan(0.5, 60),
    constantSpan(0, 15),
    constantSpan(1, 45),
  );
  const once = group(
    setSound(inner, ['c0'], (one) => ({ ...one, pitch: 'kept', focus: 'speech' })),
    ['c0'],
    'inner',
  );
  const outerId = once.sequence.tracks[0]!.items.flatMap((item) => ('clip' in item ? [item.clip] : []))[0]!;
  const map = mapOfClip(once, clipOf(once, outerId));
  const turned = reverseRange({ ...map, spans: [constantSpan(1, 60), constantSpan(2, 60)] }, { from: 40, to: 80 });
  const retimed = paced(once, outerId, ...turned.spans);
  const kept2 = setSound(retimed, [outerId], (one) => ({ ...one, pitch: 'kept', focus: 'speech' }));
  const click = (n: number): number => (n % 12_000 === 6000 ? 0.9 : 0);
  const mix = new ProgramMix(
    programOf(kept2, SEQUENCE),
    async () => madeSupply([click], { sampleRate: RATE }),
    new Voices(),
  );
  const { channels } = await mix.read(0, 4 * RATE, RATE);
  const samples = channels![0]!;
  const [innerMap, outerMap] = [mapOfClip(kept2, findClip(kept2, 'c0')!), mapOfClip(kept2, findClip(kept2, outerId)!)];
  const expected = Array.from({ length: 24 }, (_, k) => 30 * (0.125 + k / 4))
    .flatMap((position) => timesAt(innerMap, position))
    .filter(({ from, to }) => to - from < 1e-6)
    .flatMap(({ from }) => timesAt(outerMap, from))
    .filter(({ from, to }) => to - from < 1e-6 && from > 1 && from < Math.min(119, compile(outerMap).length - 2));
  expect(expected.length).toBeGreaterThan(8);
  for (const { from } of expected) {
    const near = round((from / 30) * RATE);
    let best = near - 1500;
    for (let n = near - 1500; n < near + 1500; n++) if (abs(samples[n] ?? 0) > abs(samples[best] ?? 0)) best = n;
    expect(abs(samples[best]!)).toBeGreaterThan(0.1);
    expect(abs(best - near) / RATE).toBeLessThan(0.001);
  }
});
