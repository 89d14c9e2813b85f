import { existsSync } from 'node:fs';
import { stat, writeFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import type { Rate, RetimeMap, Span } from '@hastig/contract';
import {
  compile,
  constantSpan,
  eases,
  frameCount,
  freeze,
  heldFrame,
  rampSpan,
  reverseRange,
  timesAt,
} from '@hastig/core';
import { scenes } from '@hastig/demo';
import {
  demoClip,
  demoSound,
  fixture,
  hastig,
  readPlates,
  renderByCommand,
  renderMap,
  renderMapAs,
  retimedSound,
  scratch,
  soundPeak,
  writeWave,
} from '../support/files';

const rate = (num: number, den = 1): Rate => ({ num, den });

/** Forward, slow, ramp, fast, ramp, slow, then a freeze put in and a part turned round. */
function everything(sourceRate: Rate, outputRate: Rate, sourceFrames: number): RetimeMap {
  const spans: Span[] = [
    constantSpan(1, 20),
    constantSpan(0.4, 25),
    rampSpan(0.4, 3, 14, eases['ease-in-out']),
    constantSpan(3, 6),
    rampSpan(3, 0.25, 16, eases.ease),
    constantSpan(0.25, 20),
    constantSpan(1, 10),
  ];
  const map: RetimeMap = { sourceRate, outputRate, sourceFrames, start: 3, spans };
  return reverseRange(freeze(map, 30, 7, 'content'), { from: 60, to: 85 });
}

const cases = [
  { name: '24 on 24', clip: 'plates-24.mp4', frames: 144, from: rate(24), to: rate(24) },
  { name: '60 on 30', clip: 'plates-60.mp4', frames: 180, from: rate(60), to: rate(30) },
  { name: '29.97 on 29.97', clip: 'plates-2997.mp4', frames: 150, from: rate(30000, 1001), to: rate(30000, 1001) },
  { name: 'B-frames', clip: 'plates-b-frames.mp4', frames: 144, from: rate(24), to: rate(24) },
  { name: 'open groups of pictures', clip: 'plates-open-group.mp4', frames: 144, from: rate(24), to: rate(24) },
  { name: 'a group of 250 pictures', clip: 'plates-group-250.mp4', frames: 300, from: rate(25), to: rate(25) },
];

for (const { name, clip, frames, from, to } of cases) {
  test(`every rendered frame is the right one: ${name}`, async () => {
    const map = everything(from, to, frames);
    const ready = compile(map);
    const expected = Array.from({ length: frameCount(map) }, (_, n) => heldFrame(ready, n));
    const { plates, times } = await readPlates(await renderMap(fixture(clip), map));
    expect(plates).toEqual(expected);
    // To the container's own tick: frame n at n / rate exactly.
    times.forEach((time, n) => expect(Math.abs(time - (n * to.den) / to.num)).toBeLessThan(1e-6));
  });
}

test('a whole clip backwards, and a whole group of 250 backwards', async () => {
  const clip: RetimeMap = {
    sourceRate: rate(25),
    outputRate: rate(25),
    sourceFrames: 300,
    start: 0,
    spans: [constantSpan(1, 300)],
  };
  const { plates } = await readPlates(
    await renderMap(fixture('plates-group-250.mp4'), reverseRange(clip, { from: 0, to: 300 })),
  );
  expect(plates).toEqual(Array.from({ length: 300 }, (_, n) => 299 - n));
});

for (const [clip, first] of [
  ['plates-top-first.mp4', 'top'],
  ['plates-bottom-first.mp4', 'bottom'],
] as const) {
  const run = (sourceRate: Rate, frames: number, speed: number): RetimeMap => {
    const outputRate = rate(25);
    const length = (frames * outputRate.num) / sourceRate.num / speed;
    return { sourceRate, outputRate, sourceFrames: frames, start: 0, spans: [constantSpan(speed, length)] };
  };

  const tag = first === 'bottom' ? '@long' : [];
  test(`every field is a frame of its own, in the order of time: ${first} field first`, { tag }, async () => {
    // At half speed 50 fields a second on 25 frames: each field once.
    const slow = run(rate(50), 120, 0.5);
    const both = await readPlates(await renderMap(fixture(clip), slow, { fields: { use: 'both' } }));
    expect(both.plates).toEqual(Array.from({ length: 120 }, (_, n) => n));
    // With the order the wrong way round each pair comes back to front.
    const other = first === 'top' ? 'bottom' : 'top';
    const wrong = await readPlates(
      await renderByCommand(fixture(clip), slow, '--fields', 'both', '--first-field', other),
    );
    expect(wrong.plates).toEqual(Array.from({ length: 120 }, (_, n) => n ^ 1));
  });

  test(`one of two fields, as the stream suggests: ${first} field first`, async () => {
    const back = reverseRange(run(rate(25), 60, 1), { from: 0, to: 60 });
    const { plates } = await readPlates(await renderMap(fixture(clip), back));
    expect(plates).toEqual(Array.from({ length: 60 }, (_, n) => 2 * (59 - n)));
  });
}

// Encoders are late by what differs; the containers as the browser's own decoder reads them are not.
test(
  'sound stays with the picture in every kind of file: a bounce is heard where it is seen',
  { tag: '@long' },
  async () => {
    const scene = scenes.find(({ name }) => name === 'drop')!;
    const impact = scene.marbles[0]!.impacts[0]!.time;
    const map: RetimeMap = {
      sourceRate: rate(24),
      outputRate: rate(24),
      sourceFrames: scene.frames,
      start: 0,
      spans: [constantSpan(0.5, scene.frames / 0.5)],
    };
    const expected = impact / 0.5;
    const heardIn = async (ending: string) =>
      soundPeak(await renderMapAs(`out.${ending}`, demoClip('drop'), map), expected - 0.1, expected + 0.1);
    const asIs = await heardIn('wav');
    expect(asIs.seconds).toBeCloseTo(scene.frames / scene.fps / 0.5, 6);
    // A knock's first, loudest swing comes within a quarter period of its pitch: a millisecond or two.
    expect(Math.abs(asIs.time - expected)).toBeLessThan(0.008);
    for (const ending of ['mp4', 'webm']) {
      const { time, onset, seconds } = await heardIn(ending);
      // Measured: the same sample.
      expect(Math.abs(time - asIs.time)).toBeLessThan(0.0001);
      expect(Math.abs(onset - asIs.onset)).toBeLessThan(0.0001);
      // Encoders fill their last block.
      expect(seconds - asIs.seconds).toBeGreaterThanOrEqual(0);
      expect(seconds - asIs.seconds).toBeLessThan(0.03);
    }
  },
);

test('every rendered frame of a WebM file is the right one', async () => {
  const map = everything(rate(30000, 1001), rate(30000, 1001), 150);
  const ready = compile(map);
  const { plates, times } = await readPlates(await renderMapAs('out.webm', fixture('plates-2997.mp4'), map));
  expect(plates).toEqual(Array.from({ length: frameCount(map) }, (_, n) => heldFrame(ready, n)));
  // Its ticks are milliseconds.
  times.forEach((time, n) => expect(Math.abs(time - (n * 1001) / 30000)).toBeLessThan(0.00051));
});

test('a file that can’t be what its ending says is refused before anything is written', async () => {
  await expect(renderMapAs('out.wav', fixture('plates-24.mp4'), steady(1))).rejects.toThrow('no sound');
  // Of sound alone each sample is a frame: 16 bits, after a head of 44 bytes.
  const samples = ((await stat(demoSound('spoken.wav'))).size - 44) / 2;
  const spoken: RetimeMap = { ...steady(1), sourceRate: rate(22_050), sourceFrames: samples };
  await expect(renderMapAs('out.webm', demoSound('spoken.wav'), spoken)).rejects.toThrow('no picture');
});

// A click every quarter of a second through a ramp, a slow part, a freeze, a faster part and one turned round: common practice asks
// for sound that is within a millisecond of its picture.
for (const pitch of ['follows', 'kept'] as const) {
  test(`clicks are heard where they are seen through ramps, a freeze and backwards: pitch ${pitch}`, async () => {
    const file = join(await scratch(), 'clicks.wav');
    await writeWave(file, (n) => (n % 12_000 === 6000 ? 0.8 : 0), 12);
    const shape: RetimeMap = {
      sourceRate: rate(24),
      outputRate: rate(24),
      sourceFrames: 288,
      start: 0,
      spans: [
        constantSpan(1, 24),
        rampSpan(1, 0.5, 24),
        constantSpan(0.5, 60),
        constantSpan(0, 24),
        constantSpan(1, 60),
        constantSpan(2, 36),
      ],
    };
    const map = reverseRange(shape, { from: 150, to: 180 });
    const [left] = await retimedSound(file, map, '--pitch', pitch, '--focus', 'speech');
    expect(left!.length).toBe(Math.round((frameCount(map) / 24) * 48_000));
    const clicks = Array.from({ length: 24 }, (_, k) => timesAt(map, 24 * (0.125 + k / 4))).flat();
    const heard = clicks.filter(({ from, to }) => to - from < 1e-6);
    expect(heard.length).toBeGreaterThan(16);
    for (const { from } of heard) {
      const near = Math.round((from / 24) * 48_000);
      const reach = Math.round(0.04 * 48_000);
      let best = near;
      for (let n = Math.max(0, near - reach); n < Math.min(left!.length, near + reach); n++)
        if (Math.abs(left![n]!) > Math.abs(left![best]!)) best = n;
      expect(Math.abs(best - near) / 48_000).toBeLessThan(0.001);
    }
  });
}

test('loudness is printed after EBU R 128, of what was written with its pitch kept', { tag: '@long' }, async () => {
  const file = join(await scratch(), 'tone.wav');
  // A stereo tone of −23 dBFS has −23 LUFS (EBU Tech 3341, case 1).
  await writeWave(file, (n) => 10 ** (-23 / 20) * Math.sin((2 * Math.PI * 1000 * n) / 48_000), 12);
  const line = async (): Promise<number[]> => (await hastig('loudness', file)).stdout.trim().split(',').map(Number);
  const [integrated, range, , , peak] = await line();
  expect(Math.abs(integrated! + 23)).toBeLessThan(0.11);
  expect(range).toBeLessThan(0.2);
  expect(Math.abs(peak! + 23)).toBeLessThan(0.2);
  // Of sound alone the map says what its source frames are: at half speed it lasts twice as long, and its pitch stays.
  const map: RetimeMap = {
    sourceRate: rate(30),
    outputRate: rate(30),
    sourceFrames: 360,
    start: 0,
    spans: [constantSpan(0.5, 120)],
  };
  const [kept] = await retimedSound(file, map, '--pitch', 'kept', '--shift', '1200', '--rate', '44100');
  expect(kept!.length).toBe(4 * 44_100);
  const middle = kept!.subarray(44_100, 2 * 44_100);
  const ups = middle.reduce((count, value, n) => count + (n > 0 && middle[n - 1]! < 0 && value >= 0 ? 1 : 0), 0);
  expect(Math.abs(ups - 2000)).toBeLessThan(2);
});

/** Six seconds at 24 fps at a speed; backwards where it is negative. */
function steady(speed: number): RetimeMap {
  const length = 144 / Math.abs(speed);
  const map = { sourceRate: rate(24), outputRate: rate(24), sourceFrames: 144, start: 0 };
  const forwards: RetimeMap = { ...map, spans: [constantSpan(Math.abs(speed), length)] };
  return speed < 0 ? reverseRange(forwards, { from: 0, to: length }) : forwards;
}

for (const clip of ['sound-5.1.mp4', 'sound-ac3-5.1.mkv'])
  test(`of six channels all but the low effects are heard, on their sides, as loud as they are to be: ${clip}`, async () => {
    const out = await renderMap(fixture(clip), steady(1));
    const levels: number[][] = [];
    for (const at of [0.5, 1.5, 2.5, 3.5, 4.5, 5.5]) {
      const sides = await Promise.all([0, 1].map((side) => soundPeak(out, at + 0.05, at + 0.15, side)));
      levels.push(sides.map(({ level }) => level / 0.4));
    }
    // Recommendation ITU-R BS.775-3, annex 4 (from memory): the middle and what is behind with −3 dB.
    const half = Math.SQRT1_2;
    const wanted = [
      [1, 0],
      [0, 1],
      [half, half],
      [0, 0],
      [half, 0],
      [0, half],
    ];
    // Within half a decibel, coded twice.
    levels.forEach((sides, n) =>
      sides.forEach((level, side) => expect(Math.abs(level - wanted[n]![side]!)).toBeLessThan(0.06)),
    );
  });

for (const clip of ['sound-8k-mono.mp4', 'sound-96k.mp4']) {
  test(`knocks are heard when they are seen, forwards and backwards: ${clip}`, async () => {
    for (const speed of [0.5, -1]) {
      const out = await renderMap(fixture(clip), steady(speed));
      for (const knock of [1, 2.5, 4]) {
        // Backwards the last frame, 143, stands at the beginning, and a knock’s end comes first, 5 ms later in the source.
        const at = speed > 0 ? knock / speed : 143 / 24 - (knock + 0.005);
        for (const side of [0, 1]) {
          const { onset, level } = await soundPeak(out, at - 0.1, at + 0.1, side);
          expect(Math.abs(onset - at)).toBeLessThan(0.001 / Math.abs(speed));
          expect(level).toBeGreaterThan(0.4);
        }
      }
    }
  });
}

test('an unwanted map, source or place ends with a message and status 1, and no file', async () => {
  const folder = await scratch();
  const out = join(folder, 'out.mp4');
  const good = everything(rate(24), rate(24), 144);
  const write = async (name: string, content: unknown): Promise<string> => {
    const file = join(folder, name);
    await writeFile(file, typeof content === 'string' ? content : JSON.stringify(content));
    return file;
  };
  const goodMap = await write('good.json', good);
  const fails = async (args: string[], reason: RegExp): Promise<void> => {
    const error = (await hastig(...args).then(
      () => undefined,
      (failure: unknown) => failure,
    )) as { code: number; stderr: string } | undefined;
    expect(error?.code).toBe(1);
    expect(error?.stderr).toMatch(reason);
    expect(existsSync(out)).toBe(false);
    expect(existsSync(`${out}.part`)).toBe(false);
  };
  await fails(
    ['frame-map', await write('a.json', { ...good, spans: [{ ...good.spans[0], frames: 0 }] })],
    /spans\/0\/frames must be > 0/,
  );
  await fails(['frame-map', join(folder, 'none.json')], /file not found/);
  const renders = (source: string, map: string): string[] => ['render', '--source', source, '--map', map, '--out', out];
  await fails(renders(fixture('plates-60.mp4'), goodMap), /sourceFrames.*180/);
  await fails(renders(goodMap, goodMap), /can’t read this type of file/);
  await fails(renders(fixture('hevc.mp4'), await write('h.json', { ...good, sourceFrames: 24 })), /can’t decode HEVC/);
});
