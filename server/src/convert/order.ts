import { MOST_CONVERTED_HOURS } from '@hastig/contract';

/** More pictures than are converted, of any rate: what claims more would only fill memory. */
export const MOST_PICTURES = MOST_CONVERTED_HOURS * 3600 * 60;

/** A picture as it is stored. */
export interface Stored {
  /** It is shown when the next one comes that waits; what doesn't wait is shown at once (ISO/IEC 13818-2, 6.1.1.11). */
  waits: boolean;
}

/** Pictures in the order in which they are shown. */
export function inOrder<T extends Stored>(stored: readonly T[]): T[] {
  const shown: T[] = [];
  let waiting: T | undefined;
  for (const picture of stored) {
    if (!picture.waits) shown.push(picture);
    else {
      if (waiting) shown.push(waiting);
      waiting = picture;
    }
  }
  if (waiting) shown.push(waiting);
  return shown;
}
