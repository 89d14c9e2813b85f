import type { Rate } from '@hastig/contract';
import { rateToNumber } from './rational';

/** The counting base of a timecode: frames a second as counted, so 30 for 30000/1001 (SMPTE ST 12-1). */
export function countingBase(rate: Rate): number {
  return Math.max(1, Math.round(rateToNumber(rate)));
}

/** Drop-frame counting exists for 29.97 and its multiples only (SMPTE ST 12-1, ST 12-3). */
export function canDropFrames(rate: Rate): boolean {
  return rate.den === 1001 && rate.num % 30000 === 0;
}

// Two numbers a minute are left out at 29.97, four at 59.94, and so on.
function droppedPerMinute(rate: Rate): number {
  return (countingBase(rate) / 30) * 2;
}

const two = (value: number): string => String(value).padStart(2, '0');

/**
 * Timecode of a frame.
 *
 * Drop-frame leaves out the first numbers of each minute except every tenth, so that the count follows the
 * clock (SMPTE ST 12-1): at 29.97, 00:00:59;29 is followed by 00:01:00;02.
 *
 * @param frame whole frames from 00:00:00:00; negative frames get a leading minus
 * @param dropFrame ignored where the rate has no drop-frame counting
 * @returns `hh:mm:ss:ff`, with `;` before the frames when frames are dropped
 */
export function formatTimecode(frame: number, rate: Rate, dropFrame = canDropFrames(rate)): string {
  if (!Number.isInteger(frame)) throw new RangeError(`timecode counts whole frames, not ${frame}`);
  if (frame < 0) return `-${formatTimecode(-frame, rate, dropFrame)}`;
  const base = countingBase(rate);
  const drop = dropFrame && canDropFrames(rate);
  let counted = frame;
  if (drop) {
    const dropped = droppedPerMinute(rate);
    const perMinute = base * 60 - dropped;
    const perTen = perMinute * 10 + dropped;
    const tens = Math.floor(frame / perTen);
    const rest = frame % perTen;
    const minutes = rest < base * 60 ? 0 : 1 + Math.floor((rest - base * 60) / perMinute);
    counted += dropped * (9 * tens + minutes);
  }
  const seconds = Math.floor(counted / base);
  const frames = String(counted % base).padStart(String(base - 1).length < 2 ? 2 : String(base - 1).length, '0');
  const clock = [Math.floor(seconds / 3600), Math.floor(seconds / 60) % 60, seconds % 60].map(two).join(':');
  return `${clock}${drop ? ';' : ':'}${frames}`;
}

/**
 * Frame that a timecode's parts name.
 *
 * @returns the frame, or undefined for a number that drop-frame counting leaves out or for parts out of range
 */
export function timecodeToFrame(
  parts: { hours: number; minutes: number; seconds: number; frames: number },
  rate: Rate,
  dropFrame: boolean,
): number | undefined {
  const { hours, minutes, seconds, frames } = parts;
  const base = countingBase(rate);
  if (minutes > 59 || seconds > 59 || frames >= base) return undefined;
  const counted = ((hours * 60 + minutes) * 60 + seconds) * base + frames;
  if (!dropFrame || !canDropFrames(rate)) return counted;
  const dropped = droppedPerMinute(rate);
  if (seconds === 0 && minutes % 10 !== 0 && frames < dropped) return undefined;
  const totalMinutes = hours * 60 + minutes;
  return counted - dropped * (totalMinutes - Math.floor(totalMinutes / 10));
}
