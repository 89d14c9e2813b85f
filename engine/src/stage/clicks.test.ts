import { addClicks, clickAt, withClicks } from './clicks';

const RATE = 48_000;
const clicks = { at: [0.1, 0.25, 0.4].map((seconds, i) => ({ seconds, high: i === 1 })), loudness: 0.5 };

it('lie at their moments to the sample, whatever pieces are read', async () => {
  const silent = withClicks(
    () => Promise.resolve(null),
    () => clicks,
  );
  const whole = (await silent(0, RATE / 2, RATE))![0]!;
  for (const { seconds } of clicks.at) {
    const begin = seconds * RATE;
    expect(whole.slice(begin - 100, begin).every((value) => value === 0)).toBe(true);
    expect(whole.slice(begin, begin + 24).some((value) => Math.abs(value) > 0.05)).toBe(true);
  }
  const pieces: number[] = [];
  for (let at = 0; at < RATE / 2; at += 4001) {
    pieces.push(...(await silent(at, Math.min(4001, RATE / 2 - at), RATE))![0]!);
  }
  expect(Float32Array.from(pieces)).toEqual(whole);
});

it('add to what is heard, in both channels, and are higher where they shall be', () => {
  const channels = [new Float32Array(RATE / 2).fill(0.1), new Float32Array(RATE / 2).fill(0.1)];
  addClicks(channels, 0, RATE, clicks);
  expect(channels[0]).toEqual(channels[1]);
  expect(channels[0]![0]).toBeCloseTo(0.1, 6);
  const crossings = (high: boolean): number => {
    let count = 0;
    for (let i = 1; i < 480; i++) if (clickAt(i / RATE, high) * clickAt((i - 1) / RATE, high) < 0) count++;
    return count;
  };
  expect(crossings(true) / crossings(false)).toBeCloseTo(1.5, 1);
});

it('without any the sound stays the very same', async () => {
  const sound = [new Float32Array(4)];
  const read = () => Promise.resolve(sound);
  expect(await withClicks(read, () => null)(0, 4, RATE)).toBe(sound);
});
