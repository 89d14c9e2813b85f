/** Something whose name ends in a number, before its ending: `IMG_0001.jpg`. */
interface Numbered<T> {
  item: T;
  number: number;
}

/** Files that were numbered in one go: what their names begin and end with, and each with its number, rising. */
export interface NumberedRun<T> {
  stem: string;
  ending: string;
  items: Numbered<T>[];
}

/**
 * Finds files that were numbered one after the other among others: the same name but for the number before the ending, the
 * same ending, at least two. Of two with the same number (1 and 01) the second belongs to none.
 *
 * @returns the runs, and what belongs to none
 */
export function numberedRuns<T extends { name: string }>(files: readonly T[]): { runs: NumberedRun<T>[]; others: T[] } {
  const found = new Map<string, NumberedRun<T> & { numbers: Set<number> }>();
  const others: T[] = [];
  for (const item of files) {
    const [, stem, digits, ending] = /^(.*?)(\d{1,15})(\.[^.]+)$/u.exec(item.name) ?? [];
    if (stem === undefined || ending === undefined) {
      others.push(item);
      continue;
    }
    const key = JSON.stringify([stem, ending.toLowerCase()]);
    const run = found.get(key) ?? { stem, ending, items: [], numbers: new Set<number>() };
    found.set(key, run);
    const number = Number(digits);
    if (run.numbers.has(number)) others.push(item);
    else run.items.push({ item, number });
    run.numbers.add(number);
  }
  const runs = [...found.values()].map(({ numbers: _numbers, ...run }) => run);
  for (const { items } of runs) items.sort((a, b) => a.number - b.number);
  const lone = runs.filter(({ items }) => items.length === 1).map(({ items }) => items[0]!.item);
  return { runs: runs.filter(({ items }) => items.length > 1), others: [...others, ...lone] };
}

/** The numbers that are missing between some rising ones, as stretches. */
export function gapsIn(numbers: readonly number[]): { from: number; count: number }[] {
  return numbers.flatMap((number, place) => {
    const next = numbers[place + 1];
    return next === undefined || next <= number + 1 ? [] : [{ from: number + 1, count: next - number - 1 }];
  });
}
