/**
 * Of things that lie nearer to one another than a gap the strongest, in order of where they lie.
 *
 * @param at where one lies, in any unit
 * @param gap in the same unit; two exactly so far apart both stay
 */
export function apart<T extends { strength: number }>(all: readonly T[], at: (one: T) => number, gap: number): T[] {
  const row = all.toSorted((a, b) => at(a) - at(b));
  const gone = new Uint8Array(row.length);
  const byStrength = row.map((_, index) => index).sort((a, b) => row[b]!.strength - row[a]!.strength);
  for (const index of byStrength) {
    if (gone[index]) continue;
    for (const way of [-1, 1]) {
      for (let next = index + way; next >= 0 && next < row.length; next += way) {
        if (Math.abs(at(row[next]!) - at(row[index]!)) >= gap) break;
        gone[next] = 1;
      }
    }
  }
  return row.filter((_, index) => !gone[index]);
}

/** The strongest so many of some things, in the order they came in. */
export function strongest<T extends { strength: number }>(all: readonly T[], count: number): T[] {
  if (all.length <= count) return [...all];
  const kept = new Set(all.toSorted((a, b) => b.strength - a.strength).slice(0, count));
  return all.filter((one) => kept.has(one));
}
