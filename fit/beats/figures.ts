/** What came of one piece. */
export interface Row {
  family: string;
  fold: number;
  f: number;
  best: number;
  /** Of the package `music-tempo` alone. */
  reference: { f: number; best: number };
}

const mean = (values: readonly number[]): number => values.reduce((sum, value) => sum + value, 0) / values.length;

/** Means by family and over all, and how far the folds are from one another. */
export function figures(rows: readonly Row[]): string[] {
  const of = (name: string, some: readonly Row[]): string => {
    const told = [
      mean(some.map(({ f }) => f)),
      mean(some.map(({ best }) => best)),
      mean(some.map(({ reference }) => reference.f)),
      mean(some.map(({ reference }) => reference.best)),
    ].map((value) => value.toFixed(3));
    return `${name} (${some.length} pieces): ${told[0]}, at the best level ${told[1]} (music-tempo ${told[2]}, ${told[3]})`;
  };
  const families = [...new Set(rows.map(({ family }) => family))].sort();
  const folds = [...new Set(rows.map(({ fold }) => fold))].map((fold) =>
    mean(rows.filter((row) => row.fold === fold).map(({ f }) => f)),
  );
  return [
    ...families.map((family) =>
      of(
        family,
        rows.filter((row) => row.family === family),
      ),
    ),
    of('all', rows),
    `parts left out: ${folds.map((value) => value.toFixed(3)).join(' ')}`,
  ];
}
