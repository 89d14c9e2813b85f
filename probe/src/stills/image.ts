import { imageSize } from 'image-size';
import type { ReadBytes } from '../isobmff/tables';
import { RefusedMedia } from '../refused';

/** Kinds of stills that browsers decode, by what `image-size` calls them. */
const kinds: Record<string, { codec: string; container: string; mime: string }> = {
  png: { codec: 'png', container: 'PNG', mime: 'image/png' },
  jpg: { codec: 'jpeg', container: 'JPEG', mime: 'image/jpeg' },
  webp: { codec: 'webp', container: 'WebP', mime: 'image/webp' },
  avif: { codec: 'avif', container: 'AVIF', mime: 'image/avif' },
};

/** Kinds that are told by their first bytes, and are refused by their names. */
const refusedKinds: Record<string, string> = {
  bmp: 'BMP',
  gif: 'GIF',
  heic: 'HEIC',
  heif: 'HEIF',
  jxl: 'JPEG XL',
  psd: 'layered',
  tiff: 'TIFF',
};

/** Bytes in which a still says how large it is: a JPEG's comes after its maker's notes and a small picture of itself. */
const HEAD = 256 * 1024;
const LONGEST_HEAD = 4 * 2 ** 20;
/** Bytes at the end in which a whole still ends. */
const TAIL = 64 * 1024;

/** What a still is; sizes as displayed. */
export interface ImageFacts {
  codec: string;
  container: string;
  mime: string;
  width: number;
  height: number;
  /** Whether it may be transparent anywhere. */
  alpha: boolean;
}

const ascii = (bytes: Uint8Array, from: number, to: number): string => String.fromCharCode(...bytes.subarray(from, to));

/** Whether a file's first 32 bytes are those of a still (PNG, JPEG, RIFF and ISO base media signatures). */
export function isImage(head: Uint8Array): boolean {
  const [a, b, c] = head;
  if ((a === 0x89 && ascii(head, 1, 4) === 'PNG') || (a === 0xff && b === 0xd8 && c === 0xff)) return true;
  if (ascii(head, 0, 4) === 'RIFF') return ascii(head, 8, 12) === 'WEBP';
  if (ascii(head, 4, 8) === 'ftyp') return /^(avi[fs]|hei[cxfsm]|mif1|msf1)$/.test(ascii(head, 8, 12));
  return /^(GIF8|BM|II\*\0|MM\0\*|8BPS)/.test(ascii(head, 0, 4));
}

/**
 * Reads what a still is from its head, and whether its end is there; decodes nothing.
 *
 * @param bytes its size
 * @throws RefusedMedia for kinds that browsers do not decode, and for files that are damaged or cut short
 */
export async function readImage(read: ReadBytes, bytes: number): Promise<ImageFacts> {
  const found = await measured(read, bytes);
  const kind = kinds[found.type ?? ''];
  if (!kind) {
    const name = refusedKinds[found.type ?? ''];
    throw new RefusedMedia(
      `This is a ${name ? `${name} ` : ''}picture, which not every browser can show. Save it as PNG, JPEG, WebP or AVIF.`,
    );
  }
  if (!(await isWhole(read, bytes, kind.codec))) {
    throw new RefusedMedia('The picture is incomplete: its end is missing. Copy it again from its origin.');
  }
  // Exif orientations from 5 on are a quarter turn (CIPA DC-008, 4.6.4).
  const turned = (found.orientation ?? 1) >= 5;
  const [width, height] = turned ? [found.height, found.width] : [found.width, found.height];
  return { ...kind, width, height, alpha: await hasAlpha(read, bytes, kind.codec) };
}

/**
 * Whether a picture may be transparent: PNG (ISO/IEC 15948, 11.2.2 and 11.3.2), WebP (RFC 9649, 2.7 and 3.4); of AVIF it is
 * taken to be so, which costs a little time where it is not.
 */
async function hasAlpha(read: ReadBytes, bytes: number, codec: string): Promise<boolean> {
  if (codec === 'jpeg') return false;
  const head = await read(0, Math.min(bytes, HEAD));
  if (codec === 'png') return head[25] === 4 || head[25] === 6 || indexOfText(head, 'tRNS') > 0;
  if (codec !== 'webp') return true;
  const chunk = ascii(head, 12, 16);
  if (chunk === 'VP8X') return (head[20]! & 0x10) !== 0;
  return chunk === 'VP8L' && (head[24]! & 0x10) !== 0;
}

const indexOfText = (bytes: Uint8Array, text: string): number => {
  const codes = [...text].map((letter) => letter.charCodeAt(0));
  return bytes.findIndex((_, at) => codes.every((code, index) => bytes[at + index] === code));
};

async function measured(read: ReadBytes, bytes: number): Promise<ReturnType<typeof imageSize>> {
  for (let length = HEAD; ; length *= 16) {
    try {
      const found = imageSize(await read(0, Math.min(bytes, length)));
      if (found.width >= 1 && found.height >= 1 && found.width <= 65_536 && found.height <= 65_536) return found;
    } catch {
      // Cut off before its size is told: more of it may help.
    }
    if (length >= bytes || length >= LONGEST_HEAD) {
      throw new RefusedMedia('The picture is damaged: its size can’t be read. Copy it again from its origin.');
    }
  }
}

async function isWhole(read: ReadBytes, bytes: number, codec: string): Promise<boolean> {
  if (codec === 'webp') return new DataView((await read(0, 8)).slice().buffer).getUint32(4, true) + 8 <= bytes;
  if (codec === 'avif') return true;
  const tail = await read(Math.max(0, bytes - TAIL), bytes);
  // What programs write behind the end is of no matter.
  return indexOfText(tail, codec === 'png' ? 'IEND' : '\xff\xd9') >= 0;
}
