import { inOrder, type Stored } from '../order';
import type { Shown } from '../retime';

/** A picture as an MPEG stream stores it. */
export interface CodedPicture extends Stored {
  /** Ticks, 90,000 a second, at which it is shown, where that is told. */
  time: number | undefined;
  /** Half frames for which it is shown. */
  fields: number;
}

/** Ticks a second of an MPEG stream's times, and those after which they begin anew: ISO/IEC 13818-1, 2.4.3.7. */
export const TICKS_A_SECOND = 90_000;
const ROUND = 2 ** 33;

/**
 * When the pictures of an MPEG stream are shown, in the order in which they are: where it is told, then; else when the one before has
 * been shown for as long as its fields take. A first one without a time is as long before the next that has one.
 *
 * @returns seconds, as the stream counts them; undefined where no time is told, no rate is known, or times go back
 */
export function shownTimes(coded: readonly CodedPicture[], framesPerSecond: number): Shown[] | undefined {
  const pictures = inOrder(coded);
  const first = pictures.findIndex(({ time }) => time !== undefined);
  if (first < 0 || !(framesPerSecond > 0)) return undefined;
  const lasts = pictures.map(({ fields }) => fields / 2 / framesPerSecond);
  const times: number[] = [];
  let at = pictures[first]!.time! / TICKS_A_SECOND - lasts.slice(0, first).reduce((sum, seconds) => sum + seconds, 0);
  for (const [n, { time }] of pictures.entries()) {
    const told = time === undefined ? at : time / TICKS_A_SECOND;
    // What began anew goes on.
    const turned = at - told > ROUND / TICKS_A_SECOND / 2 ? told + ROUND / TICKS_A_SECOND : told;
    if (n > 0 && turned <= times[n - 1]!) return undefined;
    times.push(turned);
    at = turned + lasts[n]!;
  }
  return times.map((from, n) => ({ from, seconds: (times[n + 1] ?? from + lasts[n]!) - from }));
}
