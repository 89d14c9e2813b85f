import { HEIGHT, photographOf, photographs, pictured, WIDTH, type Warp } from '../../test/photographs';
import { CameraTracker, planarBytes, planePoint, smoothedWay, type PlanarPicture, type Point } from '..';

// Photographs in the public domain, moved by maps that are known; the tracker was made on other pictures (the demo's own).
const size = { width: WIDTH, height: HEIGHT };

/** Where a point of a photograph is in a picture of it. */
function placeIn({ x = 0, y = 0, angle = 0, scale = 1 }: Warp, at: Point): Point {
  const [c, s] = [Math.cos(angle) * scale, Math.sin(angle) * scale];
  return { x: WIDTH / 2 + x + c * at.x - s * at.y, y: HEIGHT / 2 + y + s * at.x + c * at.y };
}

/** How far, in pixels, a place that is in the photograph is told to be from where it is in each next picture. */
function errors(warps: readonly Warp[], found: ReturnType<CameraTracker['moves']>, at: Point): number[] {
  return warps.slice(1).map((warp, n) => {
    const [told, true_] = [planePoint(found[n + 1]!.map, placeIn(warps[n]!, at)), placeIn(warp, at)];
    return Math.hypot(told.x - true_.x, told.y - true_.y);
  });
}

const shaken = (n: number): Warp => ({
  x: 6 * Math.sin(n / 2.1) + n * 0.5,
  y: 4 * Math.sin(n / 1.3 + 1),
  angle: 0.02 * Math.sin(n / 1.7),
  scale: 1 + 0.01 * Math.sin(n / 3),
});

const followedThrough = (pictures: readonly PlanarPicture[]): ReturnType<CameraTracker['moves']> => {
  const tracker = new CameraTracker(size);
  for (const picture of pictures) tracker.push(picture);
  return tracker.moves();
};

const grey = (value: number): PlanarPicture => ({
  ...size,
  data: new Uint8Array(planarBytes(WIDTH, HEIGHT)).fill(value),
});

describe.each(photographs)('a camera before %s', (name) => {
  const photograph = photographOf(name);
  const warps = Array.from({ length: 24 }, (_, n) => shaken(n));
  const pictures = warps.map((warp) => pictured(photograph, warp));

  it('is followed as it is moved, turned and brought nearer', () => {
    const moves = followedThrough(pictures);
    for (const at of [
      { x: 0, y: 0 },
      { x: 70, y: -40 },
      { x: -60, y: 50 },
    ])
      // prettier-ignore
      expect(Math.max(...errors(warps, moves, at))).toBeLessThan(0.1);
    expect(moves[0]!.confidence).toBe(0);
    for (const { confidence } of moves.slice(1)) expect(confidence).toBeGreaterThan(0.5);
    // Errors do not add up: all are told from one picture.
    const there = moves.slice(1).reduce((at, { map }) => planePoint(map, at), placeIn(warps[0]!, { x: 0, y: 0 }));
    const end = placeIn(warps.at(-1)!, { x: 0, y: 0 });
    expect(Math.hypot(there.x - end.x, there.y - end.y)).toBeLessThan(0.08);
  });

  it('that only pans is not fought', () => {
    const pan = Array.from({ length: 24 }, (_, n): Warp => ({ x: 12 - 1.3 * n, y: 0.2 * n }));
    const moves = followedThrough(pan.map((warp) => pictured(photograph, warp)));
    const { maps } = smoothedWay(moves, size, { seconds: 0.5, model: 'similarity' }, 24, 0);
    for (const map of maps) {
      const { x, y } = planePoint(map, { x: WIDTH / 2, y: HEIGHT / 2 });
      expect(Math.hypot(x - WIDTH / 2, y - HEIGHT / 2)).toBeLessThan(0.1);
    }
  });

  it('is not led astray by something large that goes its own way', () => {
    const crossed = pictures.map(({ data, ...rest }, n) => {
      const made = data.slice();
      for (let y = 50; y < 110; y++)
        for (let x = 0; x < 70; x++) made[y * WIDTH + x + 5 * n] = ((x >> 3) + (y >> 3)) & 1 ? 220 : 40;
      return { ...rest, data: made };
    });
    const moves = followedThrough(crossed);
    expect(Math.max(...errors(warps, moves, { x: 0, y: 0 }))).toBeLessThan(0.15);
  });

  it('goes on after a flash, and not after a cut', () => {
    const flashed = pictures.map((picture, n) => (n === 8 || n === 9 ? grey(250) : picture));
    const moves = followedThrough(flashed);
    // What lies under the flash is on the way; from one side of it to the other it is exact.
    const over = [8, 9, 10].reduce((at, n) => planePoint(moves[n]!.map, at), placeIn(warps[7]!, { x: 0, y: 0 }));
    const true_ = placeIn(warps[10]!, { x: 0, y: 0 });
    expect(Math.hypot(over.x - true_.x, over.y - true_.y)).toBeLessThan(0.08);
    expect(moves.slice(8, 10).every(({ confidence }) => confidence > 0 && confidence <= 0.5)).toBe(true);
    const other = photographOf(name === photographs[0] ? photographs[1] : photographs[0]);
    const cut = followedThrough([...pictures.slice(0, 6), ...warps.slice(6, 12).map((warp) => pictured(other, warp))]);
    expect(cut.map(({ confidence }) => confidence > 0)).toEqual(
      Array.from({ length: 12 }, (_, n) => n !== 0 && n !== 6),
    );
    expect(Math.max(...errors(warps.slice(6, 12), cut.slice(6), { x: 0, y: 0 }))).toBeLessThan(0.08);
  });
});

it('tells nothing where nothing is to be seen', () => {
  const moves = followedThrough(Array.from({ length: 14 }, () => grey(90)));
  expect(moves).toHaveLength(14);
  expect(moves.every(({ map, confidence }) => confidence === 0 && map[4] === 0)).toBe(true);
});
