import {
  holding,
  mapOfFrame,
  moveMap,
  planarBytes,
  planeIdentity,
  planeInverse,
  planePoint,
  steadiedPicture,
  steadyPath,
  timesFor,
  type FrameMove,
  type PlanarPicture,
  type PlaneMap,
  type SteadyPath,
} from '..';

const size = { width: 200, height: 100 };
const moved = (by: Partial<FrameMove>): PlaneMap => moveMap({ x: 0, y: 0, turn: 0, size: 1, ...by }, size);
const still = planeIdentity;
const mapsOf = (path: SteadyPath): PlaneMap[] =>
  Array.from({ length: path.maps.length / 8 }, (_, n) => mapOfFrame(path, n));

describe('a path', () => {
  it('holds one point where it was in a frame', () => {
    const track = [10, 14, 9].map((x, n) => ({ x, y: 20 + n }));
    const path = steadyPath(holding([track], size, 1), size, 'mirror');
    mapsOf(path).forEach((map, n) => {
      // What stood at the point of frame 1 shows the point of each frame.
      expect(planePoint(map, track[1]!)).toEqual({
        x: expect.closeTo(track[n]!.x, 9),
        y: expect.closeTo(track[n]!.y, 9),
      });
    });
  });

  it('holds two points, their turn and their size', () => {
    const first = [{ x: 60, y: 40 }, { x: 66, y: 45 }, { x: 60, y: 40 }]; // prettier-ignore
    const second = [{ x: 140, y: 50 }, { x: 130, y: 70 }, { x: 150, y: 20 }]; // prettier-ignore
    const path = steadyPath(holding([first, second], size, 0), size, 'mirror');
    mapsOf(path).forEach((map, n) => {
      for (const track of [first, second]) {
        const shown = planePoint(map, track[0]!);
        expect(Math.hypot(shown.x - track[n]!.x, shown.y - track[n]!.y)).toBeLessThan(1e-9);
      }
    });
    // Two points at one place tell neither turn nor size.
    expect(holding([first, first], size, 0)[1]).toEqual(moved({ x: 6, y: 5 }));
  });

  it('is as many times larger as it takes for no edge to be seen', () => {
    expect(timesFor(still, size)).toBe(1);
    // Ten pixels of 200 aside: 90 of 100 are left on one side.
    expect(timesFor(moved({ x: 10 }), size)).toBeCloseTo(100 / 90, 12);
    expect(timesFor(moved({ y: -10 }), size)).toBeCloseTo(50 / 40, 12);
    expect(timesFor(moved({ x: 100 }), size)).toBe(Infinity);
    const moves = [still, moved({ x: 10, turn: 0.05 }), moved({ y: 8, size: 1.05 })];
    const path = steadyPath(moves, size, 'scale');
    expect(path.times).toBeCloseTo(Math.max(...moves.map((move) => timesFor(move, size))), 12);
    let nearest = Infinity;
    for (const map of mapsOf(path)) {
      for (const [x, y] of [
        [0, 0],
        [200, 0],
        [0, 100],
        [200, 100],
      ] as const) {
        // prettier-ignore
        const corner = planePoint(map, { x, y });
        nearest = Math.min(nearest, corner.x, corner.y, 200 - corner.x, 100 - corner.y);
      }
    }
    // None outside, and one on the edge: it could not be less.
    expect(nearest).toBeCloseTo(0, 9);
  });

  it('follows: never too small, larger only around where it must be; mirrors where nothing would help', () => {
    const moves = Array.from({ length: 300 }, (_, n) => moved({ x: n === 150 ? 20 : 0 }));
    const sizes = mapsOf(steadyPath(moves, size, 'follow')).map(([a]) => 1 / a);
    sizes.forEach((times, n) => expect(times).toBeGreaterThanOrEqual(timesFor(moves[n]!, size) - 1e-12));
    expect(sizes[0]).toBe(1);
    const steps = sizes.slice(1).map((times, n) => Math.abs(times - sizes[n]!));
    expect(Math.max(...steps)).toBeLessThan(0.01);
    expect(steadyPath([moved({ x: 99 })], size, 'scale')).toMatchObject({
      edges: 'mirror',
      times: 1,
    });
    // Only what is shown counts.
    expect(steadyPath(moves, size, 'scale', { used: { from: 0, to: 100 } }).times).toBe(1);
  });
});

describe('a moved picture', () => {
  const width = 24;
  const height = 16;
  const picture = (at: (x: number, y: number) => number): PlanarPicture => {
    const data = new Uint8Array(planarBytes(width, height)).fill(128);
    for (let y = 0; y < height; y++) for (let x = 0; x < width; x++) data[y * width + x] = at(x, y);
    return { width, height, data };
  };
  const at = ({ data }: PlanarPicture, x: number, y: number): number => data[y * width + x]!;

  it('by whole pixels is the same pixels; mirrored, or the edge, beyond', () => {
    const steps = picture((x, y) => 5 * x + 3 * y);
    const moved = steadiedPicture(steps, [1, 0, 0, 1, 4, -2, 0, 0], false);
    expect(at(moved, 3, 9)).toBe(at(steps, 7, 7));
    expect(at(moved, 23, 0)).toBe(at(steps, 23, 0));
    const mirrored = steadiedPicture(steps, [1, 0, 0, 1, 4, -2, 0, 0], true);
    expect(at(mirrored, 23, 5)).toBe(at(steps, 20, 3));
    expect(at(mirrored, 3, 0)).toBe(at(steps, 7, 1));
  });

  it('between pixels is what a cubic through them is: of a slope, the slope itself', () => {
    const slope = picture((x, y) => 40 + 6 * x + 2 * y);
    const moved = steadiedPicture(slope, [1, 0, 0, 1, 0.5, 0.25, 0, 0], false);
    for (const [x, y] of [
      [5, 5],
      [12, 8],
      [20, 12],
    ] as const)
      // prettier-ignore
      expect(Math.abs(at(moved, x, y) - (40 + 6 * (x + 0.5) + 2 * (y + 0.25)))).toBeLessThanOrEqual(0.5);
  });

  it('turned there and back is where it was', () => {
    const turn: PlaneMap = [Math.cos(0.1), Math.sin(0.1), -Math.sin(0.1), Math.cos(0.1), 2, -1, 0, 0];
    const waves = picture((x, y) => 128 + 60 * Math.sin(x / 3) * Math.cos(y / 3));
    const back = steadiedPicture(steadiedPicture(waves, turn, true), planeInverse(turn)!, true);
    for (let y = 5; y < height - 5; y++)
      for (let x = 6; x < width - 6; x++) expect(Math.abs(at(back, x, y) - at(waves, x, y))).toBeLessThan(5);
  });
});
