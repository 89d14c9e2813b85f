import {
  mendedTrack,
  planarBytes,
  PointTracker,
  pointsOf,
  wholeTrack,
  type Found,
  type PlanarPicture,
  type TrackBox,
} from '..';
import { HEIGHT, photographOf, photographs, pictured, WIDTH } from '../../test/photographs';
import { DOUBTFUL } from '.';

/** Follows a box through pictures, from the first on. */
function tracked(pictures: readonly PlanarPicture[], box: TrackBox) {
  const tracker = new PointTracker(pictures[0]!, box);
  const found: Found[] = [tracker.start, ...pictures.slice(1).map((picture) => tracker.next(picture))];
  return pointsOf(tracker.template, found);
}

/** What a photograph is turned about: the middle of a pixel. */
const MIDDLE = { x: WIDTH / 2 + 0.5, y: HEIGHT / 2 + 0.5 };

const boxAt = (x: number, y: number, side: number): TrackBox => ({ x: x - side / 2, y: y - side / 2, width: side, height: side }); // prettier-ignore

describe.each(photographs)('a place of the photograph %s, moved by known maps', (name) => {
  const photograph = photographOf(name);
  const [x, y] = [30, -14];

  it('is followed to within a tenth of a pixel as it shifts, turns, comes closer and grows darker', () => {
    const steps = Array.from({ length: 10 }, (_, n) => n);
    const maps = steps.map((n) => ({ x: 2.7 * n, y: -1.3 * n, angle: 0.04 * n, scale: 1.02 ** n }));
    const pictures = maps.map((map, n) => {
      const picture = pictured(photograph, map);
      const data = picture.data.map((value, at) => (at < WIDTH * HEIGHT ? value * (1 - 0.03 * n) : value));
      return { ...picture, data };
    });
    const points = tracked(pictures, boxAt(MIDDLE.x + x, MIDDLE.y + y, 36));
    const errors = points.map((point, n) => {
      const { x: right, y: down, angle, scale } = maps[n]!;
      const [c, s] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
      return Math.hypot(point.x - (MIDDLE.x + right + c * x - s * y), point.y - (MIDDLE.y + down + s * x + c * y));
    });
    expect(Math.max(...errors)).toBeLessThan(0.1);
    expect(points.every(({ confidence }) => confidence > 0.9)).toBe(true);
  });

  it('that is covered for a while is in doubt, and found again where it went on', () => {
    const pictures = Array.from({ length: 14 }, (_, n) => {
      const picture = pictured(photograph, { x: 3 * n });
      if (n < 5 || n > 8) return picture;
      const data = picture.data.slice();
      // A grey board over all of it.
      for (let row = 0; row < HEIGHT; row++) data.fill(90, row * WIDTH + 100, row * WIDTH + 230);
      return { ...picture, data };
    });
    const points = tracked(pictures, boxAt(WIDTH / 2 - 20, HEIGHT / 2, 30));
    const doubtful = points.flatMap(({ confidence }, n) => (confidence < DOUBTFUL ? [n] : []));
    expect(doubtful).toEqual([5, 6, 7, 8]);
    points.forEach((point, n) => {
      // Straight from where it was to where it was found again.
      expect(point.x).toBeCloseTo(WIDTH / 2 - 20 + 3 * n, 0);
      expect(Math.abs(point.y - HEIGHT / 2)).toBeLessThan(0.2);
    });
  });
});

/** A disc with a stripe that turns, and gloss and shade that do not, on stripes; as something rolls in a fixed light. */
function rolling(x: number, y: number, turn: number): PlanarPicture {
  const [width, height, radius] = [200, 120, 16];
  const data = new Uint8Array(planarBytes(width, height)).fill(128);
  const across = width / 2;
  for (let row = 0; row < height; row++) {
    for (let column = 0; column < width; column++) {
      let sum = 0;
      let inside = 0;
      for (const dy of [-0.375, -0.125, 0.125, 0.375]) {
        for (const dx of [-0.375, -0.125, 0.125, 0.375]) {
          const [u, v] = [column + 0.5 + dx - x, row + 0.5 + dy - y];
          const far = Math.hypot(u, v) / radius;
          if (far > 1) sum += 70 + 20 * Math.sin((column + dx) * 0.4) + 10 * Math.sin((row + dy) * 0.7);
          else {
            inside++;
            const stripe = Math.abs(-u * Math.sin(turn) + v * Math.cos(turn) - 3) < 3 ? 70 : 0;
            const gloss = Math.hypot(u + 6, v + 7) < 3 ? 60 : 0;
            sum += Math.min(255, 150 - (90 * Math.hypot(u + 5, v + 6)) / radius + 40 + stripe + gloss);
          }
        }
      }
      data[row * width + column] = sum / 16;
      if (row % 2 === 0 && column % 2 === 0) {
        const at = width * height + (row / 2) * across + column / 2;
        data[at] = 128 + (40 * inside) / 16;
        data[at + across * (height / 2)] = 128 - (50 * inside) / 16;
      }
    }
  }
  return { width, height, data };
}

