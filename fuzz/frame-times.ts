import { rateToNumber, makeRate } from '@hastig/core';
import { measureRate, rateFits } from '@hastig/probe';
import fc from 'fast-check';
import { Report } from './report';

const rates = [
  ...[24, 25, 30, 50, 60, 100, 120, 240].map((rate) => makeRate(rate)),
  ...[24, 30, 60, 120].map((rate) => makeRate(rate * 1000, 1001)),
];

const shot = fc.record({
  rate: fc.constantFrom(...rates),
  seconds: fc.integer({ min: 12, max: 40 }),
  trembling: fc.double({ min: 0, max: 0.4, noNaN: true }),
  dropped: fc.constantFrom(0, 0, 40, 12, 7),
  hole: fc.double({ min: 0, max: 3, noNaN: true }),
  start: fc.double({ min: 0, max: 5, noNaN: true }),
  tick: fc.constantFrom(1000, 90_000, 600_000),
  noise: fc.nat(),
});

/** Frame times as cameras and phones write them: the rate is found again, and none that was written is lost. */
export async function fuzzFrameTimes(count: number, seed: number): Promise<Report> {
  const report = new Report(`trembling frame times (seed ${seed})`);
  for (const { rate, seconds, trembling, dropped, hole, start, tick, noise } of fc.sample(shot, {
    numRuns: count,
    seed,
  })) {
    const perSecond = rateToNumber(rate);
    // A millisecond is a large part of a frame at high rates: what it adds is trembling too.
    if (trembling + (perSecond * 0.5) / tick > 0.45) continue;
    const frames = Math.round(seconds * perSecond);
    // Even from 0 to 1: drawn by the library, small numbers would be the most.
    let state = noise;
    const random = (): number => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32;
    const times: number[] = [];
    for (let frame = 0; frame < frames; frame++) {
      if (dropped > 0 && frame > 0 && random() < 1 / dropped) continue;
      const exact = start + (frame + 1 + (2 * random() - 1) * trembling) / perSecond + (frame > frames / 2 ? hole : 0);
      times.push(Math.max(Math.round(exact * tick) / tick, (times.at(-1) ?? -1) + 1e-6));
    }
    const index = {
      timestamps: Float64Array.from(times),
      groupStarts: Uint32Array.of(0),
      lastDuration: 1 / perSecond,
    };
    const measured = measureRate(index);
    const [best] = measured.constant ? [] : rateFits(index);
    const found = best?.rate ?? measured.rate;
    const what = JSON.stringify({ rate, seconds, trembling, dropped, hole, tick });
    report.tried(measured.constant ? 'even' : 'uneven');
    if (Math.abs(rateToNumber(found) / perSecond - 1) > 0.0012) report.fault(`${found.num}/${found.den} for ${what}`);
    if (best && best.skipped > 0) report.fault(`${best.skipped} frames lost of ${what}`);
  }
  return report;
}
