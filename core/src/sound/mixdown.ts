/** How much of each channel of a source goes to the left and to the right. */
type Shares = readonly (readonly [left: number, right: number])[];

/** −3 dB: two sides that are given this much of a channel are together as loud as the channel. */
const BOTH = Math.SQRT1_2;

const left: Shares[number] = [1, 0];
const right: Shares[number] = [0, 1];
const middle: Shares[number] = [BOTH, BOTH];
const behindLeft: Shares[number] = [BOTH, 0];
const behindRight: Shares[number] = [0, BOTH];
/** The channel of low effects adds to others what those need not have; it is left out. */
const lowEffects: Shares[number] = [0, 0];

/** By the number of channels, in the order in which decoders give them (that of WAVE files, as the Web Audio API has it for those it names). */
const shares: Readonly<Record<number, Shares>> = {
  3: [left, right, middle],
  4: [left, right, behindLeft, behindRight],
  5: [left, right, middle, behindLeft, behindRight],
  6: [left, right, middle, lowEffects, behindLeft, behindRight],
  8: [left, right, middle, lowEffects, behindLeft, behindRight, behindLeft, behindRight],
};

/**
 * How many channels are left of so many once they are mixed down.
 *
 * @returns 1 or 2
 */
export const mixedChannels = (channels: number): 1 | 2 => (channels === 1 ? 1 : 2);

/**
 * Mixes channels down to two: left and right whole, the middle to both sides and what is behind to its side with −3 dB each
 * (Recommendation ITU-R BS.775-3, annex 4, from 3/2 to 2/0, from memory; the Web Audio API, “Up-mixing and down-mixing”, has
 * the same), low effects not at all. One channel stays one. Of a
 * number of channels that has no arrangement of its own the first two are taken.
 *
 * @param channels samples, one array a channel; not changed
 */
export function mixDown(channels: readonly Float32Array[]): Float32Array[] {
  if (channels.length <= 2) return [...channels];
  const parts = shares[channels.length];
  if (!parts) return channels.slice(0, 2);
  return ([0, 1] as const).map((side) => {
    const mixed = new Float32Array(channels[0]!.length);
    channels.forEach((samples, channel) => {
      const share = parts[channel]![side];
      if (share === 0) return;
      for (let n = 0; n < mixed.length; n++) mixed[n]! += share * samples[n]!;
    });
    return mixed;
  });
}
