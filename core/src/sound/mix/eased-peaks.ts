/**
 * Something that is wanted in some blocks, and must be led up to and away from: the most that any block near asks for, less by its
 * distance. It follows from what lies near alone, so that it comes out the same wherever one begins.
 *
 * @param wanted of a block, 0 or more
 * @param rise blocks in which it is led up to, before the block that asks
 * @param fall blocks in which it goes back, after that
 */
export function easedPeak(wanted: (block: number) => number, block: number, rise: number, fall: number): number {
  let most = 0;
  for (let other = block - fall; other <= block + rise; other++) {
    const asked = wanted(other);
    if (asked <= most) continue;
    const away = other >= block ? (other - block) / (rise + 1) : (block - other) / (fall + 1);
    most = Math.max(most, asked * (1 - away));
  }
  return most;
}
