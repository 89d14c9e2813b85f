import { MOST_PICTURES } from '../order';
import type { CodedPicture } from './shown';

/** What start codes begin with. */
export const PREFIX = Buffer.from([0, 0, 1]);
/** Start codes of MPEG-1 and MPEG-2 video: ISO/IEC 13818-2, table 6-1. */
const CODE = { picture: 0x00, sequence: 0xb3, extension: 0xb5, group: 0xb8 } as const;
/** Codes that MPEG-1 and MPEG-2 reserve and MPEG-4 Visual begins with, in which the others mean something else. */
const FOREIGN = [0xb0, 0xb6];
/** Bytes after a start code that are looked at. */
const LOOKED_AT = 4;
/** `extension_start_code_identifier` */
const [SEQUENCE_EXTENSION, PICTURE_CODING_EXTENSION] = [1, 8];
/** Frames a second by `frame_rate_code`: table 6-4. */
const RATES = [0, 24_000 / 1001, 24, 25, 30_000 / 1001, 30, 50, 60_000 / 1001, 60];
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
  /** As they are stored. */
  coded: readonly CodedPicture[];
  framesPerSecond: number;
}

/** A piece of a video as a stream carries it. */
export interface VideoPiece {
  bytes: Buffer;
  /** Ticks, 90,000 a second, at which the first picture is shown that begins in it, where that is told: ISO/IEC 13818-1, 2.4.3.7. */
  time: number | undefined;
}

/**
 * Counts the pictures of MPEG-1 and MPEG-2 video by their headers, two fields as one; nothing is decoded. It is given the stream in
 * pieces of any size, and throws RangeError where there are too many. ISO/IEC 13818-2, 6.2.3 (picture header) and 6.2.3.1 (coding extension).
 */
export class PictureCounter {
  private rest: Buffer = Buffer.alloc(0);
  private isVideo = false;
  private isForeign = false;
  private picture: { type: number; structure: number; repeats: number; time: number | undefined } | undefined;
  /** A field waits for the other of its frame. */
  private half = false;
  private closed = false;
  /** Pictures so far that others refer to, from the first whole one on. */
  private anchors = 0;
  /** Pictures so far that have all that they refer to. */
  private least = 0;
  private readonly coded: CodedPicture[] = [];
  /** The time that was told for the next picture. */
  private time: number | undefined;
  private framesPerSecond = 0;
  /** All frames are whole pictures, of which one may be shown several times. */
  private progressive = false;

  push({ bytes, time }: VideoPiece): void {
    this.time = time ?? this.time;
    this.look(bytes);
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
    if (!this.isVideo || this.isForeign) return undefined;
    const { least, coded, framesPerSecond } = this;
    const timed = coded.every(({ time }) => time !== undefined) || !coded.some(({ waits }) => !waits);
    return { least, most: coded.length, timed, coded, framesPerSecond };
  }

  private hear(code: number, after: Buffer): void {
    if (FOREIGN.includes(code)) this.isForeign = true;
    else if (code === CODE.sequence) {
      this.isVideo = true;
      this.framesPerSecond = RATES[after[3]! & 15] ?? 0;
    } else if (code === CODE.group) {
      this.settle();
      this.closed = (after[3]! & 0x40) !== 0;
    } else if (code === CODE.picture) {
      this.settle();
      this.picture = { type: (after[1]! >> 3) & 7, structure: WHOLE, repeats: 0, time: this.time };
      this.time = undefined;
    } else if (code === CODE.extension) this.hearMore(after[0]! >> 4, after);
  }

  private hearMore(extension: number, after: Buffer): void {
    if (extension === SEQUENCE_EXTENSION) this.progressive = (after[1]! & 8) !== 0;
    if (extension !== PICTURE_CODING_EXTENSION || !this.picture) return;
    this.picture.structure = after[2]! & 3;
    // `repeat_first_field`: a field more, or the whole picture once or twice more, as `top_field_first` says (6.3.10).
    const [repeats, topFirst] = [(after[3]! & 2) !== 0, (after[3]! & 0x80) !== 0];
    this.picture.repeats = !repeats ? 0 : !this.progressive ? 1 : topFirst ? 4 : 2;
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
    if (this.coded.length === MOST_PICTURES)
      throw new RangeError('It has more pictures than can be converted. Cut it first.');
    const { type, time, repeats } = picture;
    this.coded.push({ waits: type !== BOTH_SIDES, time, fields: 2 + repeats });
    if (picture.type !== BOTH_SIDES && (this.anchors > 0 || (picture.type === INTRA && this.isVideo))) this.anchors++;
    // The first ones shown before the first whole one refer to what is cut off, unless their group is closed.
    if (this.anchors > 1 || (this.anchors === 1 && (picture.type !== BOTH_SIDES || this.closed))) this.least++;
  }
}
