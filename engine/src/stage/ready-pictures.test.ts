import type { PicturePlan, SeenPicture } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { ReadyPictures } from './ready-pictures';

let open = 0;
const sample = (bytes = 10): VideoSample => {
  open++;
  return { allocationSize: () => bytes, close: () => void open-- } as unknown as VideoSample;
};
const picture = (frame: number): SeenPicture => [{ of: { sourceId: 'a', frame, share: 0.5, clipId: 'c' } }];
const forward =
  (now: number) =>
  (frame: number): number =>
    (frame - now + 100) % 100;

beforeEach(() => (open = 0));

it('pictures are told as ranges, and closed when they are let go of', () => {
  const ready = new ReadyPictures(100);
  for (const frame of [4, 5, 6, 9]) expect(ready.put(frame, picture(frame), sample(), forward(4))).toBe(true);
  expect(ready.ranges()).toEqual([
    { from: 4, to: 7 },
    { from: 9, to: 10 },
  ]);
  expect(ready.get(5)).toBeDefined();
  expect(ready.get(7)).toBeUndefined();
  ready.clear();
  expect([ready.ranges(), open]).toEqual([[], 0]);
});

it('where there is no room, what is played later gives way, and what is played later than all is not kept', () => {
  const ready = new ReadyPictures(30);
  for (const frame of [10, 11, 12]) ready.put(frame, picture(frame), sample(), forward(10));
  expect(ready.put(13, picture(13), sample(), forward(10))).toBe(false);
  // Now at 12: what was played is played last.
  expect(ready.put(13, picture(13), sample(), forward(12))).toBe(true);
  expect(ready.ranges()).toEqual([
    { from: 10, to: 11 },
    { from: 12, to: 14 },
  ]);
  expect(ready.put(14, picture(14), sample(40), forward(12))).toBe(false);
  expect(open).toBe(ready.ranges().reduce((sum, { from, to }) => sum + to - from, 0));
});

it('a picture that is put anew takes the place of the one before', () => {
  const ready = new ReadyPictures(10);
  ready.put(1, picture(1), sample(), forward(0));
  expect(ready.put(1, picture(1), sample(), forward(0))).toBe(true);
  expect(open).toBe(1);
});

it('what another plan shows otherwise is let go of', () => {
  const ready = new ReadyPictures(100);
  for (const frame of [0, 1, 2, 3]) ready.put(frame, picture(frame), sample(), forward(0));
  const plan = { count: 3, at: (n: number) => picture(n === 1 ? 7 : n) } as PicturePlan;
  ready.keepFor(plan);
  expect(ready.ranges()).toEqual([
    { from: 0, to: 1 },
    { from: 2, to: 3 },
  ]);
  expect(open).toBe(2);
});
