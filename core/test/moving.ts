import { planarBytes, type PlanarPicture } from '../src/flow';

// Looked up once: the loops below run for every pixel.
const { cos, floor, imul, max, min, round, sin } = Math;

/** What a made picture shows: a texture that is moved, turned and scaled, and a disc with a texture of its own over it. */
interface Scene {
  x?: number;
  y?: number;
  angle?: number;
  scale?: number;
  discX?: number;
  discY?: number;
  invert?: boolean;
}

const RADIUS = 18;
/** Points a pixel is looked at, each way: a picture is as sharp as a lens makes it. */
const POINTS = 2;

/** Numbers from 0 to 1, the same for the same places (a hash of whole numbers, as common in made textures). */
function hashed(x: number, y: number): number {
  let n = imul(x, 374_761_393) ^ imul(y, 668_265_263);
  n = imul(n ^ (n >>> 13), 1_274_126_177);
  return ((n ^ (n >>> 16)) >>> 0) / 2 ** 32;
}

const soft = (t: number): number => t * t * (3 - 2 * t);

/** Smooth noise that changes over one. */
function noise(x: number, y: number): number {
  const left = floor(x);
  const top = floor(y);
  const a = soft(x - left);
  const b = soft(y - top);
  const upper = hashed(left, top) * (1 - a) + hashed(left + 1, top) * a;
  const lower = hashed(left, top + 1) * (1 - a) + hashed(left + 1, top + 1) * a;
  return upper * (1 - b) + lower * b;
}

/** A texture with coarse and fine in it, without a period. */
const texture = (x: number, y: number): number =>
  120 * noise(x / 31, y / 31) + 70 * noise(x / 13, y / 13) + 40 * noise(x / 6, y / 6) + 20 * noise(x / 3, y / 3);

function brightness(width: number, height: number, px: number, py: number, scene: Scene): number {
  const { x = 0, y = 0, angle = 0, scale = 1, discX, discY = height / 2, invert = false } = scene;
  if (discX !== undefined && (px - discX) ** 2 + (py - discY) ** 2 < RADIUS ** 2) {
    return 235 - texture(2 * (px - discX), 2 * (py - discY) + 40) / 2;
  }
  const dx = (px - width / 2) / scale;
  const dy = (py - height / 2) / scale;
  const c = cos(angle);
  const s = sin(angle);
  const value = texture(c * dx + s * dy - x + width / 2, -s * dx + c * dy - y + height / 2);
  return invert ? 255 - value : value;
}

/** A picture of a scene whose movement is known exactly; its colours follow its brightness. */
export function moving(width: number, height: number, scene: Scene): PlanarPicture {
  const data = new Uint8Array(planarBytes(width, height));
  for (let y = 0; y < height; y++) {
    for (let x = 0; x < width; x++) {
      let sum = 0;
      for (let j = 0; j < POINTS; j++) {
        for (let i = 0; i < POINTS; i++)
          sum += brightness(width, height, x + (i + 0.5) / POINTS, y + (j + 0.5) / POINTS, scene);
      }
      data[y * width + x] = min(255, max(0, round(sum / POINTS ** 2)));
    }
  }
  const [across, down] = [(width + 1) >> 1, (height + 1) >> 1];
  for (let n = 0; n < across * down; n++) {
    const at = 2 * floor(n / across) * width + 2 * (n % across);
    data[width * height + n] = 64 + (data[at]! >> 1);
    data[width * height + across * down + n] = 192 - (data[at]! >> 1);
  }
  return { width, height, data };
}

/** A picture of one colour, as its three planes have it. */
export function constantLike(
  width: number,
  height: number,
  [y, u, v]: readonly [number, number, number],
): PlanarPicture {
  const data = new Uint8Array(planarBytes(width, height)).fill(y);
  const chroma = ((width + 1) >> 1) * ((height + 1) >> 1);
  data.fill(u, width * height, width * height + chroma).fill(v, width * height + chroma);
  return { width, height, data };
}

/** Peak signal-to-noise ratio of values of 0 to 255, in decibels; Infinity where nothing differs. */
export function peakRatio(a: Uint8Array, b: Uint8Array): number {
  let sum = 0;
  for (let n = 0; n < a.length; n++) sum += (a[n]! - b[n]!) ** 2;
  return 10 * Math.log10((255 ** 2 * a.length) / sum);
}
