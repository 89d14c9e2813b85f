/** Values of a picture in memory: rows of `stride` values, of which each pixel has `channels`. */
export interface ValuePlane {
  values: Uint8Array | Uint16Array;
  /** Index of the first value, and values from one row to the next. */
  offset: number;
  stride: number;
  /** Pixels. */
  width: number;
  height: number;
  channels: number;
}

/**
 * Makes a plane smaller by a whole factor: each value is the mean of `factor` by `factor` values, so that nothing between is
 * missed and no edge flickers (box filter; Heckbert 1989, “Fundamentals of Texture Mapping and Image Warping”, 3.5). Rounds
 * half up.
 *
 * @param factor 1 … 16
 * @param target as large as it shall be, at most `factor` times smaller than `source`; what the factor leaves over at the right
 *   and lower edge is left out. Written over
 */
export function shrinkPlane(source: ValuePlane, factor: number, target: ValuePlane): void {
  const { values } = source;
  if (!(values instanceof Uint8Array) || !(target.values instanceof Uint8Array) || !liesInWords(source)) {
    return shrinkValues(source, factor, target);
  }
  const words = new Int32Array(values.buffer, values.byteOffset + source.offset, (values.length - source.offset) >> 2);
  const quick = target.channels === 1 ? inFours[factor] : undefined;
  if (!quick) return shrinkWords(words, source.stride >> 2, factor, target, target.values);
  const fours = target.width >> 2;
  quick(words, source.stride >> 2, fours, target, target.values);
  // What is left at the right.
  const left = (plane: ValuePlane, by: number): ValuePlane => ({ ...plane, offset: plane.offset + by });
  shrinkValues(left(source, fours * 4 * factor), factor, { ...left(target, fours * 4), width: target.width & 3 });
}

const liesInWords = ({ values, offset, stride }: ValuePlane): boolean =>
  (values.byteOffset + offset) % 4 === 0 && stride % 4 === 0;

// What follows runs for every picture that is decoded, so it keeps to one type of array each, to whole numbers, and to loops
// without loops in them.

/** Two bytes of each half of a word, far enough apart to be added up. */
const APART = 0x00ff00ff;

/** Makes four values of each row at once, so many times. */
type InFours = (words: Int32Array, stride: number, fours: number, target: ValuePlane, values: Uint8Array) => void;

/** By factor, where planes have one channel. */
const inFours: Readonly<Record<number, InFours>> = {
  2: (words, stride, fours, target, values) => {
    for (let y = 0; y < target.height; y++) {
      let at = target.offset + y * target.stride;
      const end = at + fours * 4;
      for (let first = y * 2 * stride; at < end; at += 2, first++) {
        const a = words[first]!;
        const b = words[first + stride]!;
        // Both values of a word, in a half each; half up.
        const sums = (a & APART) + ((a >>> 8) & APART) + (b & APART) + ((b >>> 8) & APART) + 0x00020002;
        values[at] = sums >>> 2;
        values[at + 1] = sums >>> 18;
      }
    }
  },
  3: (words, stride, fours, target, values) => {
    for (let y = 0; y < target.height; y++) {
      let at = target.offset + y * target.stride;
      const end = at + fours * 4;
      for (let first = y * 3 * stride; at < end; at += 4, first += 3) {
        const second = first + stride;
        const third = second + stride;
        const a = words[first]!;
        const b = words[second]!;
        const c = words[third]!;
        // Of each three words, one below the other, the sums of the first and third byte, and of the second and fourth.
        const even0 = (a & APART) + (b & APART) + (c & APART);
        const odd0 = ((a >>> 8) & APART) + ((b >>> 8) & APART) + ((c >>> 8) & APART);
        const d = words[first + 1]!;
        const e = words[second + 1]!;
        const f = words[third + 1]!;
        const even1 = (d & APART) + (e & APART) + (f & APART);
        const odd1 = ((d >>> 8) & APART) + ((e >>> 8) & APART) + ((f >>> 8) & APART);
        const g = words[first + 2]!;
        const h = words[second + 2]!;
        const i = words[third + 2]!;
        const even2 = (g & APART) + (h & APART) + (i & APART);
        const odd2 = ((g >>> 8) & APART) + ((h >>> 8) & APART) + ((i >>> 8) & APART);
        values[at] = ninth((even0 & LOW) + (odd0 & LOW) + (even0 >>> 16));
        values[at + 1] = ninth((odd0 >>> 16) + (even1 & LOW) + (odd1 & LOW));
        values[at + 2] = ninth((even1 >>> 16) + (odd1 >>> 16) + (even2 & LOW));
        values[at + 3] = ninth((odd2 & LOW) + (even2 >>> 16) + (odd2 >>> 16));
      }
    }
  },
  4: (words, stride, fours, target, values) => {
    for (let y = 0; y < target.height; y++) {
      let at = target.offset + y * target.stride;
      const end = at + fours * 4;
      for (let first = y * 4 * stride; at < end; at++, first++) {
        const a = words[first]!;
        const b = words[first + stride]!;
        const c = words[first + 2 * stride]!;
        const d = words[first + 3 * stride]!;
        const even = (a & APART) + (b & APART) + (c & APART) + (d & APART);
        const odd = ((a >>> 8) & APART) + ((b >>> 8) & APART) + ((c >>> 8) & APART) + ((d >>> 8) & APART);
        const sums = even + odd;
        values[at] = ((sums & LOW) + (sums >>> 16) + 8) >>> 4;
      }
    }
  },
};

