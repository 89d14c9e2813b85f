import { FAST_SPEED, formatPercent, LEAST_RAMP, trimDecimals, type PaceWarning } from '@hastig/core';

/** A warning for people: what it is, with its figure. */
export function warningWords({ kind, amount, side }: PaceWarning): string {
  const count = (frames: number): string => `${trimDecimals(frames, 2)} ${frames === 1 ? 'frame' : 'frames'}`;
  switch (kind) {
    case 'out-of-source':
      return `Runs out of source ${side === 'before' ? 'before its first' : 'after its last'} frame, for ${count(amount)}`;
    case 'backwards':
      return 'Goes backwards between two keys that run forwards';
    case 'below-floor':
      return `Slower than the real-frame floor: ${count(amount)} would be made up`;
    case 'fast-forward':
      return `At ${formatPercent(FAST_SPEED)} or more for ${trimDecimals(amount, 2)} s: reads as fast-forward`;
    case 'short-ramp':
      return `A ramp of ${count(amount)} is seen as a jump; it needs ${LEAST_RAMP}`;
  }
}
