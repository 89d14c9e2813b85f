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
  const count = target.width * factor * source.channels;
  const { values, offset, stride } = source;
  const sum = rowSums(values, offset, stride, count);
  const sums = new Uint32Array(Math.ceil(count / 4) * 4);
  const { channels } = target;
  const area = factor * factor;
  const half = area >> 1;
  for (let y = 0; y < target.height; y++) {
    sum(y * factor, factor, sums);
    let at = target.offset + y * target.stride;
    for (let x = 0, first = 0; x < target.width; x++, first += factor * channels) {
      for (let channel = 0; channel < channels; channel++) {
        let total = 0;
        for (let n = 0, from = first + channel; n < factor; n++, from += channels) total += sums[from]!;
        // In whole numbers, so that a half is one: what is left of the division is cut off.
        target.values[at++] = (total + half) / area;
      }
    }
  }
}

type RowSums = (row: number, rows: number, sums: Uint32Array) => void;

/** Adds up rows, value by value. */
function rowSums(values: ValuePlane['values'], offset: number, stride: number, count: number): RowSums {
  const aligned = values instanceof Uint8Array && (values.byteOffset + offset) % 4 === 0 && stride % 4 === 0;
  if (aligned) return fourAtOnce(values, offset, stride, count);
  return (row, rows, sums) => {
    sums.fill(0);
    for (let n = 0; n < rows; n++) {
      const start = offset + (row + n) * stride;
      for (let x = 0; x < count; x++) sums[x]! += values[start + x]!;
    }
  };
}

// Four bytes to a word, added in two halves of two: a third of the time. Up to 16 rows there is room for in 16 bits each.
function fourAtOnce(values: Uint8Array, offset: number, stride: number, count: number): RowSums {
  const words = new Uint32Array(values.buffer, values.byteOffset + offset, (values.byteLength - offset) >> 2);
  const wide = stride >> 2;
  const length = Math.ceil(count / 4);
  const [even, odd] = [new Uint32Array(length), new Uint32Array(length)];
  return (row, rows, sums) => {
    even.fill(0);
    odd.fill(0);
    for (let n = 0, start = row * wide; n < rows; n++, start += wide) {
      for (let x = 0; x < length; x++) {
        const word = words[start + x]!;
        even[x]! += word & 0x00ff00ff;
        odd[x]! += (word >>> 8) & 0x00ff00ff;
      }
    }
    for (let x = 0, at = 0; x < length; x++, at += 4) {
      sums[at] = even[x]! & 0xffff;
      sums[at + 1] = odd[x]! & 0xffff;
      sums[at + 2] = even[x]! >>> 16;
      sums[at + 3] = odd[x]! >>> 16;
    }
  };
}
