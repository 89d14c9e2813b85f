import { copyFile, stat } from 'node:fs/promises';
import { join } from 'node:path';
import { constantSpan, instant, mapProgram } from '@hastig/core';
import { browserMemory } from './browser-memory';
import { line } from './line';
import { job, openBench } from './render-page';

/**
 * Seconds of every file that is rendered: a short source is passed more often, so that only its length differs. Long enough
 * for the browser to clear away several times what is no longer used; before the first time, its memory only rises, and the
 * peak would tell how long the render took.
 */
const RENDERED = 2400;
const RATE = { num: 24, den: 1 };

/** Makes a clip into a bench's folder. @returns its frames */
async function makeClip(seconds: number, folder: string, perSecond = RATE.num): Promise<number> {
  // In a browser of its own: a page's process keeps what making the clip grew it by, even when it is loaded anew.
  const maker = await openBench();
  try {
    const frames = await maker.page.evaluate(([length, fps]) => window.makeClip(length, fps, 360), [
      seconds,
      perSecond,
    ] as const);
    await copyFile(join(maker.folder, 'clip'), join(folder, 'clip'));
    return frames;
  } finally {
    await maker.close();
  }
}

async function peakOfRender(seconds: number): Promise<number> {
  const bench = await openBench();
  try {
    const frames = await makeClip(seconds, bench.folder);
    const { size } = await stat(join(bench.folder, 'clip'));
    let peak = 0;
    const timer = setInterval(() => (peak = Math.max(peak, browserMemory())), 250);
    await bench.page.evaluate(
      (one) => window.exported(one),
      job(bench, '/clip', size, RATE, frames, 640, 360, RENDERED / seconds),
    );
    clearInterval(timer);
    return Math.max(peak, browserMemory());
  } finally {
    await bench.close();
  }
}

/** Seconds of sources that are passed 500 times as fast, all their frames averaged. */
const LAPSED = [600, 7200];
const TIMES = 500;
const SLOW_RATE = { num: 10, den: 1 };

/** Peak memory and time of as many pictures of time-lapses, beside those of the shortest source. */
export async function benchLapse(): Promise<void> {
  let first: { peak: number; took: number; pictures: number } | undefined;
  for (const seconds of LAPSED) {
    const bench = await openBench();
    try {
      const frames = await makeClip(seconds, bench.folder, SLOW_RATE.num);
      const { size } = await stat(join(bench.folder, 'clip'));
      const once = Math.floor(frames / TIMES);
      // A short source is passed more often, to and fro, so that as much is made of it.
      const passes = Math.round(LAPSED.at(-1)! / seconds);
      const pictures = once * passes;
      const map = {
        ...{ sourceRate: SLOW_RATE, outputRate: SLOW_RATE, sourceFrames: frames, start: 0 },
        spans: Array.from({ length: passes }, (_, pass) => constantSpan(pass % 2 ? -TIMES : TIMES, once)),
      };
      const order = {
        ...job(bench, '/clip', size, SLOW_RATE, frames, 640, 360),
        ...{ program: mapProgram(map, 'source'), exposure: { ...instant, shutter: 360 } },
      };
      let peak = 0;
      const timer = setInterval(() => (peak = Math.max(peak, browserMemory())), 250);
      const rate = await bench.page.evaluate((one) => window.exported(one), order);
      clearInterval(timer);
      const now = { peak, took: pictures / rate, pictures };
      first ??= now;
      line(
        `${TIMES}× of ${seconds} s, all averaged`,
        `${(peak / 1e6).toFixed(0)} MB at its peak (ratio ${(peak / first.peak).toFixed(2)}); ${now.took.toFixed(0)} s for ${pictures} pictures (${(now.took / pictures / (first.took / first.pictures)).toFixed(2)} of the time for each)`,
      );
    } finally {
      await bench.close();
    }
  }
}

/** Peak memory of renders whose sources last so many seconds, beside the first of them. */
export async function benchMemory(lengths: readonly number[]): Promise<void> {
  let first: number | undefined;
  for (const seconds of lengths) {
    const peak = await peakOfRender(seconds);
    first ??= peak;
    line(
      `memory, ${RENDERED} s of a ${seconds} s source`,
      `${(peak / 1e6).toFixed(0)} MB at its peak, all browser processes (ratio ${(peak / first).toFixed(2)})`,
    );
  }
}
