import type { VideoSample } from 'mediabunny';
import { instantGrid, layFrames } from '@hastig/probe';
import type { SourceFrames } from './source-frames';
import { TimedFrames } from './timed-frames';

// Five frames: the second stays for three tenths, two come within one.
const index = {
  timestamps: Float64Array.of(1, 1.1, 1.4, 1.45, 1.5),
  groupStarts: Uint32Array.of(0, 2),
  lastDuration: 0.1,
};
const wanted: number[][] = [];
const file = {
  frames: 5,
  peek: (frame: number) => ({ timestamp: frame }) as VideoSample,
  get: async (frame: number) => ({ timestamp: frame }) as VideoSample,
  prefetch: (frames: readonly number[]) => void wanted.push([...frames]),
  group: (frame: number) => (frame < 2 ? { start: 0, end: 2 } : { start: 2, end: 5 }),
} as unknown as SourceFrames;
const rate = { num: 10, den: 1 };
const timed = new TimedFrames(file, index, instantGrid(index, rate, 6));

it('shows at each position the frame whose time covers it', async () => {
  expect(timed.frames).toBe(6);
  const shown = await Promise.all([0, 1, 2, 3, 4, 5].map(async (position) => (await timed.get(position)).timestamp));
  expect(shown).toEqual([0, 1, 1, 1, 2, 4]);
  expect(timed.peek(3)?.timestamp).toBe(1);
  await expect(timed.get(6)).rejects.toThrow(RangeError);
});

it('asks for each of the file’s frames once', () => {
  timed.prefetch([5, 4, 3, 2, 1], -1);
  expect(wanted).toEqual([[4, 2, 1]]);
});

it('knows which positions are decoded together', () => {
  expect(timed.group(2)).toEqual({ start: 0, end: 4 });
  expect(timed.group(5)).toEqual({ start: 4, end: 6 });
});

it('shows each frame at the position next to it, in order, and what stands where none is', async () => {
  const laid = new TimedFrames(file, index, layFrames(index, rate));
  const shown = await Promise.all(
    Array.from({ length: laid.frames }, async (_, position) => (await laid.get(position)).timestamp),
  );
  // Three come within a tenth and a bit, each next to its time, and none is lost.
  expect(shown).toEqual([0, 1, 1, 2, 3, 4]);
  expect(laid.group(2)).toEqual({ start: 0, end: 3 });
});
