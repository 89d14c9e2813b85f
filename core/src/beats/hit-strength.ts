import type { OnsetEnvelope } from './envelope';
import { combined } from './onsets';

// Looked up once: the loops below run for every value of an envelope.
const { ceil, max, min } = Math;

/** Seconds to each side within which a hit counts for a moment. */
const NEAR = 0.03;

/** How strong the hit at each moment is beside the strongest of all, 0 to 1. */
export function hitStrengths(envelope: OnsetEnvelope, moments: readonly number[]): number[] {
  const { rate, start } = envelope;
  const values = combined(envelope);
  const most = moments.map((time) => {
    let top = 0;
    const to = min(values.length - 1, (time + NEAR - start) * rate);
    for (let i = max(0, ceil((time - NEAR - start) * rate)); i <= to; i++) top = max(top, values[i]!);
    return top;
  });
  const strongest = most.reduce((top, value) => max(top, value), 0);
  return most.map((value) => (strongest > 0 ? value / strongest : 0));
}
