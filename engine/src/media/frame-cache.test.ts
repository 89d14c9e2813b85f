import type { VideoSample } from 'mediabunny';
import { FrameCache } from './frame-cache';
import { bytesForDevice, PictureBudget } from './picture-budget';

/** Frames of 100 bytes that know whether they were closed. */
function frames() {
  const closed: number[] = [];
  const make = (frame: number) =>
    ({
      format: 'I420',
      codedWidth: 10,
      codedHeight: 100 / 15,
      close: () => closed.push(frame),
    }) as unknown as VideoSample;
  return { closed, make };
}

describe('the frame cache', () => {
  it('keeps what lies ahead and lets go of what lies behind first', () => {
    const { closed, make } = frames();
    const cache = new FrameCache(new PictureBudget(500));
    cache.aim(10, 1);
    for (const frame of [8, 9, 10, 11, 12, 13]) cache.put(frame, make(frame));
    expect(closed).toEqual([8]);
    cache.put(14, make(14));
    expect(closed).toEqual([8, 9]);
    expect([10, 11, 12, 13, 14].every((frame) => cache.has(frame))).toBe(true);
  });

  it('keeps the frames next to the playhead when a long group is passed backwards', () => {
    const { closed, make } = frames();
    const cache = new FrameCache(new PictureBudget(300));
    cache.aim(9, -1);
    for (let frame = 0; frame < 10; frame++) cache.put(frame, make(frame));
    expect([7, 8, 9].every((frame) => cache.has(frame))).toBe(true);
    expect(closed).toEqual([0, 1, 2, 3, 4, 5, 6]);
  });

  it('closes a frame it has already, and everything in the end', () => {
    const { closed, make } = frames();
    const cache = new FrameCache(new PictureBudget(1000));
    cache.put(1, make(1));
    cache.put(1, make(1));
    cache.put(2, make(2));
    cache.clear();
    expect(closed).toEqual([1, 1, 2]);
    expect(cache.get(1)).toBeUndefined();
  });

  it('keeps one frame however small its room', () => {
    const { make } = frames();
    const cache = new FrameCache(new PictureBudget(1));
    cache.put(5, make(5));
    expect(cache.has(5)).toBe(true);
  });

  it('shares its room: the source that keeps most lets go first, and none of its last one', () => {
    const budget = new PictureBudget(500);
    const { closed, make } = frames();
    const [one, two] = [new FrameCache(budget), new FrameCache(budget)];
    two.put(100, make(100));
    for (const frame of [1, 2, 3, 4]) one.put(frame, make(frame));
    expect(closed).toEqual([]);
    two.put(101, make(101));
    expect(closed).toHaveLength(1);
    expect(closed[0]).toBeLessThan(100);
    one.clear();
    for (const frame of [102, 103, 104, 105]) two.put(frame, make(frame));
    expect(two.bytes).toBe(500);
  });
});

describe('the room for pictures on a device', () => {
  it('follows its memory, within bounds', () => {
    expect([0.5, 2, 4, 8].map((gigabytes) => bytesForDevice(gigabytes) / 2 ** 20)).toEqual([32, 32, 48, 96]);
  });
});
