import fc from 'fast-check';
import {
  constantSpan,
  eases,
  frameCount,
  fromPositionKeys,
  heldFrame,
  interpolateSpan,
  mapLength,
  monotoneSlopes,
  positionAt,
  positionKeys,
  rampSpan,
  speedAt,
  toPositions,
  toSpeeds,
} from '../..';
import { anyMap, anySpeedSpan, deviation, mapOf, realTime } from '../../../test/maps';

/**
 * Fritsch and Carlson's own data (the LLNL radiochemical table "RPN 14" of their 1980 paper, table from memory).
 * The values between the points are those of an independent implementation: R 4.2, `splinefun(method = "monoH.FC")`.
 */
const published = {
  x: [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20],
  y: [0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994],
  slopes: [
    1.0479535590493403e-6, 8.2928633786065909e-4, 3.4158451099019688e-1, 4.2321872549019612e-1, 5.9668999999999972e-1,
    8.2260988433608254e-2, 1.2807062670559734e-3, 4.4163040463891044e-5, 8.6386258737876338e-6,
  ],
  between: [
    [8, 3.6131919753707512e-8],
    [8.04, 3.4684701962297329e-6],
    [8.14, 1.7629281141846316e-2],
    [8.3, 7.3976719675298661e-2],
    [8.45, 1.021529526564538e-1],
    [8.8, 2.1794743843137335e-1],
    [9.5, 6.8364391487576237e-1],
    [9.8, 8.8275026380121957e-1],
    [10.5, 9.7533333678441592e-1],
    [13, 9.995280184059957e-1],
    [18, 9.9998257844879357e-1],
  ],
};

describe('monotone interpolation (Fritsch and Carlson 1980)', () => {
  it('has the slopes and values of an independent implementation on the paper’s own data', () => {
    const slopes = monotoneSlopes(published.x, published.y);
    slopes.forEach((slope, i) => expect(slope).toBeCloseTo(published.slopes[i]!, 12));
    const keys = published.x.map((x, i) => ({ output: x - published.x[0]!, source: published.y[i]! }));
    const map = fromPositionKeys(realTime(30), keys, 'smooth');
    for (const [x, y] of published.between) expect(positionAt(map, x! - published.x[0]!)).toBeCloseTo(y!, 9);
  });

  it('never overshoots: between two keys the position stays between theirs', () => {
    const table = fc.array(fc.tuple(fc.integer({ min: 1, max: 60 }), fc.integer({ min: 0, max: 500 })), {
      minLength: 2,
      maxLength: 10,
    });
    fc.assert(
      fc.property(table, (rows) => {
        let output = 0;
        const keys = rows.map(([gap, source], i) => ({ output: i === 0 ? 0 : (output += gap), source }));
        const map = fromPositionKeys(realTime(500), keys, 'smooth');
        keys.slice(1).forEach((key, i) => {
          const [low, high] = [Math.min(key.source, keys[i]!.source), Math.max(key.source, keys[i]!.source)];
          for (let s = 0.05; s < 1; s += 0.1) {
            const f = positionAt(map, keys[i]!.output + s * (key.output - keys[i]!.output));
            expect(f).toBeGreaterThanOrEqual(low - 1e-9);
            expect(f).toBeLessThanOrEqual(high + 1e-9);
          }
        });
      }),
      // A slope brought down for the last interval but one took the one before it out of the region.
      {
        examples: [
          [
            [
              [1, 0],
              [5, 187],
              [46, 497],
              [26, 498],
              [1, 0],
            ],
          ],
        ],
      },
    );
  });
});

