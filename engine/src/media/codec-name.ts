const codecNames: Record<string, string> = { avc: 'H.264', hevc: 'HEVC (H.265)', vp8: 'VP8', vp9: 'VP9', av1: 'AV1' };

/** A codec's everyday name. */
export function codecName(codec: string): string {
  return codecNames[codec] ?? codec.toUpperCase();
}
