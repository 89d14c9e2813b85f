import { planarBytes, type PlanarPicture } from '../flow';
import { planeScaled, type PlaneMap } from '../picture';

/** Pixels of a row over which a map is taken to go evenly, and parts of a pixel in which it is told: off by less than a hundredth. */
const EVEN = 16;
const PARTS = 2 ** 16;
const PHASE_SHIFT = 10;
/** Places between two pixels that are told apart. */
const PHASES = 64;

/** All that four pixels count together. */
const WHOLE = 64;
/** Bits of what a row and a column of them come to. */
const SHIFT = 12;

/**
 * How four pixels in a row count at each of so many places between the middle two, in whole 64ths (Catmull and Rom 1974): in whole numbers
 * the sum is the same in any order.
 */
export const cubicShares: Int16Array = Int16Array.from(
  Array.from({ length: PHASES }, (_, phase) => {
    const t = phase / PHASES;
    const shares = [
      ((-t + 2) * t - 1) * t * 0.5,
      ((3 * t - 5) * t * t + 2) * 0.5,
      ((-3 * t + 4) * t + 1) * t * 0.5,
      (t - 1) * t * t * 0.5,
    ].map((share) => Math.round(WHOLE * share));
    // What rounding leaves goes to the nearer of the middle two.
    const near = t < 0.5 ? 1 : 2;
    shares[near]! += WHOLE - shares.reduce((sum, share) => sum + share, 0);
    return shares;
  }).flat(),
);

/** The place of a pixel that lies outside: the nearest, or mirrored at the edge. */
function pixelWithin(at: number, length: number, mirror: boolean): number {
  if (at >= 0 && at < length) return at;
  if (!mirror) return at < 0 ? 0 : length - 1;
  const twice = ((at % (2 * length)) + 2 * length) % (2 * length);
  return twice < length ? twice : 2 * length - 1 - twice;
}

/**
 * A picture moved: at each place what its map leads to, between pixels by a cubic. The twin of `kernels/assembly/steady.ts`.
 *
 * @param map from the made picture to the given one, in pixels; the middle of the first pixel is at a half
 * @param mirror what lies outside is mirrored at the edges; else the edge goes on
 */
export function steadiedPicture(picture: PlanarPicture, map: PlaneMap, mirror: boolean): PlanarPicture {
  const { width, height, data } = picture;
  const made = new Uint8Array(planarBytes(width, height));
  const [across, down] = [(width + 1) >> 1, (height + 1) >> 1];
  const half = planeScaled(map, 0.5);
  const luma = width * height;
  const chroma = across * down;
  movedPlane(data, made, 0, width, height, map, mirror);
  movedPlane(data, made, luma, across, down, half, mirror);
  movedPlane(data, made, luma + chroma, across, down, half, mirror);
  return { width, height, data: made };
}

function movedPlane(
  from: Uint8Array,
  to: Uint8Array,
  base: number,
  width: number,
  height: number,
  map: PlaneMap,
  mirror: boolean,
): void {
  const [a, b, c, d, e, f, g, h] = map;
  const toParts = (value: number): number => Math.floor(value * PARTS + 0.5);
  // What is only shifted is so by one phase, all of it.
  const shifted = a === 1 && d === 1 && b === 0 && c === 0 && g === 0 && h === 0;
  const whole = (value: number): number => (shifted ? Math.floor(value * PHASES + 0.5) << PHASE_SHIFT : toParts(value));
  for (let y = 0; y < height; y++) {
    const v = y + 0.5;
    const across = (u: number): number => (a * u + c * v + e) / (g * u + h * v + 1) - 0.5;
    const down = (u: number): number => (b * u + d * v + f) / (g * u + h * v + 1) - 0.5;
    for (let start = 0; start < width; start += EVEN) {
      const [left, right] = [start + 0.5, start + EVEN + 0.5];
      const [x0, y0] = shifted ? [start + e, y + f] : [across(left), down(left)];
      const [stepX, stepY] = shifted
        ? [PARTS, 0]
        : [toParts((across(right) - x0) / EVEN), toParts((down(right) - y0) / EVEN)];
      const [fromX, fromY] = [whole(x0), whole(y0)];
      for (let n = 0; n < EVEN && start + n < width; n++) {
        // By whole phases, so that what falls on a pixel stays it.
        const px = (fromX + n * stepX + (1 << (PHASE_SHIFT - 1))) >> PHASE_SHIFT;
        const py = (fromY + n * stepY + (1 << (PHASE_SHIFT - 1))) >> PHASE_SHIFT;
        const [ix, iy] = [px >> 6, py >> 6];
        const [tx, ty] = [4 * (px & 63), 4 * (py & 63)];
        let sum = 0;
        for (let row = 0; row < 4; row++) {
          const line = base + pixelWithin(iy + row - 1, height, mirror) * width;
          let part = 0;
          for (let column = 0; column < 4; column++)
            part += cubicShares[tx + column]! * from[line + pixelWithin(ix + column - 1, width, mirror)]!;
          sum += cubicShares[ty + row]! * part;
        }
        to[base + y * width + start + n] = Math.min(255, Math.max(0, (sum + (1 << (SHIFT - 1))) >> SHIFT));
      }
    }
  }
}