const LOW = 0xffff;

// As below, for an area of 9.
const ninth = (sum: number): number => Math.imul(sum + 4, 1864136) >>> 24;

/** Rows are added up four bytes at once, in halves that have room for 16 of them; then each sum's neighbours are. */
function shrinkWords(words: Int32Array, stride: number, factor: number, target: ValuePlane, values: Uint8Array): void {
  const { width, height, channels } = target;
  const length = Math.ceil((width * factor * channels) / 4);
  const sums = new Uint16Array(length * 4);
  for (let y = 0; y < height; y++) {
    addDown(words, y * factor * stride, stride, factor, length, sums);
    const start = target.offset + y * target.stride;
    for (let channel = 0; channel < channels; channel++) {
      addAcross(sums, channel, channels, factor, width, values, start + channel);
    }
  }
}

function addDown(
  words: Int32Array,
  first: number,
  stride: number,
  rows: number,
  length: number,
  sums: Uint16Array,
): void {
  for (let x = 0, at = 0; x < length; x++, at += 4) {
    let even = 0;
    let odd = 0;
    for (let row = 0, from = first + x; row < rows; row++, from += stride) {
      const word = words[from]!;
      even += word & APART;
      odd += (word >>> 8) & APART;
    }
    sums[at] = even;
    sums[at + 1] = odd;
    sums[at + 2] = even >>> 16;
    sums[at + 3] = odd >>> 16;
  }
}

function addAcross(
  sums: Uint16Array,
  first: number,
  step: number,
  factor: number,
  width: number,
  values: Uint8Array,
  start: number,
): void {
  const area = factor * factor;
  const half = area >> 1;
  // Dividing by multiplying. Exact: sums are below 256 · area, so what the rounded reciprocal adds stays below 1 / area.
  const reciprocal = Math.ceil(2 ** 24 / area);
  for (let x = 0, from = first, at = start; x < width; x++, at += step) {
    let total = half;
    for (let n = 0; n < factor; n++, from += step) total += sums[from]!;
    values[at] = Math.imul(total, reciprocal) >>> 24;
  }
}

/** The same of values that lie anyhow, or have more than eight bits. */
function shrinkValues({ values, offset, stride }: ValuePlane, factor: number, target: ValuePlane): void {
  const { channels } = target;
  const area = factor * factor;
  const half = area >> 1;
  for (let y = 0; y < target.height; y++) {
    for (let x = 0; x < target.width * channels; x++) {
      const first = offset + y * factor * stride + Math.floor(x / channels) * factor * channels + (x % channels);
      let total = half;
      for (let row = 0, from = first; row < factor; row++, from += stride) {
        for (let n = 0; n < factor; n++) total += values[from + n * channels]!;
      }
      // What is left of the division is cut off when it is written.
      target.values[target.offset + y * target.stride + x] = total / area;
    }
  }
}
