import { Watchdog } from './watchdog';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

/** What became of it so far. */
async function stateOf(watchdog: Watchdog): Promise<string> {
  return Promise.race([watchdog.expired.catch((error: Error) => error.message), Promise.resolve().then(() => 'waits')]);
}

it('expires where nothing is heard for long, and not while something is', async () => {
  const watchdog = new Watchdog(1000, new Error('It says nothing.'));
  for (let n = 0; n < 3; n++) {
    jest.advanceTimersByTime(900);
    watchdog.reset();
  }
  jest.advanceTimersByTime(999);
  expect(await stateOf(watchdog)).toBe('waits');
  jest.advanceTimersByTime(1);
  await expect(watchdog.expired).rejects.toThrow('It says nothing.');
});

it('holds on while it is to say nothing', async () => {
  const watchdog = new Watchdog(1000, new Error('It says nothing.'));
  watchdog.stop();
  jest.advanceTimersByTime(100_000);
  expect(await stateOf(watchdog)).toBe('waits');
  watchdog.reset();
  jest.advanceTimersByTime(1000);
  await expect(watchdog.expired).rejects.toThrow('It says nothing.');
});
