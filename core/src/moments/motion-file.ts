import type { Motion } from './motion';

/** Motion as it is kept, in pieces (`docs/formats.md`, “Motion”): the mark, two zeros, the count, then four rows of 32-bit floats. */
const MARK = 'motion';
const HEAD = 12;
const ROWS = 4;

const rowsOf = ({ energy, change, right, down }: Motion): Float32Array[] => [energy, change, right, down];

const motionOf = ([energy, change, right, down]: readonly Float32Array[]): Motion => ({
  energy: energy!,
  change: change!,
  right: right!,
  down: down!,
});

/** A piece as it is kept. */
export function motionBytes(motion: Motion): Uint8Array<ArrayBuffer> {
  const rows = rowsOf(motion);
  const count = motion.energy.length;
  const bytes = new Uint8Array(HEAD + ROWS * 4 * count);
  const view = new DataView(bytes.buffer);
  [...MARK].forEach((letter, index) => (bytes[index] = letter.charCodeAt(0)));
  view.setUint32(8, count, true);
  rows.forEach((row, index) => row.forEach((value, i) => view.setFloat32(HEAD + 4 * (index * count + i), value, true)));
  return bytes;
}

/** A piece as it was kept. @throws RangeError for bytes that are none */
export function readMotion(bytes: Uint8Array): Motion {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const mark = String.fromCharCode(...bytes.subarray(0, MARK.length));
  const count = bytes.length >= HEAD ? view.getUint32(8, true) : 0;
  if (mark !== MARK || bytes.length !== HEAD + ROWS * 4 * count) throw new RangeError('these bytes aren’t motion');
  return motionOf(
    Array.from({ length: ROWS }, (_, row) =>
      Float32Array.from({ length: count }, (__, i) => view.getFloat32(HEAD + 4 * (row * count + i), true)),
    ),
  );
}

/** The motion of a whole, made of its pieces in order. */
export function joinedMotion(pieces: readonly Motion[]): Motion {
  const all = pieces.map(rowsOf);
  return motionOf(
    Array.from({ length: ROWS }, (_, row) => Float32Array.from(all.flatMap((rows) => Array.from(rows[row]!)))),
  );
}
