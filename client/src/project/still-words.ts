import type { StillFacts } from '@hastig/contract';

/** Gaps named one by one; more are counted. */
const MOST_NAMED = 3;

/** Gaps in a numbering: `17, 43–45`. */
export function gapsInWords(gaps: readonly { from: number; count: number }[]): string {
  const named = gaps
    .slice(0, MOST_NAMED)
    .map(({ from, count }) => (count === 1 ? String(from) : `${from}–${from + count - 1}`));
  const left = gaps.length - named.length;
  return `${named.join(', ')}${left > 0 ? ` and ${left} more` : ''}`;
}

/** From which number to which, and what is missing between: `1–120, missing 17, 43–45`. */
export function numbersOf({ first = 0, pictures, gaps = [] }: Pick<StillFacts, 'first' | 'pictures' | 'gaps'>): string {
  const missing = gaps.reduce((sum, { count }) => sum + count, 0);
  const range = `${first}–${first + pictures + missing - 1}`;
  return gaps.length > 0 ? `${range}, missing ${gapsInWords(gaps)}` : `${range}, none missing`;
}
