import type { Page } from 'playwright-core';

/** Milliseconds of the median and the slowest of some turns, and how many took longer than the curve may. */
export interface Times {
  median: number;
  slowest: number;
  over: number;
}

/**
 * What drawing the curve took by the clock. After each drawing a loop that draws nothing and takes as long is timed in the
 * same task: what the machine does to one, taking the core away for a while, it does as often to the other.
 */
export interface Drawings {
  count: number;
  curve: Times;
  loop: Times;
}

/** Milliseconds that drawing the curve may take. */
export const CURVE_MAY_TAKE = 4;

// As text: a function would be sent with the helpers its translation refers to, which the page does not have.
const watchDrawings = `(() => {
  const watch = (window.hastigDrawings = { curve: [], loop: [] });
  const mark = performance.mark.bind(performance);
  let began = 0;
  let turns = 100000;
  const each = [];
  const spin = () => { let sum = 0; for (let i = 0; i < turns; i++) sum += Math.sqrt(i); return sum; };
  const middle = (times) => [...times].sort((a, b) => a - b)[times.length >> 1];
  performance.mark = (name, options) => {
    if (name === 'hastig:curve-begins') began = performance.now();
    if (name === 'hastig:curve-ends') {
      watch.curve.push(performance.now() - began);
      const before = performance.now();
      spin();
      const took = performance.now() - before;
      watch.loop.push(took);
      // As long as a drawing, by what the last ones took.
      each.push(took / turns);
      turns = Math.min(1e7, Math.ceil(middle(watch.curve.slice(-25)) / Math.max(1e-7, middle(each.slice(-25)))));
    }
    return mark(name, options);
  };
})()`;

function timesOf(all: readonly number[]): Times {
  const sorted = [...all].sort((a, b) => a - b);
  return {
    median: sorted[sorted.length >> 1]!,
    slowest: sorted.at(-1)!,
    over: sorted.filter((time) => time > CURVE_MAY_TAKE).length,
  };
}

/** Does something on a page and tells how long each drawing of the curve took meanwhile. */
export async function timeDrawings(page: Page, act: () => Promise<void>): Promise<Drawings> {
  await page.evaluate(watchDrawings);
  await act();
  const { curve, loop } = await page.evaluate<{ curve: number[]; loop: number[] }>('window.hastigDrawings');
  return { count: curve.length, curve: timesOf(curve), loop: timesOf(loop) };
}
