import fc from 'fast-check';
import quadprog from 'quadprog';
import type { Pin, RetimeMap, Span } from '@hastig/contract';
import {
  compile,
  constantSpan,
  EditRefused,
  freeze,
  holdPins,
  isConstantSpeed,
  land,
  mapLength,
  pin,
  pinsMet,
  positionAt,
  rampSpan,
  setPartSpeed,
  setSpeed,
  trimStart,
  unpin,
  withLock,
} from '../..';
import { deviation, mapOf, realTime } from '../../../test/maps';
import { leastChange } from './solve';
import type { Row, Unknown } from './system';

const withPinsAt = (map: RetimeMap, pins: Pin[]): RetimeMap => ({ ...map, pins });
const long = { sourceFrames: 100_000 };
const refusal = (run: () => unknown): EditRefused => {
  try {
    run();
  } catch (error) {
    if (error instanceof EditRefused) return error;
    throw error;
  }
  throw new Error('was not refused');
};

interface Problem {
  unknowns: Unknown[];
  rows: Row[];
}

/** Random least-change problems that have a solution: the rows are what some values within the bounds pass. */
const problem: fc.Arbitrary<Problem> = fc
  .record({
    unknowns: fc.array(
      fc.record({
        value: fc.double({ min: 0, max: 6, noNaN: true }),
        weight: fc.double({ min: 1, max: 60, noNaN: true }),
        low: fc.constant(0),
        high: fc.constant(Infinity),
      }),
      { minLength: 3, maxLength: 14 },
    ),
    cuts: fc.integer({ min: 1, max: 4 }),
    seeds: fc.array(fc.double({ min: 0.01, max: 5, noNaN: true }), { minLength: 14, maxLength: 14 }),
    travels: fc.array(fc.double({ min: 0.5, max: 40, noNaN: true }), { minLength: 14, maxLength: 14 }),
  })
  .map(({ unknowns, cuts, seeds, travels }) => {
    const size = Math.ceil(unknowns.length / cuts);
    const rows: Row[] = [];
    for (let start = 0; start < unknowns.length; start += size) {
      const terms = new Map<number, number>();
      // Neighbouring rows share an unknown, as segments between pins share the speed at the pin.
      for (let k = start; k <= Math.min(start + size, unknowns.length - 1); k++) terms.set(k, travels[k]!);
      const wanted = [...terms].reduce((sum, [k, c]) => sum + c * seeds[k]!, 0);
      rows.push({ terms, wanted, constant: 0 });
    }
    return { unknowns, rows };
  });

describe('the least change', () => {
  it('is what a general quadratic programming package finds (quadprog: Goldfarb and Idnani 1983)', () => {
    fc.assert(
      fc.property(problem, ({ unknowns, rows }) => {
        const n = unknowns.length;
        // quadprog counts from 1: min ½ bᵀDb − dᵀb with Aᵀb ≥ b0, the first `meq` of them equalities.
        const D = [[], ...unknowns.map((one, i) => [0, ...unknowns.map((_, j) => (i === j ? one.weight : 0))])];
        const d = [0, ...unknowns.map(({ weight, value }) => weight * value)];
        const columns = [
          ...rows.map(({ terms }) => unknowns.map((_, k) => terms.get(k) ?? 0)),
          ...unknowns.map((_, i) => unknowns.map((_other, k) => (i === k ? 1 : 0))),
        ];
        const A = [[], ...unknowns.map((_, k) => [0, ...columns.map((column) => column[k]!)])];
        const b0 = [0, ...rows.map(({ wanted }) => wanted), ...unknowns.map(() => 0)];
        const expected = quadprog.solveQP(D, d, A, b0, rows.length);
        if (expected.message) return;
        const { values, solved } = leastChange(unknowns, rows);
        expect(solved).toBe(true);
        const cost = (at: ArrayLike<number>): number =>
          unknowns.reduce((sum, { weight, value }, k) => sum + weight * (at[k]! - value) ** 2, 0);
        const reference = Array.from({ length: n }, (_, k) => expected.solution[k + 1]!);
        expect(Math.abs(cost(values) - cost(reference))).toBeLessThan(1e-6 * Math.max(1, cost(reference)));
        for (const { terms, wanted } of rows) {
          const got = [...terms].reduce((sum, [k, c]) => sum + c * values[k]!, 0);
          expect(Math.abs(got - wanted)).toBeLessThan(1e-6);
        }
        values.forEach((value) => expect(value).toBeGreaterThanOrEqual(0));
      }),
      { numRuns: 300 },
    );
  });

  it('spreads a change evenly over time: every moment’s speed changes by the same', () => {
    const map = land(
      withPinsAt(mapOf([constantSpan(1, 10), constantSpan(2, 90)], long), [{ output: 100, source: 200 }]),
    );
    expect(map.spans.map((span) => span.y[0])).toEqual([expect.closeTo(1.1, 12), expect.closeTo(2.1, 12)]);
  });
});

