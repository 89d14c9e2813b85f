/** Pieces of bytes that containers are made of; numbers have their first byte highest unless told. */

export type Bytes = Uint8Array<ArrayBuffer>;

/** Bytes one after the other. */
export function join(...parts: readonly Uint8Array[]): Bytes {
  const all = new Uint8Array(parts.reduce((sum, { length }) => sum + length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return all;
}

const number =
  (length: number, put: (view: DataView, value: number) => void) =>
  (...values: readonly number[]): Bytes =>
    join(
      ...values.map((value) => {
        const bytes = new Uint8Array(length);
        put(new DataView(bytes.buffer), value);
        return bytes;
      }),
    );

export const u8 = number(1, (view, value) => view.setUint8(0, value));
export const u16 = number(2, (view, value) => view.setUint16(0, value));
export const u32 = number(4, (view, value) => view.setUint32(0, value));
export const u64 = number(8, (view, value) => view.setBigUint64(0, BigInt(value)));
/** The lowest byte first. */
export const u16le = number(2, (view, value) => view.setUint16(0, value, true));
export const u32le = number(4, (view, value) => view.setUint32(0, value, true));

export const zeros = (length: number): Bytes => new Uint8Array(length);
export const utf8 = (text: string): Bytes => join(new TextEncoder().encode(text));

/** A view of bytes, wherever they lie in their buffer. */
export const viewOf = ({ buffer, byteOffset, byteLength }: Uint8Array): DataView =>
  new DataView(buffer, byteOffset, byteLength);

/** Bytes that replace others of a file, or follow them. */
export interface Patch {
  at: number;
  bytes: Bytes;
}
