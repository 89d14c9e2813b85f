import type { OnsetEnvelope } from './envelope';
import { combined } from './onsets';

/** Seconds to each side within which a hit counts for a moment. */
const NEAR = 0.03;

/** How strong the hit at each moment is beside the strongest of all, 0 to 1. */
export function hitStrengths(envelope: OnsetEnvelope, moments: readonly number[]): number[] {
  const { rate, start } = envelope;
  const values = combined(envelope);
  const most = moments.map((time) => {
    let top = 0;
    const to = Math.min(values.length - 1, (time + NEAR - start) * rate);
    for (let i = Math.max(0, Math.ceil((time - NEAR - start) * rate)); i <= to; i++) top = Math.max(top, values[i]!);
    return top;
  });
  const strongest = most.reduce((top, value) => Math.max(top, value), 0);
  return most.map((value) => (strongest > 0 ? value / strongest : 0));
}
