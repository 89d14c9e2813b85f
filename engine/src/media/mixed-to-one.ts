/** All channels as one: their mean. */
export function mixedToOne(channels: readonly Float32Array[]): Float32Array {
  const [first, ...others] = channels;
  if (others.length === 0) return first!;
  const out = new Float32Array(first!.length);
  for (const channel of channels) for (let i = 0; i < out.length; i++) out[i]! += channel[i]! / channels.length;
  return out;
}
