import type { Rate } from '@hastig/contract';
import { rateToNumber } from '@hastig/core';
import { instantGrid, layFrames, measureRate, rateFits, type FrameIndex } from '.';

const rate = (num: number, den = 1): Rate => ({ num, den });
const indexOf = (timestamps: readonly number[], lastDuration: number): FrameIndex => ({
  timestamps: Float64Array.from(timestamps),
  groupStarts: Uint32Array.of(0),
  lastDuration,
});

/** Numbers from 0 to 1 that look drawn, the same every time. */
function drawn(seed: number): () => number {
  let state = seed;
  return () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
}

const containers = {
  MP4: (seconds: number) => Math.round(seconds * 90_000) / 90_000,
  MKV: (seconds: number) => Math.round(seconds * 1000) / 1000,
};

interface Shot {
  of: Rate;
  /** By which times are off, in frames, one after the other to either side or drawn. */
  trembling: number;
  kind: 'regular' | 'random';
  /** One in so many frames fell out; 0 for none. */
  dropped: number;
  /** Seconds in which nothing was written, after a third. */
  hole: number;
  container: keyof typeof containers;
  seconds?: number;
  /** Parts by which the camera's clock is fast. */
  clock?: number;
}

/** A file's frame times and the frames of the camera they are. */
function shoot({ of, trembling, kind, dropped, hole, container, seconds = 12, clock = 0 }: Shot, random: () => number) {
  const perSecond = rateToNumber(of) * (1 + clock);
  const [times, frames, true_]: [number[], number[], number[]] = [[], [], []];
  const count = Math.round(seconds * perSecond);
  for (let frame = 0; frame < count; frame++) {
    const falls = dropped > 0 && (kind === 'regular' ? frame % dropped === dropped - 1 : random() < 1 / dropped);
    if (falls && frame > 0) continue;
    const off = kind === 'regular' ? (frame % 2 ? trembling : -trembling) : (random() * 2 - 1) * trembling;
    const exact = (frame + 1) / perSecond + (frame > count / 3 ? hole : 0);
    times.push(Math.max(containers[container](exact + off / perSecond), (times.at(-1) ?? -1) + 1e-5));
    frames.push(frame);
    true_.push(exact);
  }
  return { index: indexOf(times, 1 / perSecond), frames, exact: true_ };
}

const cameraRates = [
  rate(24000, 1001),
  rate(25),
  rate(30000, 1001),
  rate(30),
  rate(50),
  rate(60000, 1001),
  rate(60),
  rate(120000, 1001),
  rate(240),
];

describe('frames whose times tremble, as phones and cameras write them', () => {
  // Seeds that nothing was tuned with.
  for (const of of cameraRates)
    for (const container of ['MP4', 'MKV'] as const)
      it(`are found to come at ${of.num}/${of.den}, and none is lost, in ${container}`, () => {
        const random = drawn(20_261_130);
        for (const trembling of [0, 0.05, 0.2, 0.45])
          for (const kind of ['regular', 'random'] as const)
            for (const dropped of [0, 37, 7])
              for (const hole of dropped === 7 ? [0, 2.0137] : [2]) {
                const seconds = rateToNumber(of) > 100 ? 4 : 10;
                const shot: Shot = { of, trembling, kind, dropped, hole, container, seconds };
                const { index, frames } = shoot(shot, random);
                const measured = measureRate(index);
                const [best] = measured.constant ? [] : rateFits(index);
                expect({ ...shot, found: best?.rate ?? measured.rate }).toEqual({ ...shot, found: of });
                if (!best) continue;
                expect({ ...shot, skipped: best.skipped }).toEqual({ ...shot, skipped: 0 });
                const laid = layFrames(index, of);
                expect(best.frames).toBe(laid.positions);
                const roundedTooFar = container === 'MKV' && rateToNumber(of) > 100 && trembling > 0.4;
                if (hole > 0 || roundedTooFar) continue;
                expect(Array.from(laid.places)).toEqual(frames.map((frame) => frame - frames[0]!));
              }
      });

  it('stay in step with the sound within half a frame, across holes and clocks 0.1 % off', () => {
    const random = drawn(77);
    for (const of of cameraRates)
      for (const clock of [-0.001, 0.001])
        for (const hole of [0, 2.0137]) {
          // Long enough for the clock to go off by more than half a frame.
          const seconds = 24 + hole;
          const { index, exact } = shoot(
            { of, trembling: 0.3, kind: 'random', dropped: 37, hole, container: 'MP4', seconds, clock },
            random,
          );
          const [best] = rateFits(index);
          expect(best!.skipped).toBe(0);
          const laid = layFrames(index, best!.rate);
          const perFrame = 1 / rateToNumber(best!.rate);
          const off = exact.map((time, frame) => Math.abs(laid.start + laid.places[frame]! * perFrame - time));
          expect(Math.max(...off) / perFrame).toBeLessThan(0.5);
        }
  });

  it('are each shown once at the files of the issue: 25 ± 3 ms, 59.94 ± 1.5 ms, 240 ± 0.4 ms', () => {
    for (const [of, milliseconds, count] of [
      [rate(25), 3, 151],
      [rate(60000, 1001), 1.5, 480],
      [rate(240), 0.4, 1920],
    ] as const) {
      const random = drawn(count);
      const seconds = count / rateToNumber(of);
      const trembling = (milliseconds / 1000) * rateToNumber(of);
      const { index } = shoot(
        { of, trembling, kind: 'random', dropped: 0, hole: 0, container: 'MP4', seconds },
        random,
      );
      const [best] = rateFits(index);
      expect(best).toMatchObject({ rate: of, frames: count, repeated: 0, skipped: 0 });
      const laid = layFrames(index, of);
      const shown = Array.from({ length: count }, (_, position) => laid.frameAt(position));
      expect(shown).toEqual(Array.from({ length: count }, (_, frame) => frame));
    }
  });

  it('lose none that can be kept where they come faster than a rate', () => {
    // 60 a second laid at 30: every second one, next to its time.
    const { index } = shoot(
      { of: rate(60), trembling: 0.2, kind: 'random', dropped: 0, hole: 0, container: 'MP4' },
      drawn(5),
    );
    const laid = layFrames(index, rate(30));
    expect(laid).toMatchObject({ positions: 360, skipped: 360, repeated: 0 });
    expect(laid.within).toBeLessThan(1 / 30);
  });
});

