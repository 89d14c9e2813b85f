import { PREFIX, type VideoPiece } from './pictures';

/** Start codes of a program stream: ISO/IEC 13818-1, 2.5.3.4 and table 2-22. */
const CODE = { end: 0xb9, pack: 0xba, map: 0xbc, lastOfSystem: 0xbb } as const;
/** Bytes of a packet's head, its own length in them. */
const HEAD = 6;

const isVideo = (id: number): boolean => id >= 0xe0 && id <= 0xef;
/** MPEG's own sound, and what others put into packets of their own, such as AC-3. */
const isSound = (id: number): boolean => (id >= 0xc0 && id <= 0xdf) || id === 0xbd;

/** A time as five bytes hold it: ISO/IEC 13818-1, 2.4.3.6. @returns ticks, 90,000 a second */
const timeIn = (bytes: Buffer): number =>
  ((bytes[0]! >> 1) & 7) * 2 ** 30 + (bytes.readUInt16BE(1) >> 1) * 2 ** 15 + (bytes.readUInt16BE(3) >> 1);

/** Bytes before a packet's content, and the time that they tell: ISO/IEC 13818-1, 2.4.3.6; those of MPEG-1, ISO/IEC 11172-1, 2.4.3.3. */
export function headOf(packet: Buffer): { bytes: number; time: number | undefined } {
  const time = (at: number): number | undefined => (at + 5 <= packet.length ? timeIn(packet.subarray(at, at + 5)) : undefined); // prettier-ignore
  if (packet[0]! >> 6 === 2) return { bytes: 3 + packet[2]!, time: packet[1]! >> 7 === 1 ? time(3) : undefined };
  let at = 0;
  while (packet[at] === 0xff) at++;
  if (packet[at]! >> 6 === 1) at += 2;
  const kind = packet[at]! >> 4;
  return { bytes: at + (kind === 2 ? 5 : kind === 3 ? 10 : 1), time: kind === 2 || kind === 3 ? time(at) : undefined };
}

/** Reads an MPEG program stream in pieces of any size: its first video, and how it begins. */
export class ProgramStream {
  private rest: Buffer = Buffer.alloc(0);
  private video: number | undefined;
  private packs = 0;
  /** Its first pack tells what is in the stream. */
  beginsWithMap = false;
  /** Ticks at which its first sound begins. */
  soundFrom: number | undefined;

  /** @returns what there is of the video in it */
  push(piece: Buffer): VideoPiece[] {
    const bytes = this.rest.length > 0 ? Buffer.concat([this.rest, piece]) : piece;
    const found: VideoPiece[] = [];
    let at = 0;
    for (let next = this.unit(bytes, at, found); next !== undefined; next = this.unit(bytes, at, found)) at = next;
    this.rest = Buffer.from(bytes.subarray(at));
    return found;
  }

  /** Nothing waits for what comes next. */
  end(): VideoPiece[] {
    return [];
  }

  /** Where the unit ends that begins at a place; undefined where more is needed. */
  private unit(bytes: Buffer, from: number, found: VideoPiece[]): number | undefined {
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
    const packet = bytes.subarray(at + HEAD, end);
    if (packet.length > 0 && isSound(code)) this.soundFrom ??= headOf(packet).time;
    if (isVideo(code)) this.video ??= code;
    if (packet.length > 0 && code === this.video) {
      const head = headOf(packet);
      found.push({ bytes: packet.subarray(head.bytes), time: head.time });
    }
    return end;
  }
}
