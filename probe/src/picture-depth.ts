/** Profiles of H.264 with more than 8 bits by `profile_idc` (ITU-T H.264, A.2): as many as cameras write in them. */
const avcBits: Record<string, number> = { '6e': 10, '7a': 10, f4: 10 };

/**
 * Bits of each sample of a picture, from its codec's string: H.264 (RFC 6381), HEVC (ISO/IEC 14496-15, annex E: profiles 2 and 4
 * have 10 and more), VP9 (WebM's "VP9 codec ISO media file format binding") and AV1 (its ISOBMFF binding). 8 where it says nothing.
 */
export function bitsOf(codecString: string): number {
  const [kind, ...parts] = codecString.split('.');
  if (kind === 'vp09' || kind === 'av01') return Number(parts[2]) || 8;
  if (kind === 'hvc1' || kind === 'hev1') return /^[A-C]?[24]$/.test(parts[0] ?? '') ? 10 : 8;
  if (kind === 'avc1' || kind === 'avc3') return avcBits[(parts[0] ?? '').slice(0, 2).toLowerCase()] ?? 8;
  return 8;
}