describe('position keys', () => {
  const table = [
    [0, 0],
    [50, 25],
    [75, 10],
    [150, 150],
  ].map(([output, source]) => ({ output: output!, source: source! }));

  it('0→0, 50→25, 75→10, 150→150, linear: speeds 1/2, −3/5, 28/15, length 150 (common practice)', () => {
    const map = fromPositionKeys(realTime(150), table, 'linear');
    expect([10, 60, 100].map((t) => speedAt(map, t))).toEqual(
      [1 / 2, -3 / 5, 28 / 15].map((v) => expect.closeTo(v, 12)),
    );
    expect(mapLength(map)).toBe(150);
  });

  it.each(['hold', 'linear', 'smooth'] as const)('%s goes through every key', (how) => {
    const map = fromPositionKeys(realTime(150), table, how);
    for (const { output, source } of table.slice(0, -1)) expect(positionAt(map, output)).toBeCloseTo(source, 9);
    expect(frameCount(map)).toBe(150);
    if (how !== 'hold')
      expect(positionKeys(map)).toEqual(
        table.map((key) => ({ output: key.output, source: expect.closeTo(key.source, 9) })),
      );
    else expect([0, 49, 50, 74, 75, 149].map((n) => heldFrame(map, n))).toEqual([0, 0, 25, 25, 10, 10]);
  });

  it('refuses tables that are none, naming the row', () => {
    const given =
      (rows: [number, number][]): (() => unknown) =>
      () =>
        fromPositionKeys(
          realTime(150),
          rows.map(([output, source]) => ({ output, source })),
          'linear',
        );
    expect(given([[0, 0]])).toThrow('at least two rows');
    expect(
      given([
        [1, 0],
        [5, 4],
      ]),
    ).toThrow('first row must be output frame 0; it is 1');
    expect(
      given([
        [0, 0],
        [5, 4],
        [5, 8],
      ]),
    ).toThrow('Row 3');
    expect(
      given([
        [0, 0],
        [5, Number.NaN],
      ]),
    ).toThrow('Row 2 has no number');
  });

  it('one part becomes held, straight or smooth between its keys', () => {
    const map = mapOf([constantSpan(1, 50), rampSpan(1, 3, 20), constantSpan(3, 40)]);
    for (const how of ['linear', 'smooth', 'hold'] as const) {
      const after = interpolateSpan(map, 1, how);
      expect(deviation(after, map, 0, 50)).toBeLessThan(1e-9);
      expect(deviation(after, map, 70, 110)).toBeLessThan(1e-9);
    }
    expect(heldFrame(interpolateSpan(map, 1, 'hold'), 69)).toBe(50);
    expect(speedAt(interpolateSpan(map, 1, 'smooth'), 50)).toBeCloseTo(1.5, 9);
  });
});

describe('the two descriptions', () => {
  const easy = anySpeedSpan.filter((span) => span.frames >= 1);

  it('change into each other without loss where the mathematics allows it', () => {
    const straight = mapOf([constantSpan(0.5, 40), rampSpan(0.5, 3, 25), constantSpan(-1, 12), rampSpan(3, 0, 9)]);
    const positions = toPositions(straight);
    expect(positions.deviation).toBe(0);
    expect(positions.map.spans.map((span) => span.of)).toEqual(['position', 'position', 'position', 'position']);
    expect(deviation(positions.map, straight, 0, 86)).toBeLessThan(1e-9);
    const back = toSpeeds(positions.map);
    expect(back.deviation).toBe(0);
    expect(deviation(back.map, straight, 0, 86)).toBeLessThan(1e-9);
    const smooth = fromPositionKeys(
      realTime(150),
      [
        { output: 0, source: 0 },
        { output: 40, source: 70 },
        { output: 150, source: 150 },
      ],
      'smooth',
    );
    const speeds = toSpeeds(smooth);
    expect(speeds.deviation).toBe(0);
    expect(deviation(speeds.map, smooth, 0, 150)).toBeLessThan(1e-9);
  });

  it('otherwise the deviation told is the greatest there is', () => {
    fc.assert(
      fc.property(anyMap(easy), (map) => {
        const { map: made, deviation: told } = toPositions(map);
        const off = deviation(made, map, 0, mapLength(map), 0, 499);
        expect(off).toBeLessThan(told * 1.3 + 1e-6);
      }),
      { numRuns: 60 },
    );
  });

  it('an eased ramp is met to a hundredth of a frame', () => {
    const map = mapOf([constantSpan(1, 40), rampSpan(1, 0.2, 24, eases['ease-in-out']), constantSpan(0.2, 40)]);
    const { map: made, deviation: off } = toPositions(map);
    expect(off).toBeLessThan(0.01);
    expect(off).toBeGreaterThan(0);
    expect(deviation(made, map, 0, 104)).toBeLessThan(0.01);
  });
});
