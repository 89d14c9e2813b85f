import { SoundOutput } from './sound-output';

const RATE = 48_000;

interface Played {
  first: number;
  at: number;
  offset: number;
  stoppedAt: number;
  seconds: number;
}

/** An audio clock that is moved by hand, and what was placed on it. */
class FakeContext {
  static last: FakeContext;
  currentTime = 0;
  sampleRate = RATE;
  state = 'running';
  outputLatency = 0;
  baseLatency = 0;
  destination = {};
  played: Played[] = [];

  constructor() {
    FakeContext.last = this;
  }

  getOutputTimestamp = () => ({ contextTime: this.currentTime, performanceTime: 1000 * this.currentTime });
  close = () => Promise.resolve();

  createBuffer = (_channels: number, count: number) => {
    const data: { first: number } = { first: 0 };
    return {
      duration: count / RATE,
      data,
      copyToChannel: (samples: Float32Array) => (data.first = samples[0]!),
    };
  };

  createBufferSource = () => {
    const made: Played = { first: 0, at: 0, offset: 0, stoppedAt: Infinity, seconds: 0 };
    const source = {
      buffer: null as { duration: number; data: { first: number } } | null,
      connect: () => undefined,
      onended: null,
      start: (at: number, offset: number) => {
        Object.assign(made, { at, offset, first: source.buffer!.data.first, seconds: source.buffer!.duration });
        this.played.push(made);
      },
      stop: (at = this.currentTime) => (made.stoppedAt = Math.max(at, this.currentTime)),
    };
    return source;
  };
}

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(globalThis, { AudioContext: FakeContext });
});
afterEach(() => jest.useRealTimers());

/** Sound whose samples say where they stand, and what version of it they are: `version` · 1000 + seconds. */
function output() {
  const state = { version: 1 };
  const sound = new SoundOutput((first, count) =>
    Promise.resolve([new Float32Array(count).fill(1000 * state.version + first / RATE)]),
  );
  const pass = async (seconds: number): Promise<void> => {
    for (let passed = 0; passed < seconds - 1e-9; passed += 0.02) {
      FakeContext.last.currentTime += 0.02;
      await jest.advanceTimersByTimeAsync(20);
    }
  };
  return { state, sound, pass };
}

it('pieces lie on the clock without a gap, each where it belongs', async () => {
  const { sound, pass } = output();
  await sound.start(2, 10, null);
  await pass(1);
  const { played } = FakeContext.last;
  expect(played.length).toBeGreaterThan(12);
  played.forEach(({ first, at }, i) => {
    expect(first).toBeCloseTo(1002 + i / 10, 3);
    expect(at).toBeCloseTo(played[0]!.at + i / 10, 9);
  });
  await sound.close();
});

it.each([0, 0.013, 0.047, 0.094])(
  'a change is heard within 150 ms, wherever in a piece it comes: %d s',
  async (into) => {
    const { state, sound, pass } = output();
    await sound.start(0, 60, null);
    await pass(1);
    const context = FakeContext.last;
    context.currentTime += into;
    state.version = 2;
    const changed = context.currentTime;
    sound.refresh(60);
    await pass(0.2);
    const [next] = context.played.filter(({ first }) => first >= 2000);
    expect(next!.at - changed).toBeLessThan(0.15);
    // What was heard until then ends where the new begins, and nothing of the old is heard after it.
    const old = context.played.filter(({ first }) => first < 2000);
    const until = old.map(({ at, seconds, stoppedAt }) => Math.min(at + seconds, stoppedAt));
    expect(Math.max(...until.filter((_, i) => old[i]!.at < old[i]!.stoppedAt))).toBeCloseTo(next!.at, 6);
    // And it goes on at the moment of the sound at which the old one ended.
    expect(next!.first - 2000).toBeCloseTo(next!.at - context.played[0]!.at, 3);
    await sound.close();
  },
);
