import fc from 'fast-check';
import {
  cadenceOf,
  cadences,
  constantSpan,
  frameCount,
  guideTable,
  heldFrame,
  paceWarnings,
  rampSpan,
  remedyFor,
  setSpeed,
  type WarningKind,
} from '../..';
import { anyMap, mapOf, rate, realTime } from '../../../test/maps';

const kinds = (map: Parameters<typeof paceWarnings>[0]): WarningKind[] => paceWarnings(map).map(({ kind }) => kind);

describe('cadence', () => {
  it('50% at equal rates shows each frame twice (common practice)', () => {
    const map = setSpeed(realTime(40), { from: 0, to: 40 }, 0.5, 'content');
    expect(cadenceOf(map, 0, 80)).toEqual({ frames: 80, once: 0, repeated: 40, skipped: 0, between: 40 });
  });

  it('60 fps at 10% on 30 shows each source frame five times (common practice)', () => {
    const map = mapOf([constantSpan(0.1, 500)], { sourceRate: rate(60), outputRate: rate(30), sourceFrames: 100 });
    expect(cadenceOf(map, 0, 500)).toMatchObject({ repeated: 400, once: 0, skipped: 0 });
  });

  it('200% passes over every other frame', () => {
    expect(cadenceOf(mapOf([constantSpan(2, 50)]), 0, 50)).toEqual({
      frames: 50,
      once: 50,
      repeated: 0,
      skipped: 49,
      between: 0,
    });
  });

  it('every output frame is counted once: a first showing or a repetition', () => {
    fc.assert(
      fc.property(anyMap(), (map) => {
        const total = frameCount(map);
        const all = cadences(map);
        expect(all.reduce((sum, { frames }) => sum + frames, 0)).toBe(total);
        const repeated = all.reduce((sum, one) => sum + one.repeated, 0);
        let changes = 1;
        for (let n = 1; n < total; n++) if (heldFrame(map, n) !== heldFrame(map, n - 1)) changes++;
        expect(repeated).toBe(total - changes);
      }),
      { numRuns: 60 },
    );
  });

  it('the guide: 60 → 30 is 50%, 60 → 24 40%, 100 → 25 25%, 24 → 24 100% (common practice)', () => {
    const floor = (source: number, output: number): number =>
      guideTable().find((row) => row.sourceRate.num === source && row.outputRate.num === output)!.floor;
    expect([floor(60, 30), floor(60, 24), floor(100, 25), floor(24, 24)]).toEqual([0.5, 0.4, 0.25, 1]);
  });
});

describe('warnings', () => {
  const fixed = (map: Parameters<typeof paceWarnings>[0]): WarningKind[] => {
    const warning = paceWarnings(map)[0]!;
    return kinds(remedyFor(map, warning)!.apply(map));
  };

  it('none on a clip as it was shot', () => expect(paceWarnings(realTime(100))).toEqual([]));

  it('the source runs out: where, by how many frames, and cut there by one tap', () => {
    const map = mapOf([constantSpan(1, 180)]);
    expect(paceWarnings(map)).toEqual([{ kind: 'out-of-source', from: 150, to: 180, amount: 30, side: 'after' }]);
    expect(fixed(map)).toEqual([]);
    expect(fixed(mapOf([constantSpan(1, 60)], { start: -10 }))).toEqual([]);
  });

  it('backwards without being asked: a handle below zero, an overshooting position', () => {
    const speed = mapOf([constantSpan(1, 30), { of: 'speed', frames: 20, x: [0.3, 0.6], y: [1, -2, 0, 1] }]);
    expect(kinds(speed)).toContain('backwards');
    const warning = paceWarnings(speed).find(({ kind }) => kind === 'backwards')!;
    expect(kinds(remedyFor(speed, warning)!.apply(speed))).not.toContain('backwards');
    const position = mapOf([{ of: 'position', frames: 30, x: [1 / 3, 2 / 3], y: [0, 40, -10, 30] }]);
    expect(kinds(position)).toEqual(['backwards']);
    expect(fixed(position)).toEqual([]);
    expect(kinds(mapOf([rampSpan(1, -1, 20), constantSpan(-1, 10)]))).not.toContain('backwards');
  });

  it('below the floor: how many frames to interpolate; raised to the floor by one tap', () => {
    const map = setSpeed(realTime(90), { from: 30, to: 60 }, 0.5, 'content');
    expect(paceWarnings(map)).toEqual([{ kind: 'below-floor', from: 30, to: 90, span: 1, amount: 30 }]);
    expect(fixed(map)).toEqual([]);
    const fast = mapOf([constantSpan(0.4, 60)], { sourceRate: rate(60), outputRate: rate(24) });
    expect(paceWarnings(fast)).toEqual([]);
  });

  it('fast for longer than a second reads as fast-forward; a burst does not', () => {
    expect(
      kinds(mapOf([constantSpan(1, 30), constantSpan(4, 20), constantSpan(1, 30)], { sourceFrames: 500 })),
    ).toEqual([]);
    const long = mapOf([constantSpan(1, 30), constantSpan(4, 25), constantSpan(6, 20)], { sourceFrames: 500 });
    expect(paceWarnings(long)).toEqual([{ kind: 'fast-forward', from: 30, to: 75, amount: 1.5 }]);
    expect(remedyFor(long, paceWarnings(long)[0]!)).toBeUndefined();
  });

  it('a ramp shorter than two frames is widened to four', () => {
    const map = mapOf([constantSpan(1, 30), rampSpan(1, 2, 1), constantSpan(2, 30)]);
    expect(paceWarnings(map)).toEqual([{ kind: 'short-ramp', from: 30, to: 31, span: 1, amount: 1 }]);
    expect(fixed(map)).toEqual([]);
  });
});
