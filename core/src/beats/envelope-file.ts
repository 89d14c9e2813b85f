import { onsetBands, timesOf, type OnsetBand, type OnsetEnvelope } from './envelope';

/**
 * Onset envelopes as they are kept, in pieces (`docs/formats.md`, “Onsets”): the mark, two zeros, how many values there are, then
 * for each band its rises and its levels, and how much notes change: the greatest value, and all of them as parts of it in 16 bits.
 */
const MARK = 'onset2';
const HEAD = 12;
const FULL = 65_535;

type Bands = Readonly<Record<OnsetBand, Float32Array>>;

/** Values of one piece of an envelope. */
export interface EnvelopePiece {
  bands: Bands;
  levels: Bands;
  changes: Float32Array;
}

const ROWS = 2 * onsetBands.length + 1;

const rowsOf = ({ bands, levels, changes }: EnvelopePiece): Float32Array[] => [
  ...onsetBands.flatMap((band) => [bands[band], levels[band]]),
  changes,
];

/** A piece as it is kept. */
export function envelopeBytes(piece: EnvelopePiece): Uint8Array<ArrayBuffer> {
  const rows = rowsOf(piece);
  const count = rows[0]!.length;
  const bytes = new Uint8Array(HEAD + rows.length * (4 + 2 * count));
  const view = new DataView(bytes.buffer);
  [...MARK].forEach((letter, index) => (bytes[index] = letter.charCodeAt(0)));
  view.setUint32(8, count, true);
  let at = HEAD;
  for (const row of rows) {
    const most = row.reduce((top, value) => Math.max(top, value), 0);
    view.setFloat32(at, most, true);
    at += 4;
    for (const value of row) {
      view.setUint16(at, most > 0 ? Math.round((value / most) * FULL) : 0, true);
      at += 2;
    }
  }
  return bytes;
}

/** A piece as it was kept. @throws RangeError for bytes that are none */
export function readEnvelope(bytes: Uint8Array): EnvelopePiece {
  const view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength);
  const mark = String.fromCharCode(...bytes.subarray(0, MARK.length));
  const count = bytes.length >= HEAD ? view.getUint32(8, true) : 0;
  if (mark !== MARK || bytes.length !== HEAD + ROWS * (4 + 2 * count))
    throw new RangeError('these bytes aren’t onsets');
  const rows = Array.from({ length: ROWS }, (_, row) => {
    const at = HEAD + row * (4 + 2 * count);
    const scale = view.getFloat32(at, true) / FULL;
    return Float32Array.from({ length: count }, (_, i) => view.getUint16(at + 4 + 2 * i, true) * scale);
  });
  const [low, lowLevel, mid, midLevel, high, highLevel, changes] = rows as [
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
    Float32Array,
  ];
  return { bands: { low, mid, high }, levels: { low: lowLevel, mid: midLevel, high: highLevel }, changes };
}

/**
 * The envelope of sound with so many samples a second, made of pieces in order.
 *
 * @param before values before the first of these pieces
 */
export function joinedEnvelope(pieces: readonly EnvelopePiece[], sampleRate: number, before = 0): OnsetEnvelope {
  const count = pieces.reduce((sum, { bands }) => sum + bands.low.length, 0);
  const joined = (rowOf: (piece: EnvelopePiece) => Float32Array): Float32Array => {
    const all = new Float32Array(count);
    let at = 0;
    for (const piece of pieces) {
      all.set(rowOf(piece), at);
      at += rowOf(piece).length;
    }
    return all;
  };
  const all = (of: 'bands' | 'levels'): Bands => ({
    low: joined((piece) => piece[of].low),
    mid: joined((piece) => piece[of].mid),
    high: joined((piece) => piece[of].high),
  });
  const times = timesOf(sampleRate);
  return {
    ...times,
    start: times.start + before / times.rate,
    bands: all('bands'),
    levels: all('levels'),
    changes: joined(({ changes }) => changes),
  };
}
