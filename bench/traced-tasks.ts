import type { Page } from 'playwright-core';

/** Milliseconds that a task of a page may take: one frame of a screen of 60 a second. */
export const TASK_MAY_TAKE = 16;

/** An event of Chromium's tracing; times in microseconds, `tdur` of its thread's clock (Trace Event Format). */
interface TraceEvent {
  name: string;
  ph: string;
  pid: number;
  tid: number;
  dur?: number;
  tdur?: number;
  args: { name?: string };
}

/** Tasks of a page's own thread while something was done. */
interface Tasks {
  /** Milliseconds of the longest, of the processor: what waited for a core is not in it. */
  longest: number;
  /** How many took longer than they may. */
  over: number;
}

/** Does something on a page, alone in its browser, and tells what its interface thread did meanwhile. */
export async function traceTasks(page: Page, act: () => Promise<void>): Promise<Tasks> {
  const tracing = await page.context().browser()!.newBrowserCDPSession();
  const events: TraceEvent[] = [];
  tracing.on('Tracing.dataCollected', ({ value }) => events.push(...(value as unknown as TraceEvent[])));
  await tracing.send('Tracing.start', {
    traceConfig: { includedCategories: ['toplevel', '__metadata'], excludedCategories: ['*'] },
  });
  await act();
  const complete = new Promise((resolve) => tracing.once('Tracing.tracingComplete', resolve));
  await tracing.send('Tracing.end');
  await complete;
  await tracing.detach();
  const main = new Set(
    events
      .filter(({ name, args }) => name === 'thread_name' && args.name === 'CrRendererMain')
      .map(({ pid, tid }) => `${pid}/${tid}`),
  );
  const times = events
    .filter(({ name, ph, pid, tid }) => name.endsWith('RunTask') && ph === 'X' && main.has(`${pid}/${tid}`))
    .map(({ tdur, dur }) => (tdur ?? dur ?? 0) / 1000);
  if (times.length === 0) throw new Error('the tasks were not traced');
  return { longest: Math.max(...times), over: times.filter((time) => time > TASK_MAY_TAKE).length };
}
