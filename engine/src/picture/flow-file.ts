/** Flow between two pictures both ways, in whole steps of 1/64 pixel of a grid, as it is kept on the device. */
export interface KeptFlow {
  columns: number;
  rows: number;
  /** A cut lies between the pictures. */
  isCut: boolean;
  /** Forth to the right and down, back to the right and down. */
  parts: readonly [Float32Array, Float32Array, Float32Array, Float32Array];
}

/** How its files begin; another one where what is in them comes about otherwise. */
const MARK = 'flow1';
const HEAD = 16;
const STEPS = 64;

/** Bytes of a file: `flow1`, a zero, 1 for a cut, a zero, columns and rows (32 bits, little-endian), then steps (16 bits, signed). */
export function flowBytes({ columns, rows, isCut, parts }: KeptFlow): Uint8Array<ArrayBuffer> {
  const count = columns * rows;
  const bytes = new Uint8Array(HEAD + 8 * count);
  bytes.set(new TextEncoder().encode(MARK));
  bytes[6] = Number(isCut);
  const head = new DataView(bytes.buffer);
  head.setUint32(8, columns, true);
  head.setUint32(12, rows, true);
  parts.forEach((part, index) => {
    const steps = new Int16Array(bytes.buffer, HEAD + 2 * index * count, count);
    for (let n = 0; n < count; n++) steps[n] = part[n]! * STEPS;
  });
  return bytes;
}

/** What a file holds; undefined where it is none of this kind, or not whole. */
export function readFlow(bytes: Uint8Array<ArrayBuffer>): KeptFlow | undefined {
  if (bytes.length < HEAD || new TextDecoder().decode(bytes.subarray(0, MARK.length)) !== MARK) return undefined;
  const head = new DataView(bytes.buffer, bytes.byteOffset);
  const [columns, rows] = [head.getUint32(8, true), head.getUint32(12, true)];
  const count = columns * rows;
  if (bytes.length !== HEAD + 8 * count) return undefined;
  const part = (index: number): Float32Array => {
    const steps = new Int16Array(bytes.buffer, bytes.byteOffset + HEAD + 2 * index * count, count);
    const flow = new Float32Array(count);
    // A plain loop: a function for each of a million numbers takes longer than finding them.
    for (let n = 0; n < count; n++) flow[n] = steps[n]! / STEPS;
    return flow;
  };
  return { columns, rows, isCut: bytes[6] === 1, parts: [part(0), part(1), part(2), part(3)] };
}
