import { constantSpan, pinsOf, positionAt } from '@hastig/core';
import type { RetimeMap } from '@hastig/contract';
import { draggedThread, pinnedThread, threadAt } from './drag-thread';
import {
  sourceInSight,
  sourceToX,
  stepFor,
  stripCells,
  threadFrames,
  xToSource,
  type ThreadsView,
} from '../../../time-view/threads-view';

const rate = { num: 30, den: 1 };
const map: RetimeMap = {
  sourceRate: rate,
  outputRate: rate,
  sourceFrames: 300,
  start: 0,
  spans: [constantSpan(1, 60), constantSpan(0.5, 60), constantSpan(2, 60)],
};
const time = { from: 0, to: 180, width: 720 };
const view: ThreadsView = { time, source: sourceInSight(map, time), strip: 30, height: 150 };

describe('strips and threads', () => {
  it('lay all of the source over all of the output', () => {
    expect(view.source).toEqual({ from: 0, to: 210 });
    expect(xToSource(view, sourceToX(view, 77))).toBeCloseTo(77, 9);
  });

  it('zoomed in, have in the middle of the source what stands in the middle of the output', () => {
    const near = { from: 80, to: 100, width: 720 };
    const { from, to } = sourceInSight(map, near);
    expect((from + to) / 2).toBeCloseTo(positionAt(map, 90), 9);
    expect(to - from).toBeCloseTo((210 * 20) / 180, 9);
  });

  it('have cells on a grid of powers of two, so that panning asks for nothing new', () => {
    expect([0.01, 0.5, 1, 1.1, 30].map((perPixel) => stepFor(perPixel, 4))).toEqual([1, 2, 4, 8, 128]);
    const here = stripCells({ from: 10, to: 110, width: 400 }, 60, 500).cells.map(({ frame }) => frame);
    const panned = stripCells({ from: 22, to: 122, width: 400 }, 60, 500).cells.map(({ frame }) => frame);
    expect(panned.slice(0, -1).every((frame) => here.includes(frame))).toBe(true);
    expect(stripCells({ from: 0, to: 100, width: 400 }, 60, 33).cells.every(({ frame }) => frame < 33)).toBe(true);
  });

  it('draws as many threads as can be told apart, however long the clip', () => {
    expect(threadFrames(time, 180)).toHaveLength(90);
    expect(threadFrames({ from: 0, to: 36_000, width: 400 }, 36_000).length).toBeLessThan(60);
  });
});

describe('a thread', () => {
  it('is found by its upper and its lower half', () => {
    const x = (n: number, share: number): number => {
      const [x0, x1] = [sourceToX(view, positionAt(map, n)), (n / 180) * 720];
      return x0 + (x1 - x0) * share;
    };
    expect(threadAt(map, view, { x: x(100, 0.25), y: 30 + 90 * 0.25 })).toEqual({ end: 'content', output: 100 });
    expect(threadAt(map, view, { x: x(100, 0.75), y: 30 + 90 * 0.75 })).toEqual({ end: 'time', output: 100 });
    expect(threadAt(map, view, { x: 100, y: 10 })).toBeUndefined();
  });

  it('moves in time with its frame, or slips the content under its time', () => {
    const moved = draggedThread(map, { end: 'time', output: 90 }, 10);
    expect(positionAt(moved, 100)).toBeCloseTo(75, 9);
    expect(positionAt(moved, 60)).toBeCloseTo(60, 9);
    const slipped = draggedThread(map, { end: 'content', output: 90 }, 6);
    expect(positionAt(slipped, 90)).toBeCloseTo(81, 9);
    expect(positionAt(slipped, 120)).toBeCloseTo(90, 9);
    expect(() => draggedThread(map, { end: 'time', output: 0 }, 5)).toThrow('first and last');
  });

  it('is pinned by holding it, carries its pin along, and is let go by holding it again', () => {
    const pinned = pinnedThread(map, 90);
    expect(pinsOf(pinned)).toEqual([{ output: 90, source: 75 }]);
    const moved = draggedThread(pinned, { end: 'time', output: 90 }, 8);
    expect(pinsOf(moved)).toEqual([{ output: 98, source: 75 }]);
    expect(positionAt(moved, 98)).toBeCloseTo(75, 9);
    const slipped = draggedThread(pinned, { end: 'content', output: 90 }, 4);
    expect(pinsOf(slipped)).toEqual([{ output: 90, source: 79 }]);
    expect(pinsOf(pinnedThread(pinned, 90))).toEqual([]);
  });
});
