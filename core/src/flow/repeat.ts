import type { PlanarPicture } from './in-between';

/** Pixels of the side of a part of a picture that is looked at by itself: what moves may be small. */
const PART = 16;

/**
 * Mean difference of brightness, of 255, up to which a part of a picture shows what it did. A coder changes a repeated frame by up to
 * 4.4 in two demo clips at the lowest quality, which this was fitted on, and by up to 4.2 in two others; moving ones by 100 and more.
 * A slow edge changes less than this too: see `neighboursOf` for what becomes of it.
 */
const SAME = 5;

/** Whether two pictures of one size show the same, but for what a coder changed: no part of one looks otherwise in the other. */
export const looksSame = (one: PlanarPicture, other: PlanarPicture): boolean => mostDifferent(one, other, SAME) <= SAME;

/**
 * The mean difference, of 255, of the part that is most different between two pictures of one size. Of every second row: that is
 * enough, and twice as quick.
 *
 * @param enough difference from which on it need not be known
 */
export function mostDifferent(one: PlanarPicture, other: PlanarPicture, enough = Infinity): number {
  const { width, height, data } = one;
  const columns = Math.ceil(width / PART);
  const sums = new Uint32Array(columns);
  let most = 0;
  for (let top = 0; top < height && most <= enough; top += PART) {
    sums.fill(0);
    const bottom = Math.min(height, top + PART);
    let rows = 0;
    for (let y = top; y < bottom; y += 2, rows++) {
      const row = y * width;
      for (let column = 0, n = row; column < columns; column++) {
        const end = Math.min(row + width, n + PART);
        let sum = 0;
        for (; n < end; n++) sum += Math.abs(data[n]! - other.data[n]!);
        sums[column]! += sum;
      }
    }
    sums.forEach((sum, column) => {
      const across = Math.min(PART, width - column * PART);
      most = Math.max(most, sum / (across * rows));
    });
  }
  return most;
}
