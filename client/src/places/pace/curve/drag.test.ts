import { constantSpan, mapLength, positionAt, rampSpan } from '@hastig/core';
import type { RetimeMap } from '@hastig/contract';
import { draggedMap, drawnMap, type DragState, type Grab } from './drag';
import { handlesOf } from './handles';
import { frameToX, speedToY, type CurveView } from './scale';

const rate = { num: 30, den: 1 };
const map: RetimeMap = {
  sourceRate: rate,
  outputRate: rate,
  sourceFrames: 200,
  start: 0,
  spans: [constantSpan(1, 60), rampSpan(1, 0.5, 20), constantSpan(0.5, 60), constantSpan(1, 40)],
};
const view: CurveView = { from: 0, to: 180, low: 0, high: 4, width: 900, height: 300 };

function drag(grab: Grab, dx: number, dy: number, change: Partial<DragState> = {}): RetimeMap {
  const start = { x: 300, y: 150 };
  return draggedMap(map, grab, {
    view,
    start,
    now: { x: 300 + dx, y: 150 + dy },
    free: false,
    oneSided: false,
    magnets: [],
    keeps: 'content',
    ...change,
  });
}

describe('dragging', () => {
  it('a constant-speed part gives the speed at its new height, and real time when near it', () => {
    const to = speedToY(view, 2.5) - speedToY(view, 0.5);
    expect(drag({ kind: 'level', index: 2 }, 0, to).spans[2]!.y[0]).toBe(2.5);
    const near = speedToY(view, 1) - speedToY(view, 0.5) + 5;
    expect(drag({ kind: 'level', index: 2 }, 0, near).spans[2]!.y[0]).toBe(1);
    expect(drag({ kind: 'level', index: 2 }, 0, near, { free: true }).spans[2]!.y[0]).not.toBe(1);
  });

  it('a constant-speed part below the freeze line turns it round, its content kept', () => {
    const result = drag({ kind: 'level', index: 3 }, 0, speedToY(view, -1) - speedToY(view, 1));
    expect(result.spans[3]!.y[0]).toBe(-1);
    expect(mapLength(result)).toBeCloseTo(180, 9);
  });

  it('keys and edges move by whole frames', () => {
    const pixels = frameToX(view, 10) + 1;
    expect(handlesOf(drag({ kind: 'key', index: 3 }, pixels, 0)).find(({ kind }) => kind === 'key')!.from).toBeCloseTo(
      150,
      9,
    );
    expect(drag({ kind: 'edge', index: 1, edge: 1, of: 'ramp' }, pixels, 0).spans[1]!.frames).toBeCloseTo(40, 9);
    expect(drag({ kind: 'edge', index: 3, edge: -1, of: 'key' }, -pixels, 0).spans[3]!.frames).toBeCloseTo(20, 9);
    expect(positionAt(drag({ kind: 'ramp', index: 1 }, -pixels, 0), 60)).toBeCloseTo(positionAt(map, 70), 9);
  });

  it('says why where it cannot go', () => {
    expect(() => drag({ kind: 'key', index: 3 }, 600, 0)).toThrow('pass the keys');
  });
});

describe('drawing', () => {
  const stroke = Array.from({ length: 40 }, (_, i) => ({ x: 200 + i * 10, y: 150 + 60 * Math.sin(i / 6) }));

  it('follows the hand in a few straight lines, length kept', () => {
    const drawn = drawnMap(map, view, stroke, 'length')!;
    expect(mapLength(drawn)).toBeCloseTo(180, 9);
    expect(drawn.spans.length).toBeGreaterThan(map.spans.length);
    expect(drawn.spans.length).toBeLessThan(20);
  });

  it('is the same drawn from right to left, and nothing for a touch', () => {
    expect(drawnMap(map, view, [...stroke].reverse(), 'length')).toEqual(drawnMap(map, view, stroke, 'length'));
    expect(drawnMap(map, view, stroke.slice(0, 1), 'length')).toBeUndefined();
  });

  it('can keep the content instead', () => {
    const drawn = drawnMap(map, view, stroke, 'content')!;
    expect(positionAt(drawn, mapLength(drawn))).toBeCloseTo(positionAt(map, 180), 6);
  });
});

it('names everything that can be grabbed, with its numbers', () => {
  expect(handlesOf(map).map(({ name, value }) => `${name}: ${value}`)).toEqual([
    'Part 1 of 4: 100% for 60 frames, from output 0',
    'Ramp 2 of 4: ×1.00 to ×0.50 over 20 frames, from output 60',
    'Part 3 of 4: 50% for 60 frames, from output 80',
    'Key 4 of 5: output 140, source 105, speed 0.5 to 1',
    'Part 4 of 4: 100% for 40 frames, from output 140',
  ]);
});
