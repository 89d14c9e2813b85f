import type { VideoSample } from 'mediabunny';
import { FrameCache } from './frame-cache';

/** Frames of 100 bytes that know whether they were closed. */
function frames() {
  const closed: number[] = [];
  const make = (frame: number) =>
    ({ codedWidth: 10, codedHeight: 100 / 15, close: () => closed.push(frame) }) as unknown as VideoSample;
  return { closed, make };
}

describe('the frame cache', () => {
  it('keeps what lies ahead and lets go of what lies behind first', () => {
    const { closed, make } = frames();
    const cache = new FrameCache(500);
    cache.aim(10, 1);
    for (const frame of [8, 9, 10, 11, 12, 13]) cache.put(frame, make(frame));
    expect(closed).toEqual([8]);
    cache.put(14, make(14));
    expect(closed).toEqual([8, 9]);
    expect([10, 11, 12, 13, 14].every((frame) => cache.has(frame))).toBe(true);
  });

  it('keeps the frames next to the playhead when a long group is passed backwards', () => {
    const { closed, make } = frames();
    const cache = new FrameCache(300);
    cache.aim(9, -1);
    for (let frame = 0; frame < 10; frame++) cache.put(frame, make(frame));
    expect([7, 8, 9].every((frame) => cache.has(frame))).toBe(true);
    expect(closed).toEqual([0, 1, 2, 3, 4, 5, 6]);
  });

  it('closes a frame it has already, and everything in the end', () => {
    const { closed, make } = frames();
    const cache = new FrameCache(1000);
    cache.put(1, make(1));
    cache.put(1, make(1));
    cache.put(2, make(2));
    cache.clear();
    expect(closed).toEqual([1, 1, 2]);
    expect(cache.get(1)).toBeUndefined();
  });

  it('keeps one frame however small its room', () => {
    const { make } = frames();
    const cache = new FrameCache(1);
    cache.put(5, make(5));
    expect(cache.has(5)).toBe(true);
  });
});
