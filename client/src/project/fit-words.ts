import type { RateFit } from '@hastig/contract';

/** What becomes of irregular frames at a rate: “82 frames repeat, 3 are skipped”. */
export function fitWords({ repeated, skipped }: Pick<RateFit, 'repeated' | 'skipped'>): string {
  const repeat = `${repeated} ${repeated === 1 ? 'frame repeats' : 'frames repeat'}`;
  return `${repeat}, ${skipped} ${skipped === 1 ? 'is' : 'are'} skipped`;
}