describe('pins', () => {
  it('lands frame 77 at output 60 and leaves the rest of the source where it was going', () => {
    const map = pin(realTime(150), 60, 77);
    expect(positionAt(map, 60)).toBeCloseTo(77, 9);
    expect(map.spans[0]!.y[0]).toBeCloseTo(77 / 60, 12);
    expect(map.spans[1]!.y[0]).toBe(1);
  });

  it('several hold at once, joined speeds stay joined, and ramps keep their length', () => {
    const drawn = mapOf(
      [constantSpan(1, 40), rampSpan(1, 0.4, 20), constantSpan(0.4, 60), rampSpan(0.4, 3, 15), constantSpan(3, 30)],
      long,
    );
    const map = land(
      withPinsAt(drawn, [
        { output: 50, source: 45 },
        { output: 110, source: 80 },
        { output: 165, source: 200 },
      ]),
    );
    for (const { output, source } of map.pins!) expect(positionAt(map, output)).toBeCloseTo(source, 9);
    expect(map.spans.map((span) => span.frames)).toEqual(drawn.spans.map((span) => span.frames));
    map.spans.slice(1).forEach((span, i) => expect(span.y[0]).toBeCloseTo(map.spans[i]!.y[3], 12));
  });

  it('locked spans, freezes and turning points stay', () => {
    const locked = withLock(constantSpan(0.5, 30), true);
    const drawn = mapOf([constantSpan(1, 40), locked, constantSpan(0, 10), constantSpan(1, 40)]);
    const map = pin(drawn, 100, 90);
    expect(map.spans[1]).toEqual(locked);
    expect(map.spans[2]).toEqual(constantSpan(0, 10));
    expect(positionAt(map, 100)).toBeCloseTo(90, 9);
  });

  it('never goes backwards by accident: the floor is held by an active set', () => {
    // Least squares alone would take the slow part to −0.2.
    const drawn = mapOf([constantSpan(3, 30), constantSpan(0.1, 60)]);
    const map = land(withPinsAt(drawn, [{ output: 90, source: 60 }]));
    expect(map.spans.map((span) => span.y[0])).toEqual([expect.closeTo(2, 9), 0]);
    const floored = land(withPinsAt(drawn, [{ output: 90, source: 60 }]), { floor: 0.1 });
    expect(floored.spans[1]!.y[0]).toBeCloseTo(0.1, 9);
  });

  it('every pin of random maps is met to 1e-9 frames, or refused with a reason', () => {
    const span = fc
      .tuple(
        fc.integer({ min: 4, max: 40 }),
        fc.double({ min: 0.1, max: 4, noNaN: true }),
        fc.double({ min: 0.1, max: 4, noNaN: true }),
        fc.boolean(),
      )
      .map(([frames, a, b, ramp]) => (ramp ? rampSpan(a, b, frames, [0.42, 0, 0.58, 1]) : constantSpan(a, frames)));
    const given = fc.record({
      spans: fc.array(span, { minLength: 4, maxLength: 12 }),
      moves: fc.array(fc.double({ min: -0.3, max: 0.5, noNaN: true }), { minLength: 3, maxLength: 3 }),
    });
    let landed = 0;
    fc.assert(
      fc.property(given, ({ spans, moves }) => {
        const map = mapOf(spans as Span[], { sourceFrames: 100_000 });
        const at = [0.25, 0.5, 0.9].map((share) => Math.round(mapLength(map) * share));
        const pins = at.map((output, i) => ({ output, source: positionAt(map, output) * (1 + moves[i]!) }));
        try {
          const result = land(withPinsAt(map, pins));
          landed++;
          for (const { output, source } of pins)
            expect(Math.abs(positionAt(result, output) - source)).toBeLessThan(1e-9 * Math.max(1, source));
          for (const one of result.spans) for (const y of one.y) expect(y).toBeGreaterThanOrEqual(-1e-12);
        } catch (error) {
          expect((error as EditRefused).message).toMatch(/^Between/);
        }
      }),
      { numRuns: 200 },
    );
    expect(landed).toBeGreaterThan(100);
  });

  it('say which contradict, and by how many frames', () => {
    const locked = withLock(constantSpan(1, 50), true);
    const fixed = mapOf([locked, constantSpan(1, 50)]);
    expect(refusal(() => pin(fixed, 50, 60)).message).toBe(
      'Between the clip’s start and output 50 (source 60) nothing can change: it shows 50 source frames, 10 too few. Unlock a part or move a pin.',
    );
    const first = pin(realTime(150), 60, 80);
    expect(refusal(() => pin(first, 90, 70)).message).toBe(
      'Between output 60 (source 80) and output 90 (source 70) at least 0 source frames play without running backwards, 10 more than the pins allow.',
    );
    expect(refusal(() => pin(realTime(150), 60, 151)).message).toContain('the source has frames 0 to 149');
    expect(refusal(() => pin(realTime(150), 60, -1)).field).toBe('source');
    expect(refusal(() => pin(realTime(150), 151, 10)).field).toBe('output');
    const twice = withPinsAt(realTime(150), [
      { output: 50, source: 50 },
      { output: 50, source: 60 },
    ]);
    expect(refusal(() => land(twice)).message).toBe(
      'There are two pins at output 50. Only one frame can be shown there.',
    );
    const shared = withPinsAt(realTime(150), [
      { output: 50, source: 50 },
      { output: 100, source: 120 },
    ]);
    expect(refusal(() => land(shared)).message).toContain('conflict by');
  });

  it('at the very beginning set where the clip starts', () => {
    const map = pin(realTime(150), 0, 12);
    expect(map.start).toBe(12);
    expect(map.spans).toEqual([constantSpan(1, 150)]);
  });

  it('hold through later edits: what was edited keeps its speed, the others give way', () => {
    const map = pin(realTime(200), 100);
    const slower = setSpeed(map, { from: 20, to: 40 }, 0.5, 'content');
    const held = holdPins(map, slower);
    expect(positionAt(held, 100)).toBeCloseTo(100, 9);
    expect(held.spans.find((span) => span.frames === 40)!.y[0]).toBe(0.5);
    const frozen = holdPins(map, freeze(map, 50, 12, 'content'));
    expect(positionAt(frozen, 100)).toBeCloseTo(100, 9);
    expect(frozen.spans.some((span) => span.y[0] === 0 && span.frames === 12)).toBe(true);
  });

  it('give the edited part way only where nothing else can', () => {
    const map = pin(realTime(100), 100);
    const one = { ...map, spans: [withLock(constantSpan(1, 50), true), constantSpan(1, 50)] };
    const held = holdPins(one, setPartSpeed(one, 1, 2, 'length'));
    expect(held.spans[1]!.y[0]).toBeCloseTo(1, 12);
  });

  it('go along with the beginning that is cut off, and can be taken out', () => {
    const map = pin(pin(realTime(150), 60), 20);
    expect(trimStart(map, 30).pins).toEqual([{ output: 30, source: 60 }]);
    expect(unpin(unpin(map, 20), 60).pins).toBeUndefined();
  });

  it('50 pins over 200 spans', () => {
    const spans = Array.from({ length: 200 }, (_, i) =>
      i % 2
        ? rampSpan(1 + (i % 5) / 5, 1 + ((i + 1) % 5) / 5, 6, [0.42, 0, 0.58, 1])
        : constantSpan(1 + (i % 5) / 5, 10),
    );
    const map = mapOf(spans, long);
    const pins = Array.from({ length: 50 }, (_, i) => {
      const output = 30 * (i + 1);
      return { output, source: Math.round(positionAt(map, output)) + (i % 4) };
    });
    const result = land(withPinsAt(map, pins));
    expect(pinsMet(result)).toBe(true);
    expect(result.spans.filter(isConstantSpeed).length).toBe(100);
    expect(compile(result).length).toBe(compile(map).length);
  });

  it('changes nothing beyond the last pin but by the shift it causes', () => {
    const map = mapOf([constantSpan(1, 50), constantSpan(2, 50), constantSpan(0.5, 50)]);
    const result = pin(map, 50, 60);
    expect(result.spans.slice(1)).toEqual(map.spans.slice(1));
    expect(deviation(result, { ...map, start: 10 }, 50, 150)).toBeLessThan(1e-9);
  });
});
