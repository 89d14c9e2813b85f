import { PictureCounter, type FoundPictures } from './pictures';

/** Start codes of a program stream: ISO/IEC 13818-1, 2.5.3.4 and table 2-22. */
const CODE = { end: 0xb9, pack: 0xba, map: 0xbc, lastOfSystem: 0xbb } as const;
const PREFIX = Buffer.from([0, 0, 1]);
/** Bytes of a packet's head, its own length in them. */
const HEAD = 6;

const isVideo = (id: number): boolean => id >= 0xe0 && id <= 0xef;

/** Bytes before a packet's content, and whether they tell a time: ISO/IEC 13818-1, 2.4.3.6; those of MPEG-1, ISO/IEC 11172-1, 2.4.3.3. */
export function headOf(packet: Buffer): { bytes: number; told: boolean } {
  if (packet[0]! >> 6 === 2) return { bytes: 3 + packet[2]!, told: packet[1]! >> 7 === 1 };
  let at = 0;
  while (packet[at] === 0xff) at++;
  if (packet[at]! >> 6 === 1) at += 2;
  const kind = packet[at]! >> 4;
  return { bytes: at + (kind === 2 ? 5 : kind === 3 ? 10 : 1), told: kind === 2 || kind === 3 };
}

/** Reads an MPEG program stream in pieces of any size: what its first video has of pictures, and how it begins. */
export class ProgramStream {
  private readonly counter = new PictureCounter();
  private rest: Buffer = Buffer.alloc(0);
  private video: number | undefined;
  private packs = 0;
  /** Its first pack tells what is in the stream. */
  beginsWithMap = false;

  push(piece: Buffer): void {
    const bytes = this.rest.length > 0 ? Buffer.concat([this.rest, piece]) : piece;
    let at = 0;
    for (let next = this.unit(bytes, at); next !== undefined; next = this.unit(bytes, at)) at = next;
    this.rest = Buffer.from(bytes.subarray(at));
  }

  end(): FoundPictures | undefined {
    return this.counter.end();
  }

  /** Where the unit ends that begins at a place; undefined where more is needed. */
  private unit(bytes: Buffer, from: number): number | undefined {
    const at = bytes.indexOf(PREFIX, from);
    // What stands between is nothing; a start code may begin in its last two bytes.
    if (at < 0) return bytes.length - from > 2 ? bytes.length - 2 : undefined;
    if (at + HEAD > bytes.length) return at > from ? at : undefined;
    const code = bytes[at + 3]!;
    if (code === CODE.pack) {
      this.packs++;
      return at + 4;
    }
    if (code < CODE.lastOfSystem) return at + 4;
    const end = at + HEAD + bytes.readUInt16BE(at + 4);
    if (end > bytes.length) return at > from ? at : undefined;
    if (code === CODE.map && this.packs === 1) this.beginsWithMap = true;
    if (isVideo(code)) {
      this.video ??= code;
      const packet = bytes.subarray(at + HEAD, end);
      if (code === this.video && packet.length > 0) {
        const { bytes: head, told } = headOf(packet);
        this.counter.push(packet.subarray(head), told);
      }
    }
    return end;
  }
}
