import { expect, test } from '@playwright/test';
import type { RetimeMap } from '@hastig/contract';
import { compile, constantSpan, frameCount, makeRate, positionAt, rampSpan, reverseRange, timesAt } from '@hastig/core';
import { readPlates, renderByCommand, renderMap, soundPeak } from '../support/files';
import { KNOCK, remake } from '../support/remade';

// Times that depend on nothing but their number.
const unevenness = (n: number): number => Math.abs(Math.sin(n * 12.9898) * 43758.5453) % 1;

/** Seconds at which pictures begin that come `perSecond` in a second, whatever that is from one to the next. */
function timesOf(count: number, gap: (n: number) => number): { times: number[]; end: number } {
  const times: number[] = [];
  let at = 0;
  for (let n = 0; n < count; n++) {
    times.push(at);
    at += gap(n);
  }
  return { times, end: at };
}

const clips = [
  {
    name: 'wandering between 25 and 60 fps',
    fps: 50,
    ...timesOf(144, (n) => 1 / (25 + 35 * unevenness(n))),
  },
  { name: 'with a hole of two seconds', fps: 30, ...timesOf(144, (n) => (n === 70 ? 2 : 1 / 30)) },
  {
    name: '30 a second, of which every ninth or so fell out',
    fps: 30,
    ...timesOf(144, (n) => (unevenness(n) < 0.11 ? 2 : 1) / 30),
  },
];

for (const { name, fps, times, end } of clips) {
  const tag = fps === 30 ? '@long' : [];
  test(
    `every picture is the one whose time covers it, and knocks are heard with theirs: ${name}`,
    { tag },
    async () => {
      const heard = [20, 62, 110];
      const source = await remake({
        ...{ times, end },
        sounds: [{ start: 0, end, knocks: heard.map((picture) => times[picture]!) }],
      });
      const [sourceRate, outputRate] = [makeRate(fps), makeRate(25)];
      const sourceFrames = Math.ceil(end * fps - 1e-6);
      const forwards: RetimeMap = {
        ...{ sourceRate, outputRate, sourceFrames, start: 0 },
        // To the end of the source at 50%, a ramp in it.
        spans: [constantSpan(1, 10), rampSpan(1, 0.5, 20), constantSpan(0.5, (end - 10 / 25 - (20 * 0.75) / 25) * 50)],
      };
      const { length } = compile(forwards);
      for (const map of [forwards, reverseRange(forwards, { from: 30, to: length })]) {
        const file = await renderMap(source, map, { counting: { by: 'time', rate: sourceRate } });
        const ready = compile(map);
        const { plates } = await readPlates(file);
        // By definition: what the file shows at k / fps, k the position held.
        const expected = Array.from({ length: frameCount(map) }, (_, n) => {
          const held = Math.min(sourceFrames - 1, Math.max(0, Math.floor(positionAt(ready, n) + 1e-6)));
          return times.findLastIndex((time) => time <= held / fps + 1e-5);
        });
        expect(plates).toEqual(expected);
        for (const picture of heard) {
          const begins = times[picture]! * fps;
          const [at] = timesAt(map, begins);
          // Backwards its end comes first.
          const backwards = positionAt(ready, at!.from + 0.1) < begins;
          const first = backwards ? timesAt(map, (times[picture]! + KNOCK) * fps)[0]! : at!;
          const expectedAt = first.from / 25;
          const { onset, level } = await soundPeak(file, expectedAt - 0.06, expectedAt + 0.06);
          expect(Math.abs(onset - expectedAt)).toBeLessThan(0.001);
          expect(level).toBeGreaterThan(0.3);
        }
      }
    },
  );
}

for (const as of ['mov', 'mkv'] as const)
  test(
    `frames whose times tremble are all seen, each on the frame next to it, knocks in step: ${as}`,
    { tag: as === 'mov' ? '@long' : [] },
    async () => {
      // 59.94 a second off by up to 4 ms to either side, every seventh fallen out, and two seconds in which nothing was recorded.
      const perSecond = 60_000 / 1001;
      const written = Array.from({ length: 168 }, (_, n) => n).filter((n) => n % 7 !== 6);
      const times = written.map(
        (n) => (n + 1 + 0.24 * (2 * unevenness(n) - 1)) / perSecond + (n > 80 ? 120 / perSecond : 0),
      );
      const end = times.at(-1)! + 1 / perSecond;
      const heard = [20, 62, 110];
      const source = await remake({
        as,
        times,
        end,
        sounds: [{ start: 0, end, knocks: heard.map((picture) => times[picture]!) }],
      });
      const places = written.map((n) => n + (n > 80 ? 120 : 0));
      const sourceFrames = places.at(-1)! + 1;
      const map: RetimeMap = {
        ...{ sourceRate: makeRate(60_000, 1001), outputRate: makeRate(60_000, 1001), sourceFrames, start: 0 },
        spans: [constantSpan(1, sourceFrames)],
      };
      const file = await renderMap(source, map);
      const { plates } = await readPlates(file);
      expect(plates).toEqual(
        Array.from({ length: sourceFrames }, (_, position) => places.findLastIndex((place) => place <= position)),
      );
      for (const picture of heard) {
        const seen = places[picture]! / perSecond;
        const { onset, level } = await soundPeak(file, seen - 0.06, seen + 0.06);
        expect(Math.abs(onset - seen)).toBeLessThan(0.5 / perSecond);
        expect(level).toBeGreaterThan(0.3);
      }
    },
  );

test('frame by frame each picture is shown once, whatever its time', async () => {
  const { times, end } = clips[0]!;
  const source = await remake({ times, end });
  const map: RetimeMap = {
    ...{ sourceRate: makeRate(25), outputRate: makeRate(25), sourceFrames: 144, start: 0 },
    spans: [constantSpan(1, 144)],
  };
  const { plates } = await readPlates(await renderByCommand(source, map, '--frame-by-frame'));
  expect(plates).toEqual(Array.from({ length: 144 }, (_, n) => n));
});
