import { constantSpan, fromPositionKeys, keysOf } from '@hastig/core';
import type { RetimeMap } from '@hastig/contract';
import { draggedPosition, positionsInSight, positionToY, yToPosition, type PositionView } from './position-view';

const rate = { num: 30, den: 1 };
const plain: RetimeMap = {
  sourceRate: rate,
  outputRate: rate,
  sourceFrames: 200,
  start: 0,
  spans: [constantSpan(1, 150)],
};
const map = fromPositionKeys(
  plain,
  [
    { output: 0, source: 0 },
    { output: 50, source: 80 },
    { output: 150, source: 150 },
  ],
  'smooth',
);
const view: PositionView = { from: 0, to: 150, width: 600, height: 236, ...positionsInSight(map) };

describe('the view of positions', () => {
  it('shows all positions, with room, and back', () => {
    expect(view.low).toBeLessThan(0);
    expect(view.high).toBeGreaterThan(150);
    expect(yToPosition(view, positionToY(view, 42))).toBeCloseTo(42, 9);
  });

  it('moves a key the way it is dragged further: in time or in the source', () => {
    const drag = (x: number, y: number) =>
      keysOf(
        draggedPosition(map, { kind: 'key', index: 1 }, { view, start: { x: 0, y: 0 }, now: { x, y }, snap: true }),
      )[1]!;
    expect(drag(40, 3)).toMatchObject({ output: 60, source: expect.closeTo(80, 9) });
    const slipped = drag(3, -24);
    expect(slipped.output).toBe(50);
    expect(slipped.source).toBeCloseTo(Math.round(80 + (24 / 200) * (view.high - view.low)), 9);
  });

  it('puts a handle where the finger is', () => {
    const at = { x: (60 / 150) * 600, y: positionToY(view, 100) };
    const shaped = draggedPosition(
      map,
      { kind: 'handle', index: 1, which: 0 },
      { view, start: { x: 0, y: 0 }, now: at, snap: false },
    );
    expect(shaped.spans[1]!.x[0]).toBeCloseTo(0.1, 9);
    expect(shaped.spans[1]!.y[1]).toBeCloseTo(20, 9);
  });
});
