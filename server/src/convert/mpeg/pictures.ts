/** Start codes of MPEG-1 and MPEG-2 video: ISO/IEC 13818-2, table 6-1. */
const CODE = { picture: 0x00, sequence: 0xb3, extension: 0xb5, group: 0xb8 } as const;
/** Codes that MPEG-1 and MPEG-2 reserve and MPEG-4 Visual begins with, in which the others mean something else. */
const FOREIGN = [0xb0, 0xb6];
/** Bytes after a start code that are looked at. */
const LOOKED_AT = 4;
const PICTURE_CODING_EXTENSION = 8;
/** `picture_coding_type`: 1 intra, 2 predicted, 3 from both sides. */
const [INTRA, BOTH_SIDES] = [1, 3];
/** `picture_structure`: 1 and 2 are fields. */
const WHOLE = 3;

/** How many pictures a decoder makes: all, but that those may be missing whose references were cut off at the beginning. */
export interface PictureCount {
  least: number;
  most: number;
}

/** What is known of the pictures of a stream without decoding them. */
export interface FoundPictures extends PictureCount {
  /** It says when each is shown, or they come in the order in which they are. */
  timed: boolean;
}

/**
 * Counts the pictures of MPEG-1 and MPEG-2 video by their headers, two fields as one; nothing is decoded. It is given the stream in
 * pieces of any size. ISO/IEC 13818-2, 6.2.3 (picture header) and 6.2.3.1 (coding extension).
 */
export class PictureCounter {
  private rest: Buffer = Buffer.alloc(0);
  private isVideo = false;
  private isForeign = false;
  private picture: { type: number; structure: number; told: boolean } | undefined;
  /** A field waits for the other of its frame. */
  private half = false;
  private closed = false;
  /** Frames before the second that others refer to; of those the ones that may lack what they refer to. */
  private anchors = 0;
  private least = 0;
  private most = 0;
  /** A time was told for the next picture. */
  private told = false;
  private untold = 0;
  private reordered = false;

  /** @param told whether a time is told for the first picture that begins in this piece: ISO/IEC 13818-1, 2.4.3.7 */
  push(piece: Buffer, told = false): void {
    this.told ||= told;
    this.look(piece);
  }

  private look(piece: Buffer): void {
    const bytes = this.rest.length > 0 ? Buffer.concat([this.rest, piece]) : piece;
    let at = bytes.indexOf(PREFIX);
    while (at >= 0 && at + 4 + LOOKED_AT <= bytes.length) {
      this.hear(bytes[at + 3]!, bytes.subarray(at + 4, at + 4 + LOOKED_AT));
      at = bytes.indexOf(PREFIX, at + 3);
    }
    // What a start code may begin in is looked at again with what follows it.
    this.rest = Buffer.from(bytes.subarray(at >= 0 ? at : Math.max(0, bytes.length - 2)));
  }

  /** The count, once all was given; undefined where it is another coding. */
  end(): FoundPictures | undefined {
    this.look(Buffer.alloc(LOOKED_AT, 0xff));
    this.settle();
    const { least, most, untold, reordered } = this;
    return this.isVideo && !this.isForeign ? { least, most, timed: untold === 0 || !reordered } : undefined;
  }

  private hear(code: number, after: Buffer): void {
    if (FOREIGN.includes(code)) this.isForeign = true;
    else if (code === CODE.sequence) this.isVideo = true;
    else if (code === CODE.group) {
      this.settle();
      this.closed = (after[3]! & 0x40) !== 0;
    } else if (code === CODE.picture) {
      this.settle();
      this.picture = { type: (after[1]! >> 3) & 7, structure: WHOLE, told: this.told };
      this.told = false;
    } else if (code === CODE.extension && after[0]! >> 4 === PICTURE_CODING_EXTENSION && this.picture)
      this.picture.structure = after[2]! & 3;
  }

  /** Takes the picture whose headers are complete. */
  private settle(): void {
    const { picture } = this;
    if (!picture) return;
    this.picture = undefined;
    const isField = picture.structure !== WHOLE;
    if (isField && this.half) {
      this.half = false;
      return;
    }
    this.half = isField;
    this.most++;
    if (!picture.told) this.untold++;
    this.reordered ||= picture.type === BOTH_SIDES;
    if (picture.type !== BOTH_SIDES && (this.anchors > 0 || (picture.type === INTRA && this.isVideo))) this.anchors++;
    // The first ones shown before the first whole one refer to what is cut off, unless their group is closed.
    if (this.anchors > 1 || (this.anchors === 1 && (picture.type !== BOTH_SIDES || this.closed))) this.least++;
  }
}

const PREFIX = Buffer.from([0, 0, 1]);