describe('what stands in for frames that are missing', () => {
  const times = Array.from({ length: 100 }, (_, n) => n / 30).filter((_, n) => n % 10 !== 5);
  const index = indexOf(times, 1 / 30);

  it('is the frame before', () => {
    const [best] = rateFits(index);
    expect(best).toEqual({ rate: rate(30), frames: 100, repeated: 10, skipped: 0, within: 0 });
    const laid = layFrames(index, rate(30));
    expect([3, 4, 5, 6].map((position) => laid.frameAt(position))).toEqual([3, 4, 4, 5]);
    expect([4, 5, 89].map((frame) => laid.positionOf(frame))).toEqual([4, 6, 99]);
  });

  it.each([
    ['as they are', (time: number) => time],
    ['to whole milliseconds', (time: number) => Math.round(time * 1000) / 1000],
  ])('is what the file shows at each instant where positions are counted so, times rounded %s', (_, rounded) => {
    const exact = Array.from({ length: 100 }, (_, n) => n / 30 + (n > 40 ? 2 : 0));
    const grid = instantGrid(indexOf(exact.map(rounded), 1 / 30), rate(30), 160);
    const shown = Array.from({ length: 160 }, (_, position) => grid.frameAt(position));
    expect(shown).toEqual([
      ...Array.from({ length: 41 }, (_, n) => n),
      ...Array<number>(60).fill(40),
      ...Array.from({ length: 59 }, (_, n) => n + 41),
    ]);
    shown.forEach((frame, position) => {
      if (shown[position - 1] !== frame) expect(grid.positionOf(frame)).toBe(position);
    });
  });

  it('is not counted along a time that no film has', () => {
    expect(rateFits(indexOf([0, 1, 9e8], 0))).toEqual([]);
  });
});

describe('the rate of short files whose container counts milliseconds', () => {
  it.each([
    [rate(24), 3],
    [rate(25), 2],
    [rate(30), 2],
    [rate(50), 2],
    [rate(60), 2],
    [rate(120), 2],
    [rate(240), 2],
    // From here on the times tell them from 24, 30 and 60.
    [rate(24000, 1001), 6],
    [rate(30000, 1001), 8],
    [rate(60000, 1001), 12],
  ])('is %j from %i frames on', (of, fewest) => {
    for (let count = fewest; count <= 90; count++) {
      const times = Array.from({ length: count }, (_, n) => Math.round((n * 1000) / rateToNumber(of)) / 1000);
      const last = count > 1 ? times.at(-1)! - times.at(-2)! : 0;
      expect([count, measureRate(indexOf(times, last))]).toEqual([count, { rate: of, constant: true }]);
    }
  });

  it('is what the last frame’s own length names where that is not rounded', () => {
    const times = [0, 0.033, 0.067];
    expect(measureRate(indexOf(times, 1001 / 30000)).rate).toEqual(rate(30000, 1001));
  });
});
