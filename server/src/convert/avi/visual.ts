import type { Stored } from '../order';

/** A picture (VOP) of MPEG-4 Visual, as it is stored. */
export interface VisualPicture extends Stored {
  /** Nothing is stored where it looks as the one before. */
  isCoded: boolean;
  /** It has all that it refers to, even where what came before was cut off. */
  isWhole: boolean;
}

const PREFIX = Buffer.from([0, 0, 1]);
/** Start codes: ISO/IEC 14496-2, table 6-3. */
const [FIRST_LAYER, LAST_LAYER, VOP] = [0x20, 0x2f, 0xb6];
/** `vop_coding_type`: table 6-20. */
const [INTRA, BOTH_SIDES] = [0, 2];
/** `aspect_ratio_info`: its two numbers follow. */
const EXTENDED = 15;
/** Bytes of a head that are looked at, and more seconds than pass between two pictures. */
const [LOOKED_AT, MOST_SECONDS] = [40, 200];

/** Reads numbers of some bits each; behind the end all are 0. */
function bitsOf(bytes: Buffer): (count: number) => number {
  let at = 0;
  return (count) => {
    let value = 0;
    for (let n = 0; n < count; n++, at++) value = value * 2 + (((bytes[at >> 3] ?? 0) >> (7 - (at & 7))) & 1);
    return value;
  };
}

/** Bits of a time within a second, as a layer's head tells them: ISO/IEC 14496-2, 6.2.3 (`vop_time_increment_resolution`). */
function timeBits(head: Buffer): number {
  const bits = bitsOf(head);
  bits(1 + 8);
  const version = bits(1) === 1 ? Math.floor(bits(4 + 3) / 8) : 1;
  if (bits(4) === EXTENDED) bits(8 + 8);
  if (bits(1) === 1) {
    bits(2 + 1);
    // What a buffer must hold.
    if (bits(1) === 1) bits(79);
  }
  const shape = bits(2);
  if (shape === 3 && version !== 1) bits(4);
  bits(1);
  return Math.max(1, Math.ceil(Math.log2(bits(16))));
}

/** Finds the pictures in MPEG-4 Visual, by their heads; nothing is decoded. */
export class VisualReader {
  private timeBits: number | undefined;
  private intra = 0;
  private anchors = 0;

  /** The pictures that begin in a piece; none is cut in two by pieces. */
  pictures(piece: Buffer): VisualPicture[] {
    const found: VisualPicture[] = [];
    for (let at = piece.indexOf(PREFIX); at >= 0; at = piece.indexOf(PREFIX, at + 3)) {
      const code = piece[at + 3] ?? 0;
      const head = piece.subarray(at + 4, at + 4 + LOOKED_AT);
      if (code >= FIRST_LAYER && code <= LAST_LAYER) this.timeBits = timeBits(head);
      else if (code === VOP && head.length > 0) found.push(this.picture(head));
    }
    return found;
  }

  /** ISO/IEC 14496-2, 6.2.5. */
  private picture(head: Buffer): VisualPicture {
    const bits = bitsOf(head);
    const type = bits(2);
    for (let seconds = 0; bits(1) === 1 && seconds < MOST_SECONDS;) seconds++;
    let isCoded = true;
    if (this.timeBits !== undefined) {
      bits(1 + this.timeBits + 1);
      isCoded = bits(1) === 1;
    }
    const waits = type !== BOTH_SIDES;
    if (type === INTRA && isCoded) this.intra++;
    if (waits && this.intra > 0) this.anchors++;
    return { waits, isCoded, isWhole: this.anchors > 1 || (waits && this.anchors === 1) };
  }
}
