/** What a browser must have, in words for people. */
const parts = {
  codecs: 'Video decoding (WebCodecs)',
  canvas: 'Drawing in the background (OffscreenCanvas)',
  isolation: 'An isolated page: open Hastig over HTTPS or on localhost, without a proxy that removes its headers',
  h264: 'H.264 video',
} as const;

/** What this browser does not have of what Hastig cannot do without; empty where all is there. */
export async function missingParts(): Promise<string[]> {
  const missing: string[] = [];
  const codecs = 'VideoDecoder' in globalThis && 'AudioDecoder' in globalThis;
  // Codecs are kept from pages that are not secure, which then is what is missing.
  if (!codecs && globalThis.isSecureContext) missing.push(parts.codecs);
  if (!('OffscreenCanvas' in globalThis)) missing.push(parts.canvas);
  if (!globalThis.crossOriginIsolated) missing.push(parts.isolation);
  if (codecs && !(await decodesH264())) missing.push(parts.h264);
  return missing;
}

// High profile at level 4, as most cameras and phones write (ITU-T H.264, Annex A).
async function decodesH264(): Promise<boolean> {
  const answer = await VideoDecoder.isConfigSupported({ codec: 'avc1.640028' }).catch(() => ({ supported: false }));
  return answer.supported ?? false;
}
