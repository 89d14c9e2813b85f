import { Patience } from './patience';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

/** What became of it so far. */
async function stateOf(patience: Patience): Promise<string> {
  return Promise.race([patience.lost.catch((error: Error) => error.message), Promise.resolve().then(() => 'waits')]);
}

it('is lost where nothing is heard for long, and not while something is', async () => {
  const patience = new Patience(1000, new Error('It says nothing.'));
  for (let n = 0; n < 3; n++) {
    jest.advanceTimersByTime(900);
    patience.heard();
  }
  jest.advanceTimersByTime(999);
  expect(await stateOf(patience)).toBe('waits');
  jest.advanceTimersByTime(1);
  await expect(patience.lost).rejects.toThrow('It says nothing.');
});

it('holds on while it is to say nothing', async () => {
  const patience = new Patience(1000, new Error('It says nothing.'));
  patience.end();
  jest.advanceTimersByTime(100_000);
  expect(await stateOf(patience)).toBe('waits');
  patience.heard();
  jest.advanceTimersByTime(1000);
  await expect(patience.lost).rejects.toThrow('It says nothing.');
});
