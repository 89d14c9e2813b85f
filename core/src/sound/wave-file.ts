/** Bytes of the header: RIFF, “fmt ” with its extension, “fact” and the beginning of “data”. */
export const WAVE_HEADER = 58;

/**
 * The header of a WAVE file of 32-bit floats (format 3, IEEE float; Microsoft, “New multimedia data types”, 1994).
 *
 * @param rate samples a second
 * @param bytes of the samples that follow, all channels in turn, little-endian
 */
export function waveHeader(channels: number, rate: number, bytes: number): Uint8Array<ArrayBuffer> {
  const out = new Uint8Array(WAVE_HEADER);
  const view = new DataView(out.buffer);
  const frame = 4 * channels;
  const name = (at: number, letters: string): void =>
    [...letters].forEach((letter, i) => (out[at + i] = letter.charCodeAt(0)));
  name(0, 'RIFF');
  view.setUint32(4, WAVE_HEADER - 8 + bytes, true);
  name(8, 'WAVEfmt ');
  view.setUint32(16, 18, true);
  view.setUint16(20, 3, true);
  view.setUint16(22, channels, true);
  view.setUint32(24, rate, true);
  view.setUint32(28, rate * frame, true);
  view.setUint16(32, frame, true);
  view.setUint16(34, 32, true);
  view.setUint16(36, 0, true);
  name(38, 'fact');
  view.setUint32(42, 4, true);
  view.setUint32(46, bytes / frame, true);
  name(50, 'data');
  view.setUint32(54, bytes, true);
  return out;
}

/** A whole WAVE file of 32-bit floats. @param rate samples a second */
export function waveBytes(channels: readonly Float32Array[], rate: number): Uint8Array<ArrayBuffer> {
  const count = channels[0]?.length ?? 0;
  const bytes = 4 * channels.length * count;
  const out = new Uint8Array(WAVE_HEADER + bytes);
  out.set(waveHeader(channels.length, rate, bytes));
  const view = new DataView(out.buffer);
  let at = WAVE_HEADER;
  for (let i = 0; i < count; i++) {
    for (const channel of channels) {
      view.setFloat32(at, channel[i]!, true);
      at += 4;
    }
  }
  return out;
}
