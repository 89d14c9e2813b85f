import type { RateFit } from '@hastig/contract';

const frames = (count: number): string => `${count} ${count === 1 ? 'frame' : 'frames'}`;

/** What becomes of irregular frames at a rate: “82 frames repeat, 3 are skipped”. */
export function fitWords({ repeated, skipped }: Pick<RateFit, 'repeated' | 'skipped'>): string {
  const repeat = repeated > 0 ? `${frames(repeated)} ${repeated === 1 ? 'repeats' : 'repeat'}` : '';
  if (skipped === 0) return repeat ? `${repeat}, no frame lost` : 'no frame lost';
  const skip = `${repeat ? skipped : frames(skipped)} ${skipped === 1 ? 'is' : 'are'} skipped`;
  return repeat ? `${repeat}, ${skip}` : skip;
}

/** By how much frame times are off an even rate: “times vary by 1.5 ms”; nothing where it is next to nothing. */
export function varyWords(within: number): string {
  if (within < 5e-5) return '';
  const milliseconds = within * 1000;
  return `times vary by ${milliseconds < 10 ? milliseconds.toFixed(1) : Math.round(milliseconds)} ms`;
}
