import type { Smooth, Source } from '@hastig/contract';
import {
  cameraMoves,
  cameraWay,
  keptMoves,
  makeRate,
  moveMap,
  planeAfter,
  planeInverse,
  planeOfCorners,
  planePoint,
  smoothedWay,
  withCamera,
  type CameraMove,
  type FrameMove,
  type PlaneMap,
} from '..';
import { factsOf } from '../../test/projects';
import { smoothed } from './smoother';

const size = { width: 640, height: 360 };
const middle = { x: 320, y: 180 };

/** Moves of a camera that is so on each frame: where what was in the middle of the first frame lies. */
function movesOf(poses: readonly FrameMove[]): CameraMove[] {
  const maps = poses.map((pose) => moveMap(pose, size));
  return maps.map((map, n) => ({
    map: n === 0 ? map : planeAfter(map, planeInverse(maps[n - 1]!)!),
    confidence: n === 0 ? 0 : 1,
  }));
}

/** Where a place of the world is in a steadied picture, by where it is in the frame. */
const shownAt = (map: PlaneMap, pose: FrameMove, at = middle): { x: number; y: number } =>
  planePoint(planeInverse(map)!, planePoint(moveMap(pose, size), at));

const shake = (n: number): FrameMove => ({
  x: 9 * Math.sin(n / 1.4),
  y: 7 * Math.sin(n / 1.1 + 2),
  turn: 0.01 * Math.sin(n / 1.7),
  size: 1 + 0.01 * Math.sin(n / 1.3),
});

describe('what is evened out', () => {
  it.each([24, 300, 1200])(
    'of what swings in %d values half is left, of what is three times as quick next to nothing',
    (period) => {
      // Whittaker's smoother passes 1 / (1 + λ·(2·sin(ω / 2))⁶) (Eilers 2003).
      const count = 12 * period;
      const swings = (times: number): Float64Array =>
        Float64Array.from({ length: count }, (_, n) => Math.sin((2 * Math.PI * times * n) / period));
      const parabola = Float64Array.from({ length: count }, (_, n) => 5 + 0.3 * n - 0.0002 * n * n);
      const ones = new Float64Array(count).fill(1);
      const [slow, quick, bent] = smoothed([swings(1), swings(3), parabola], ones, period);
      const inside = (row: Float64Array): number => Math.max(...row.subarray(count / 3, (2 * count) / 3).map(Math.abs));
      expect(inside(slow!)).toBeCloseTo(0.5, 2);
      expect(inside(quick!)).toBeCloseTo(
        1 / (1 + (Math.sin((3 * Math.PI) / period) / Math.sin(Math.PI / period)) ** 6),
        3,
      );
      bent!.forEach((value, n) => expect(Math.abs(value - parabola[n]!)).toBeLessThan(1e-3));
    },
  );

  it('of few values nothing is lost', () => {
    for (const count of [0, 1, 2, 3]) {
      const row = Float64Array.from({ length: count }, (_, n) => n * n);
      expect(smoothed([row], new Float64Array(count).fill(1), 10)[0]).toHaveLength(count);
    }
  });
});

describe('a camera’s way', () => {
  const window = { seconds: 1, model: 'similarity' } as const;

  it('that only pans, ever faster too, is left as it is', () => {
    for (const acceleration of [0, 0.05]) {
      const pan = Array.from({ length: 120 }, (_, n) => ({ x: -4 * n - acceleration * n * n, y: n, turn: 0, size: 1 }));
      const { maps } = smoothedWay(movesOf(pan), size, window, 24, 0);
      for (const [a, , , , e, f] of maps) {
        expect(Math.abs(a - 1)).toBeLessThan(1e-9);
        expect(Math.hypot(e, f)).toBeLessThan(1e-4);
      }
    }
  });

  it('that shakes over a pan goes as the pan', () => {
    const poses = Array.from({ length: 240 }, (_, n) => ({ ...shake(n), x: shake(n).x - 3 * n }));
    const { maps, before, after } = smoothedWay(movesOf(poses), size, window, 24, 0);
    const way = maps.map((map, n) => shownAt(map, poses[n]!));
    const steps = way.slice(1).map(({ x, y }, n) => Math.hypot(x - way[n]!.x + 3, y - way[n]!.y));
    expect(Math.max(...steps.slice(24, -24))).toBeLessThan(0.05);
    expect(before).toHaveLength(240);
    const restless = (line: readonly { y: number }[]): number =>
      Math.max(...line.slice(1).map(({ y }, n) => Math.abs(y - line[n]!.y)));
    expect(restless(after)).toBeLessThan(restless(before) / 10);
  });

  it('stands as on a tripod: each place where it is on one frame', () => {
    const poses = Array.from({ length: 60 }, (_, n) => shake(n));
    const { maps } = smoothedWay(movesOf(poses), size, { model: 'similarity' }, 24, 20);
    for (const at of [middle, { x: 40, y: 30 }]) {
      const stands = planePoint(moveMap(poses[20]!, size), at);
      maps.forEach((map, n) => {
        const { x, y } = shownAt(map, poses[n]!, at);
        expect(Math.hypot(x - stands.x, y - stands.y)).toBeLessThan(1e-6);
      });
    }
  });

  it('is held in perspective where that is wished', () => {
    const tilted = Array.from({ length: 40 }, (_, n) => {
      const by = 2 * Math.sin(n / 1.5);
      return planeOfCorners(size, [{ x: by, y: 0 }, { x: 640, y: -by }, { x: 640 + by, y: 360 }, { x: 0, y: 360 + by }])!; // prettier-ignore
    });
    const moves = tilted.map((map, n) => ({
      map: n === 0 ? map : planeAfter(map, planeInverse(tilted[n - 1]!)!),
      confidence: n === 0 ? 0 : 1,
    }));
    const strays = (model: Smooth['model']): number => {
      const { maps } = smoothedWay(moves, size, { model }, 24, 0);
      const corner = { x: 630, y: 10 };
      const stands = planePoint(tilted[0]!, corner);
      return Math.max(
        ...maps.map((map, n) => {
          const { x, y } = planePoint(planeInverse(map)!, planePoint(tilted[n]!, corner));
          return Math.hypot(x - stands.x, y - stands.y);
        }),
      );
    };
    expect(strays('similarity')).toBeGreaterThan(1);
    expect(strays('perspective')).toBeLessThan(0.1);
  });

  it('is each stretch’s own where frames do not hang together', () => {
    const moves = [...movesOf(Array.from({ length: 40 }, (_, n) => shake(n))), ...movesOf(Array.from({ length: 40 }, (_, n) => ({ ...shake(n), x: 500 })))]; // prettier-ignore
    const { maps } = smoothedWay(moves, size, { model: 'similarity' }, 24, 10);
    expect(planePoint(maps[40]!, middle)).toEqual(middle);
    expect(planePoint(maps[10]!, middle)).toEqual(middle);
  });
});

