import { WorkerGaveUp } from '../../worker/handle';
import type { Makes } from './maker';
import { MakerPool, makersForDevice } from './maker-pool';

/** Makers that say who they are, and may be broken. */
function seats() {
  const started: { name: string; breakDown(): void; ended: boolean }[] = [];
  const start = (onBreakdown: () => void) => {
    const seat = { name: `worker ${started.length}`, breakDown: onBreakdown, ended: false };
    started.push(seat);
    return { makes: seat as unknown as Makes, busy: 0, end: () => (seat.ended = true) };
  };
  return { started, start };
}

const nameOf = (makes: Makes): string => (makes as unknown as { name?: string }).name ?? 'here';
const held = () => {
  let done = (): void => undefined;
  const promise = new Promise<void>((resolve) => (done = resolve));
  return { promise, done };
};

beforeEach(() => {
  globalThis.Worker = class {} as unknown as typeof Worker;
});
afterEach(() => {
  delete (globalThis as { Worker?: unknown }).Worker;
});

it('there are as many makers as cores, and few', () => {
  expect([1, 2, 4, 16].map((cores) => makersForDevice(cores))).toEqual([1, 2, 4, 4]);
});

it('work goes to whoever has the least to do, and another is started where all are busy', async () => {
  const { start, started } = seats();
  const pool = new MakerPool(2, start);
  const [first, second] = [held(), held()];
  const names: string[] = [];
  const work = (until: Promise<void>) =>
    pool.with(async (makes) => {
      names.push(nameOf(makes));
      await until;
    });
  const one = work(first.promise);
  const two = work(second.promise);
  void work(second.promise);
  first.done();
  await one;
  second.done();
  await two;
  await work(Promise.resolve());
  expect(names).toEqual(['worker 0', 'worker 1', 'worker 0', 'worker 0']);
  expect(started).toHaveLength(2);
  pool.close();
  expect(started.every(({ ended }) => ended)).toBe(true);
});

it('what a worker that breaks down was to make is made here, and another worker takes its place', async () => {
  const { start, started } = seats();
  const pool = new MakerPool(1, start);
  const tried: string[] = [];
  const task = (makes: Makes): Promise<string> => {
    tried.push(nameOf(makes));
    if (nameOf(makes) !== 'worker 0') return Promise.resolve('made');
    started[0]!.breakDown();
    return Promise.reject(new WorkerGaveUp('crashed'));
  };
  expect(await pool.with(task)).toBe('made');
  expect(await pool.with(task)).toBe('made');
  expect(tried).toEqual(['worker 0', 'here', 'worker 1']);
  expect(started[0]!.ended).toBe(true);
});

it('other faults are told, and where workers break down again and again none is started any more', async () => {
  const { start, started } = seats();
  const pool = new MakerPool(1, start);
  await expect(pool.with(() => Promise.reject(new Error('damaged')))).rejects.toThrow('damaged');
  for (let time = 0; time < 5; time++) {
    await pool.with((makes) => {
      if (nameOf(makes) === 'here') return Promise.resolve();
      started.at(-1)!.breakDown();
      return Promise.reject(new WorkerGaveUp('crashed'));
    });
  }
  expect(started).toHaveLength(3);
  expect(await pool.with((makes) => Promise.resolve(nameOf(makes)))).toBe('here');
});
