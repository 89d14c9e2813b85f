import type { Page } from 'playwright-core';

/** Milliseconds of the median and the longest of some drawings, and how many took longer than the curve may. */
export interface Times {
  median: number;
  longest: number;
  over: number;
}

/**
 * What drawing the curve took: of the processor, by the clock of the page's thread, and by the clock on the wall, which
 * goes on while the machine gives the core to something else.
 */
export interface Drawings {
  count: number;
  worked: Times;
  passed: Times;
}

/** Milliseconds that drawing the curve may take. */
export const CURVE_MAY_TAKE = 4;

/** An event of Chromium's tracing; times in microseconds, `tts` on its thread's clock (Trace Event Format). */
interface TraceEvent {
  name: string;
  ts: number;
  tts: number;
}

function timesOf(all: readonly number[]): Times {
  const sorted = [...all].sort((a, b) => a - b);
  return {
    median: sorted[sorted.length >> 1]!,
    longest: sorted.at(-1)!,
    over: sorted.filter((time) => time > CURVE_MAY_TAKE).length,
  };
}

/** What pages mark of themselves while something is done. */
async function tracedMarks(page: Page, act: () => Promise<void>): Promise<TraceEvent[]> {
  const tracing = await page.context().browser()!.newBrowserCDPSession();
  const events: TraceEvent[] = [];
  tracing.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as TraceEvent[])));
  await tracing.send('Tracing.start', {
    traceConfig: { includedCategories: ['blink.user_timing'], excludedCategories: ['*'] },
  });
  await act();
  const complete = new Promise((resolve) => tracing.once('Tracing.tracingComplete', resolve));
  await tracing.send('Tracing.end');
  await complete;
  await tracing.detach();
  return events.sort((a, b) => a.ts - b.ts);
}

/** Does something on a page and tells how long each drawing of the curve took meanwhile. */
export async function timeDrawings(page: Page, act: () => Promise<void>): Promise<Drawings> {
  const marks = await tracedMarks(page, act);
  const begun = marks.filter(({ name }) => name === 'hastig:curve-begins');
  const ended = marks.filter(({ name }) => name === 'hastig:curve-ends');
  if (begun.length === 0 || begun.length !== ended.length) throw new Error('the drawings were not traced');
  const took = (clock: 'ts' | 'tts'): Times =>
    timesOf(ended.map((event, drawing) => (event[clock] - begun[drawing]![clock]) / 1000));
  return { count: begun.length, worked: took('tts'), passed: took('ts') };
}
