import { FAST_SPEED, LEAST_RAMP, type PaceWarning } from '../retime';
import { formatPercent, trimDecimals } from '../time';

/** A warning for people: what it is, with its figure. */
export function warningWords({ kind, amount, side }: PaceWarning): string {
  const count = (frames: number): string => `${trimDecimals(frames, 2)} ${frames === 1 ? 'frame' : 'frames'}`;
  switch (kind) {
    case 'out-of-source':
      return `${count(amount)} ${side === 'before' ? 'before the first' : 'past the last'} source frame`;
    case 'backwards':
      return 'Runs backwards between two forward keys';
    case 'below-floor':
      return `Below the real-frame floor: ${count(amount)} to interpolate`;
    case 'fast-forward':
      return `At ${formatPercent(FAST_SPEED)} or faster for ${trimDecimals(amount, 2)} s: looks like fast-forward`;
    case 'short-ramp':
      return `A ramp of ${count(amount)} looks like a jump. Use at least ${LEAST_RAMP}`;
  }
}
