import type { VideoPiece } from './pictures';
import { headOf } from './program-stream';

/** `sync_byte` */
const SYNC = 0x47;
/** Bytes of a packet: as sent; with a time before it, as discs and cameras keep it; with its check. */
const STRIDES = [188, 192, 204] as const;
const PACKET = 188;
/** Packets that must follow each other for a stream to be one. */
const SURE = 5;

/** Where packets begin and how far apart they are; undefined where it is no transport stream. */
export function packetsOf(bytes: Buffer): { from: number; stride: number } | undefined {
  for (const stride of STRIDES)
    for (let from = 0; from < stride; from++) {
      const here = Array.from({ length: SURE }, (_, n) => bytes[from + n * stride]);
      if (here.every((byte) => byte === SYNC)) return { from, stride };
    }
  return undefined;
}

/** Reads an MPEG transport stream in pieces of any size, each packet by ISO/IEC 13818-1, 2.4.3.2: its first video. */
export class TransportStream {
  private rest: Buffer = Buffer.alloc(0);
  private video: number | undefined;
  /** Bytes of a head that goes on in the next packet. */
  private head = 0;
  readonly beginsWithMap = false;
  /** Ticks at which its first sound begins. */
  soundFrom: number | undefined;

  /** @param before bytes before the first packet */
  constructor(
    private readonly stride: number,
    private before: number,
  ) {}

  /** @returns what there is of the video in it */
  push(piece: Buffer): VideoPiece[] {
    const part = piece.subarray(this.before);
    this.before = Math.max(0, this.before - piece.length);
    const bytes = this.rest.length > 0 ? Buffer.concat([this.rest, part]) : part;
    const found: VideoPiece[] = [];
    let at = 0;
    while (at + this.stride <= bytes.length) {
      if (bytes[at] !== SYNC) at++;
      else {
        this.packet(bytes.subarray(at, at + PACKET), found);
        at += this.stride;
      }
    }
    this.rest = Buffer.from(bytes.subarray(at));
    return found;
  }

  /** What waited for what comes next: behind the last packet nothing stands. */
  end(): VideoPiece[] {
    const found: VideoPiece[] = [];
    if (this.rest.length >= PACKET && this.rest[0] === SYNC) this.packet(this.rest.subarray(0, PACKET), found);
    return found;
  }

  private packet(bytes: Buffer, found: VideoPiece[]): void {
    const number = bytes.readUInt16BE(1) & 0x1fff;
    const begins = (bytes[1]! & 0x40) !== 0;
    const kinds = (bytes[3]! >> 4) & 3;
    if ((kinds & 1) === 0) return;
    let content = bytes.subarray(kinds === 3 ? Math.min(PACKET, 5 + bytes[4]!) : 4);
    const isPacket = begins && content.length >= 9 && content.readUIntBE(0, 3) === 1;
    const time = isPacket ? headOf(content.subarray(6)).time : undefined;
    if (isPacket && content[3]! >> 4 === 0xe) this.video ??= number;
    if (number !== this.video) {
      // Sound of MPEG, of others in packets of their own, and of those whose names came later.
      if (isPacket && (content[3]! >> 5 === 6 || [0xbd, 0xfd].includes(content[3]!))) this.soundFrom ??= time;
      return;
    }
    if (isPacket) this.head = 9 + content[8]!;
    const skipped = Math.min(this.head, content.length);
    this.head -= skipped;
    content = content.subarray(skipped);
    found.push({ bytes: content, time });
  }
}
