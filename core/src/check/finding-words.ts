import { trimDecimals } from '../time';
import type { Finding } from './film-check';
import { warningWords } from './warning-words';

/** What was found, in words. */
export function findingWords({ kind, amount, warning }: Finding): string {
  if (warning) return warningWords(warning);
  const frames = `${trimDecimals(amount, 2)} ${amount === 1 ? 'frame' : 'frames'}`;
  if (kind === 'gap') return `Gap: black for ${frames}`;
  if (kind === 'unseen') return 'Black: the clip has no opacity';
  return `One frame stands for ${frames}, and no freeze was asked for`;
}
