import fc from 'fast-check';
import {
  addKey,
  constantSpan,
  keysOf,
  linearPositionSpan,
  mapLength,
  moveKey,
  moveRamp,
  positionAt,
  ramp,
  rampSpan,
  removeKey,
  speedAt,
} from '../..';
import { anyMapAndRange, deviation, mapOf, rate, realTime } from '../../../test/maps';

const EXACT = 1e-9;

describe('keys', () => {
  const two = mapOf([constantSpan(1, 50), constantSpan(2, 50)]);

  it('are added without moving anything and removed with both ends kept', () => {
    fc.assert(
      fc.property(anyMapAndRange, ({ map, range }) => {
        const added = addKey(map, range.to);
        expect(deviation(map, added, 0, mapLength(map))).toBeLessThan(EXACT);
        if (added.spans.length < 2) return;
        const removed = removeKey(added, 1);
        const end = keysOf(added)[2]!;
        expect(keysOf(removed)[1]!.output).toBeCloseTo(end.output, 9);
        expect(positionAt(removed, end.output)).toBeCloseTo(positionAt(added, end.output), 6);
      }),
    );
  });

  it('merge to one constant-speed part where the speed is the same', () => {
    expect(removeKey(addKey(realTime(100), 30), 1).spans).toEqual([constantSpan(1, 100)]);
  });

  it('keep their source frame when moved in time', () => {
    const moved = moveKey(two, 1, 40);
    expect([positionAt(moved, 40), positionAt(moved, 100)]).toEqual([expect.closeTo(50, 9), expect.closeTo(150, 9)]);
    expect([speedAt(moved, 20), speedAt(moved, 70)]).toEqual([1.25, expect.closeTo(100 / 60, 12)]);
    expect(() => moveKey(two, 1, 100)).toThrow('can’t pass the keys');
    expect(() => moveKey(two, 0, 10)).toThrow('ends of the clip');
  });

  it('take a joined ramp along when the constant-speed part beside them changes', () => {
    const map = mapOf([constantSpan(1, 40), rampSpan(1, 2, 20), constantSpan(2, 40), constantSpan(0.5, 40)]);
    const moved = moveKey(map, 3, 90);
    expect(moved.spans[1]!.y[3]).toBe(moved.spans[2]!.y[0]);
    expect(positionAt(moved, 90)).toBeCloseTo(positionAt(map, 100), 9);
    expect(positionAt(moved, 40)).toBeCloseTo(40, 9);
  });

  it('move whole ramps: the middle keeps its source frame, the ends theirs', () => {
    const map = ramp(realTime(200), { at: 100, frames: 20, to: 0.5, keeps: 'content' });
    const moved = moveRamp(map, 1, -30);
    expect(positionAt(moved, 70)).toBeCloseTo(positionAt(map, 100), 9);
    expect(positionAt(moved, mapLength(moved))).toBeCloseTo(200, 9);
    expect(moved.spans[1]!.frames).toBeCloseTo(20, 9);
    expect(() => moveRamp(map, 1, -90)).toThrow('can’t pass the keys');
  });

  it('tell what stands at them', () => {
    const keys = keysOf(
      mapOf([constantSpan(1, 10), { ...linearPositionSpan(30, 10), jump: 5 }], { sourceRate: rate(60) }),
    );
    expect(
      keys.map(({ output, source, speedIn, speedOut, jump }) => [output, source, speedIn, speedOut, jump]),
    ).toEqual([
      [0, 0, undefined, 1, 0],
      [10, 25, 1, expect.closeTo(1.5, 12), 5],
      [20, 55, expect.closeTo(1.5, 12), undefined, 0],
    ]);
  });
});
