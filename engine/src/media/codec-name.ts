const codecNames: Record<string, string> = {
  avc: 'H.264',
  hevc: 'HEVC (H.265)',
  vp8: 'VP8',
  vp9: 'VP9',
  av1: 'AV1',
  opus: 'Opus',
  vorbis: 'Vorbis',
  ac3: 'AC-3',
  eac3: 'E-AC-3',
};

/** A codec's everyday name. */
export function codecName(codec: string): string {
  // As the reading library has them: pcm-s16, pcm-f32be.
  const [, form, bits] = /^pcm-([suf])(\d+)/.exec(codec) ?? [];
  if (bits) return `PCM ${bits} bit${form === 'f' ? ' float' : ''}`;
  return codecNames[codec] ?? codec.toUpperCase();
}
