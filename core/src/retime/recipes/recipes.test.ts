import {
  compile,
  constantSpan,
  eases,
  heldFrame,
  mapLength,
  positionAt,
  rewind,
  sourceShortages,
  speedAt,
  stairs,
  stairSpeeds,
  surge,
  thereAndBack,
} from '../..';
import { deviation, mapOf, rate, realTime } from '../../../test/maps';

const EXACT = 1e-9;
const ease = eases['ease-in-out'];

describe('surge and dip', () => {
  const options = { outer: 0.5, inner: 4, ramp: 10, share: 0.4, ease };

  it.each(['content', 'length'] as const)('keeps the %s; the ramps keep their length', (keeps) => {
    const map = surge(realTime(300), { from: 60, to: 240 }, { ...options, keeps });
    const [, side, up, middle, down, other] = map.spans;
    expect([up!.frames, down!.frames]).toEqual([10, 10]);
    expect(side!.frames).toBeCloseTo(other!.frames, 9);
    expect(middle!.frames / (middle!.frames + 2 * side!.frames)).toBeCloseTo(0.4, 12);
    if (keeps === 'length') expect(mapLength(map)).toBeCloseTo(300, 9);
    else expect(positionAt(map, mapLength(map))).toBeCloseTo(300, 9);
    expect(deviation(map, realTime(300), 0, 60)).toBeLessThan(EXACT);
  });

  it('refuses ramps longer than the range', () => {
    const long = { ...options, ramp: 100, keeps: 'length' } as const;
    expect(() => surge(realTime(300), { from: 60, to: 240 }, long)).toThrow('ramps don’t fit');
  });
});

describe('stairs', () => {
  it('80, 70, 60, 50% (common practice), by step and by number of steps', () => {
    expect(stairSpeeds({ from: 0.8, to: 0.5, by: { step: 0.1 } })).toEqual([0.8, 0.7, 0.6, 0.5]);
    expect(stairSpeeds({ from: 0.8, to: 0.5, by: { steps: 4 } })).toEqual([0.8, 0.7, 0.6, 0.5]);
    expect(stairSpeeds({ from: 1.5, to: 4.5, by: { step: 0.5 } })).toEqual([1.5, 2, 2.5, 3, 3.5, 4, 4.5]);
  });

  it('each step lasts 5 frames; the content they pass is what makes room for them', () => {
    const map = stairs(realTime(100), 40, { from: 0.8, to: 0.5, by: { step: 0.1 }, frames: 5, keeps: 'content' });
    expect(map.spans.map((span) => [span.frames, span.y[0]])).toEqual([
      [40, 1],
      [5, 0.8],
      [5, 0.7],
      [5, 0.6],
      [5, 0.5],
      [expect.closeTo(47, 9), 1],
    ]);
    expect(positionAt(map, mapLength(map))).toBeCloseTo(100, 9);
    const covering = stairs(realTime(100), 40, { from: 0.8, to: 0.5, by: { steps: 4 }, frames: 5, keeps: 'length' });
    expect(mapLength(covering)).toBe(100);
  });

  it('a burst of 800% for 5 frames passes 40 source frames (common practice)', () => {
    const map = stairs(realTime(200), 10, { from: 8, to: 8, by: { steps: 2 }, frames: 2.5, keeps: 'length' });
    expect(positionAt(map, 15) - positionAt(map, 10)).toBeCloseTo(40, 9);
  });

  it('refuses what is no staircase', () => {
    const base = { from: 1, to: 2, frames: 5, keeps: 'length' } as const;
    expect(() => stairs(realTime(50), 0, { ...base, by: { steps: 1 } })).toThrow('at least 2');
    expect(() => stairs(realTime(50), 0, { ...base, by: { step: 0 } })).toThrow('must change the speed');
    expect(() => stairs(realTime(50), 0, { ...base, by: { step: 1e-9 } })).toThrow('at most');
    expect(() => stairs(realTime(50), 0, { ...base, by: { steps: 3 }, frames: 0 })).toThrow('longer than 0');
  });
});

describe('there and back', () => {
  it('turns at the range’s end, comes back mirrored to its start, and goes on', () => {
    const map = thereAndBack(realTime(200), { from: 50, to: 100 }, { ramp: 12, ease, then: 'on' });
    const joints = [...compile(map).times].map((t) => ({ t, f: positionAt(map, t), v: speedAt(map, t) }));
    const turns = joints.filter(({ v }) => Math.abs(v) < EXACT);
    expect(turns.map(({ f }) => f)).toEqual([expect.closeTo(99, 9), expect.closeTo(50, 9)]);
    const [out, back] = turns.map(({ t }) => t) as [number, number];
    // Mirrored in time around each turn.
    for (const d of [1, 5, 9.5, 20]) {
      expect(positionAt(map, out + d)).toBeCloseTo(positionAt(map, out - d), 9);
      expect(positionAt(map, back + d)).toBeCloseTo(positionAt(map, back - d), 9);
    }
    expect(positionAt(map, mapLength(map))).toBeCloseTo(200, 9);
    expect(map.spans.every((span) => !span.jump)).toBe(true);
  });

  it('never leaves a source that ends where it turns', () => {
    const map = thereAndBack(realTime(100), { from: 0, to: 100 }, { ramp: 12, ease, then: 'on' });
    expect(sourceShortages(map)).toEqual([]);
    expect(Math.max(...Array.from({ length: 200 }, (_, n) => heldFrame(map, n)))).toBe(99);
  });

  it('or ends where it began', () => {
    const map = thereAndBack(realTime(200), { from: 50, to: 100 }, { ramp: 12, ease, then: 'end' });
    expect(positionAt(map, mapLength(map))).toBeCloseTo(50, 9);
    expect(() => thereAndBack(realTime(200), { from: 50, to: 60 }, { ramp: 60, ease, then: 'end' })).toThrow(
      'longer than the range',
    );
  });
});

describe('rewind', () => {
  it('runs back so many source frames, ramps at both ends, and shows them again', () => {
    const map = rewind(realTime(200), 120, { back: 60, speed: 3, ramp: 8, ease });
    const lowest = Math.min(...Array.from({ length: 400 }, (_, i) => positionAt(map, 120 + i / 10)));
    expect(lowest).toBeLessThan(60.5);
    expect(positionAt(map, mapLength(map))).toBeCloseTo(200, 9);
    expect(map.spans.every((span) => !span.jump)).toBe(true);
    expect(mapLength(map)).toBeGreaterThan(280);
  });

  it('at other rates and slow speeds', () => {
    const source = mapOf([constantSpan(0.5, 160)], { sourceRate: rate(60), outputRate: rate(24), sourceFrames: 300 });
    const map = rewind(source, 100, { back: 50, speed: 2, ramp: 6, ease });
    expect(positionAt(map, mapLength(map))).toBeCloseTo(positionAt(source, 160), 9);
    expect(heldFrame(map, 99)).toBe(heldFrame(source, 99));
  });

  it('refuses to run back before the clip', () => {
    expect(() => rewind(realTime(200), 20, { back: 60, speed: 3, ramp: 8, ease })).toThrow(
      'doesn’t show source frame -40',
    );
    expect(() => rewind(realTime(200), 120, { back: 5, speed: 3, ramp: 40, ease })).toThrow('ramps alone');
  });
});
