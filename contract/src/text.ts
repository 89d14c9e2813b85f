import { LONGEST_NAME } from './schema/common';

// With the flag u a pair is one code point, so only half of one is taken for a surrogate.
const unkept = /[\0\p{Surrogate}]/u;

/** Whether text can be kept by every database and file: no NUL in it, and no half of a surrogate pair. */
export const isText = (text: string): boolean => !unkept.test(text);

/**
 * Text as it can be kept: what cannot be is replaced (U+FFFD), and no more than `most` code points of it are left.
 */
export function keptText(text: string, most = LONGEST_NAME): string {
  const kept = text.replace(new RegExp(unkept, 'gu'), '\uFFFD');
  // Code units are never fewer than code points.
  return kept.length <= most ? kept : [...kept.slice(0, 2 * most)].slice(0, most).join('');
}