it('what rolls in a light that does not turn is placed by its outline, its shade and its stripe together', () => {
  const at = (n: number): [number, number] => [40 + 4.3 * n, 60 + 8 * Math.sin(n / 4)];
  const turns = Array.from({ length: 26 }, (_, n) => 0.45 * n);
  const points = tracked(
    turns.map((turn, n) => rolling(...at(n), turn)),
    boxAt(...at(0), 32),
  );
  const errors = points.map(({ x, y }, n) => Math.hypot(x - at(n)[0], y - at(n)[1])).sort((a, b) => a - b);
  expect(errors[13]).toBeLessThan(0.2);
  expect(errors.at(-1)).toBeLessThan(0.5);
});

it('what strikes something and comes back is found on its way back', () => {
  const at = (n: number): [number, number] => [60 + 3 * n, n < 6 ? 30 + 11 * n : 96 - 11 * (n - 6)];
  const pictures = Array.from({ length: 12 }, (_, n) => rolling(...at(n), 0));
  const points = tracked(pictures, boxAt(...at(0), 32));
  points.forEach(({ x, y, confidence }, n) => {
    expect(confidence).toBeGreaterThan(DOUBTFUL);
    expect(Math.hypot(x - at(n)[0], y - at(n)[1])).toBeLessThan(0.5);
  });
});

it('a track with frames left out goes straight between those that are told', () => {
  const told = new Map([
    [2, { x: 10, y: 0, confidence: 0.9 }],
    [4, { x: 20, y: 6, confidence: 1 }],
    [90, { x: 0, y: 0, confidence: 1 }],
  ]);
  expect(wholeTrack(told, 6).map(({ x, y }) => [x, y])).toEqual([
    [10, 0],
    [10, 0],
    [10, 0],
    [15, 3],
    [20, 6],
    [20, 6],
  ]);
  // What falls goes on falling where a frame is missing.
  const fall = new Map([0, 1, 3, 4].map((n) => [n, { x: 5 * n, y: 2 * n * n, confidence: 1 }] as const));
  expect(wholeTrack(fall, 5)[2]).toEqual({
    x: expect.closeTo(10, 4),
    y: expect.closeTo(8, 4),
    confidence: 0,
  });
  expect(wholeTrack(new Map(), 1)).toEqual([{ x: 0, y: 0, confidence: 0 }]);
});

it('a track is mended where it is in doubt, and nowhere else', () => {
  const at = (x: number, confidence: number) => ({ x, y: 0, confidence });
  const mended = mendedTrack(
    [at(0, 1), at(9, 0.2), at(9, 0.1), at(9, 0.3), at(4, 0.9)],
    [at(50, 1), at(1, 0.8), at(2, 1), at(70, 0.2), at(50, 1)],
  );
  expect(mended.map(({ x }) => x)).toEqual([0, 1, 2, expect.closeTo(3, 4), 4]);
});

it('a box of two pixels, and one that reaches out of the picture, are tracked as far as they can be', () => {
  const picture = rolling(10, 10, 0);
  for (const box of [boxAt(10, 10, 2), boxAt(0, 0, 60), { x: 190, y: 0, width: 400, height: 5 }]) {
    const points = tracked([picture, picture, picture], box);
    for (const { x, y, confidence } of points) {
      expect(Number.isFinite(x) && Number.isFinite(y)).toBe(true);
      expect(confidence).toBeGreaterThanOrEqual(0);
    }
  }
});