it('of a long source, what is far from what is used makes no difference', () => {
  const poses = Array.from({ length: 1200 }, (_, n) => ({ ...shake(n), x: shake(n).x + 40 * Math.sin(n / 60) }));
  const source: Source = {
    ...{ id: 's', name: 'long', sha256: '0'.repeat(64), facts: factsOf(makeRate(24), 1200) },
    cameras: [{ from: 0, moves: keptMoves(movesOf(poses), size) }],
  };
  source.facts = { ...source.facts, video: { ...source.facts.video!, ...size } };
  const smooth: Smooth = { id: 'c', kind: 'smooth', seconds: 1, model: 'similarity', frame: 0, edges: 'mirror' };
  const whole = cameraWay(smooth, source, { from: 0, to: 1200 })!;
  const part = cameraWay(smooth, source, { from: 600, to: 700 })!;
  expect(part.from).toBe(600 - 96);
  expect(part.maps).toHaveLength(100 + 2 * 96);
  for (let n = 600; n < 700; n++) {
    const [a, b] = [planePoint(whole.maps[n]!, middle), planePoint(part.maps[n - part.from]!, middle)];
    expect(Math.hypot(a.x - b.x, a.y - b.y)).toBeLessThan(0.02);
  }
  // As on a tripod: with the frame on which it stands.
  const { seconds: _, ...stands } = smooth;
  expect(cameraWay({ ...stands, frame: 20 }, source, { from: 600, to: 700 })!.from).toBe(20);
});

describe('moves as they are kept', () => {
  const moves = movesOf(Array.from({ length: 30 }, (_, n) => shake(n)));
  const camera = { from: 10, moves: keptMoves(moves, size) };

  it('are the same when they are read, to a thousandth of a pixel', () => {
    cameraMoves(camera, size).forEach(({ map, confidence }, n) => {
      expect(confidence).toBe(moves[n]!.confidence);
      const [told, kept] = [planePoint(moves[n]!.map, middle), planePoint(map, middle)];
      expect(Math.hypot(told.x - kept.x, told.y - kept.y)).toBeLessThan(1e-3);
    });
  });

  it('are joined where they lie on each other, the newer counting, and stay apart elsewhere', () => {
    const part = (from: number, count: number, mark: number): NonNullable<Source['cameras']>[number] => ({
      from,
      moves: Array.from({ length: count }, (_, n) => Array.from({ length: 9 }, () => (n === 0 ? 0 : mark))).flat(),
    });
    const marks = (cameras: Source['cameras']): unknown =>
      cameras!.map(({ from, moves: all }) => [from, all.filter((_, n) => n % 9 === 8).join('')]);
    const one = withCamera(undefined, part(10, 5, 1));
    expect(marks(one)).toEqual([[10, '01111']]);
    expect(marks(withCamera(one, part(20, 3, 2)))).toEqual([[10, '01111'], [20, '022']]); // prettier-ignore
    // Its own first frame is told by what was there before.
    expect(marks(withCamera(one, part(12, 6, 2)))).toEqual([[10, '01122222']]);
    expect(marks(withCamera(one, part(7, 4, 2)))).toEqual([[7, '02221111']]);
    expect(marks(withCamera(withCamera(one, part(20, 3, 2)), part(8, 14, 3)))).toEqual([[8, '033333333333332']]);
  });
});
