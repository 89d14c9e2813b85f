/** What moves in a picture, frame by frame, each beside the one before it. */
export interface Motion {
  /** Mean change of brightness, 0 to 255. */
  energy: Float32Array;
  /** How much more of the picture has another brightness, 0 to 1: a hard cut has much. */
  change: Float32Array;
  /** Where what moves goes: right and down, in small pixels a frame. */
  right: Float32Array;
  down: Float32Array;
}

/** Brightness that noise of a camera changes by; less is no motion. */
const NOISE = 6;
/** Steps of brightness that are counted for how much of a picture has another one. */
const BINS = 32;

/** Pixels of the small pictures that are looked at: the longer edge. */
export const MOTION_EDGE = 160;

/** Measures motion from small grey pictures that come one after the other. */
export class MotionMaker {
  private before: Uint8Array | undefined;
  private readonly rows: [energy: number, change: number, right: number, down: number][] = [];

  constructor(
    private readonly width: number,
    private readonly height: number,
  ) {}

  /** The next picture, one byte a pixel. The first one has nothing before it, and no motion. */
  push(picture: Uint8Array): void {
    const { before } = this;
    this.rows.push(before ? this.measured(before, picture) : [0, 0, 0, 0]);
    this.before = picture;
  }

  motion(): Motion {
    const column = (index: 0 | 1 | 2 | 3): Float32Array => Float32Array.from(this.rows, (row) => row[index]);
    return { energy: column(0), change: column(1), right: column(2), down: column(3) };
  }

  /**
   * The one shift that explains the change of all that moves best: the least squares of brightness constancy (B. Lucas and
   * T. Kanade, “An iterative image registration technique”, 1981), over the pixels that change.
   */
  private measured(before: Uint8Array, now: Uint8Array): [number, number, number, number] {
    const { width, height } = this;
    let sum = 0;
    let [xx, xy, yy, xt, yt] = [0, 0, 0, 0, 0];
    for (let y = 1; y + 1 < height; y++) {
      for (let x = 1; x + 1 < width; x++) {
        const at = y * width + x;
        const change = now[at]! - before[at]!;
        const size = change < 0 ? -change : change;
        if (size < NOISE) continue;
        sum += size;
        const gx = (now[at + 1]! - now[at - 1]! + before[at + 1]! - before[at - 1]!) / 4;
        const gy = (now[at + width]! - now[at - width]! + before[at + width]! - before[at - width]!) / 4;
        xx += gx * gx;
        xy += gx * gy;
        yy += gy * gy;
        xt += gx * change;
        yt += gy * change;
      }
    }
    const area = xx * yy - xy * xy;
    const flat = area <= 1e-6 * (xx + yy) ** 2;
    const right = flat ? 0 : (xy * yt - yy * xt) / area;
    const down = flat ? 0 : (xy * xt - xx * yt) / area;
    return [sum / (width * height), histogramChange(before, now), right, down];
  }
}

function histogramChange(a: Uint8Array, b: Uint8Array): number {
  const counts = new Int32Array(BINS);
  const shift = 8 - Math.log2(BINS);
  for (let i = 0; i < a.length; i++) {
    counts[a[i]! >> shift]!--;
    counts[b[i]! >> shift]!++;
  }
  let off = 0;
  for (const count of counts) off += Math.abs(count);
  return off / (2 * a.length);
}
