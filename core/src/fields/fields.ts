import type { Fields, Source } from '@hastig/contract';

/** Every line of a frame at once: nothing to be done with fields. */
const WOVEN: Fields = { use: 'woven', first: 'top' };

/** How a file's fields are taken unless one chooses: of an interlaced picture the first, so that nothing looks torn. */
export function suggestedFields({ facts }: Pick<Source, 'facts'>): Fields {
  const scan = facts.video?.scan ?? 'progressive';
  return scan === 'progressive' ? WOVEN : { use: 'first', first: scan === 'topFirst' ? 'top' : 'bottom' };
}

/** How a source's fields are taken. */
export function fieldsOf(source: Pick<Source, 'facts' | 'fields'>): Fields {
  return source.fields ?? suggestedFields(source);
}

/** Frames of a source for each of its file's: 2 where both fields are frames. */
export function framesPerFileFrame({ use }: Fields): 1 | 2 {
  return use === 'both' ? 2 : 1;
}

/** Where a source's frame is in its file: which frame, and which lines of it (undefined: all). */
export function placeInFile({ use, first }: Fields, frame: number): { frame: number; lines?: 'top' | 'bottom' } {
  if (use === 'woven') return { frame };
  if (use === 'first') return { frame, lines: first };
  const second = first === 'top' ? 'bottom' : 'top';
  return { frame: frame >> 1, lines: frame % 2 === 0 ? first : second };
}
