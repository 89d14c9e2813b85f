/**
 * Peaks of a sound: the lowest and highest sample of buckets, in several resolutions, so that a waveform of any length is
 * drawn without its samples. Kept in pieces of `PEAKS_PIECE_SAMPLES` samples (`docs/formats.md`, “Peaks”).
 */

/** Samples in one bucket, the finest resolution first. */
const BUCKET_SIZES = [256, 4096, 65_536] as const;
const FINEST = BUCKET_SIZES[0];
const MARK = 'peaks1';
/** Bytes before the first resolution: the mark, two zeros, and how many samples there are (32 bits, little-endian). */
const HEAD = 12;
/** What full scale is kept as. */
const FULL = 127;

/** The lowest and the highest of some samples; full scale is −1…1. */
export interface Peak {
  low: number;
  high: number;
}

const bucketsOf = (samples: number, bucket: number): number => Math.ceil(samples / bucket);

/** Gathers the peaks of one piece. */
export class PeakMaker {
  private readonly low: Float32Array;
  private readonly high: Float32Array;

  /** @param samples of the piece */
  constructor(private readonly samples: number) {
    this.low = new Float32Array(bucketsOf(samples, FINEST));
    this.high = new Float32Array(this.low.length);
  }

  /**
   * Takes samples in; what is never taken in is silence.
   *
   * @param at index of the first one in the piece
   * @param samples of one channel; several are put together
   */
  add(at: number, samples: Float32Array): void {
    const { low, high } = this;
    const end = Math.min(samples.length, this.samples - at);
    for (let index = Math.max(0, -at); index < end;) {
      const bucket = Math.floor((at + index) / FINEST);
      const stop = Math.min(end, (bucket + 1) * FINEST - at);
      let [least, most] = [low[bucket]!, high[bucket]!];
      for (; index < stop; index++) {
        const value = samples[index]!;
        if (value < least) least = value;
        else if (value > most) most = value;
      }
      low[bucket] = least;
      high[bucket] = most;
    }
  }

  /** The piece as it is kept. */
  bytes(): Uint8Array<ArrayBuffer> {
    const levels = [this.finest()];
    for (let level = 1; level < BUCKET_SIZES.length; level++) {
      levels.push(coarser(levels[level - 1]!, BUCKET_SIZES[level]! / BUCKET_SIZES[level - 1]!));
    }
    const bytes = new Uint8Array(HEAD + levels.reduce((sum, { length }) => sum + length, 0));
    [...MARK].forEach((letter, index) => (bytes[index] = letter.charCodeAt(0)));
    new DataView(bytes.buffer).setUint32(8, this.samples, true);
    let at = HEAD;
    for (const level of levels) {
      bytes.set(new Uint8Array(level.buffer), at);
      at += level.length;
    }
    return bytes;
  }

  // Rounded outwards: what is not silent does not look it.
  private finest(): Int8Array<ArrayBuffer> {
    const level = new Int8Array(2 * this.low.length);
    const kept = (value: number): number => Math.max(-FULL, Math.min(FULL, value));
    this.low.forEach((value, index) => (level[2 * index] = kept(Math.floor(value * FULL))));
    this.high.forEach((value, index) => (level[2 * index + 1] = kept(Math.ceil(value * FULL))));
    return level;
  }
}

function coarser(level: Int8Array, times: number): Int8Array<ArrayBuffer> {
  const buckets = Math.ceil(level.length / 2 / times);
  const made = new Int8Array(2 * buckets);
  for (let bucket = 0; bucket < buckets; bucket++) {
    const inside = level.subarray(2 * bucket * times, 2 * (bucket + 1) * times);
    for (let index = 0; index < inside.length; index += 2) {
      made[2 * bucket] = Math.min(made[2 * bucket]!, inside[index]!);
      made[2 * bucket + 1] = Math.max(made[2 * bucket + 1]!, inside[index + 1]!);
    }
  }
  return made;
}

/** Peaks of one piece: how many samples it has, and lows and highs in turn for each resolution. */
interface PeaksPiece {
  samples: number;
  levels: Int8Array[];
}

function readPiece(bytes: Uint8Array): PeaksPiece {
  const mark = String.fromCharCode(...bytes.subarray(0, MARK.length));
  const samples = bytes.length >= HEAD ? new DataView(bytes.buffer, bytes.byteOffset).getUint32(8, true) : 0;
  const lengths = BUCKET_SIZES.map((bucket) => 2 * bucketsOf(samples, bucket));
  if (mark !== MARK || bytes.length !== HEAD + lengths.reduce((sum, length) => sum + length, 0)) {
    throw new RangeError('these bytes aren’t sound peaks');
  }
  let at = HEAD;
  const levels = lengths.map((length) => {
    const level = new Int8Array(bytes.buffer, bytes.byteOffset + at, length);
    at += length;
    return level;
  });
  return { samples, levels };
}

/** The peaks of a sound, as far as its pieces are here. */
export class Peaks {
  private readonly pieces = new Map<number, PeaksPiece>();

  /** @param pieceSamples samples in every piece but the last */
  constructor(private readonly pieceSamples: number) {}

  has(piece: number): boolean {
    return this.pieces.has(piece);
  }

  /** Takes a piece in. @throws RangeError for what is none */
  put(piece: number, bytes: Uint8Array): void {
    this.pieces.set(piece, readPiece(bytes));
  }

  /**
   * The lowest and the highest of some samples, and of those beside them in the same buckets; silence where there is none.
   *
   * @param from first sample (real), `to` the one after the last
   * @returns undefined where no piece of it is here
   */
  between(from: number, to: number): Peak | undefined {
    const level = BUCKET_SIZES.findLastIndex((bucket) => bucket <= to - from);
    const found = { low: 0, high: 0, here: false };
    const first = Math.max(0, Math.floor(from / this.pieceSamples));
    for (let piece = first; piece * this.pieceSamples < to; piece++) {
      const start = piece * this.pieceSamples;
      this.look(piece, Math.max(0, level), Math.max(0, from - start), Math.min(this.pieceSamples, to - start), found);
    }
    return found.here ? { low: found.low / FULL, high: found.high / FULL } : undefined;
  }

  private look(number: number, level: number, from: number, to: number, found: Peak & { here: boolean }): void {
    const piece = this.pieces.get(number);
    if (!piece) return;
    found.here = true;
    const [bucket, peaks] = [BUCKET_SIZES[level]!, piece.levels[level]!];
    const last = Math.min(peaks.length / 2, Math.max(Math.floor(from / bucket) + 1, Math.ceil(to / bucket)));
    for (let index = Math.floor(from / bucket); index < last; index++) {
      found.low = Math.min(found.low, peaks[2 * index]!);
      found.high = Math.max(found.high, peaks[2 * index + 1]!);
    }
  }
}
