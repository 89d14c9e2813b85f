import { readFile } from 'node:fs/promises';
import { codedBy } from './coded';
import { fixture } from './files';

/** Samples a second of its sound: of one channel, 16 bits. */
const SAMPLES = 48_000;

function chunk(name: string, content: Buffer): Buffer {
  const size = Buffer.alloc(4);
  size.writeUInt32LE(content.length);
  return Buffer.concat([Buffer.from(name, 'latin1'), size, content, Buffer.alloc(content.length % 2)]);
}
const list = (kind: string, ...parts: Buffer[]): Buffer => chunk('LIST', Buffer.concat([Buffer.from(kind), ...parts]));
const numbers = (bytes: number, at: readonly (readonly [number, number])[]): Buffer => {
  const buffer = Buffer.alloc(bytes);
  for (const [place, value] of at) buffer.writeUInt32LE(value, place);
  return buffer;
};

function head(kind: string, coding: string, values: readonly (readonly [number, number])[]): Buffer {
  const buffer = numbers(56, values);
  buffer.write(kind, 0, 'latin1');
  buffer.write(coding, 4, 'latin1');
  return chunk('strh', buffer);
}

interface Film {
  /** What its pictures are called. */
  coding: string;
  width: number;
  height: number;
  framesPerSecond: number;
  /** What is stored, a piece for each frame. */
  pieces: readonly Buffer[];
  /** Seconds from the beginning at which it knocks, for a millisecond. */
  knocks: readonly number[];
}

/** An AVI as "AVI RIFF File Reference" has it, of one video and one sound, piece by piece, with an index. */
export function aviFilm({ coding, width, height, framesPerSecond, pieces, knocks }: Film): Buffer {
  const samples = Math.round((pieces.length / framesPerSecond) * SAMPLES);
  const sound = Buffer.alloc(2 * samples);
  for (const knock of knocks)
    for (let n = 0; n < SAMPLES / 1000; n++) sound.writeInt16LE(n % 2 ? -20_000 : 20_000, 2 * (Math.round(knock * SAMPLES) + n)); // prettier-ignore
  const picture = numbers(40, [[0, 40], [4, width], [8, height], [12, 1 | (24 << 16)], [20, width * height * 3]]); // prettier-ignore
  picture.write(coding, 16, 'latin1');
  const format = numbers(16, [[0, 1 | (1 << 16)], [4, SAMPLES], [8, 2 * SAMPLES], [12, 2 | (16 << 16)]]); // prettier-ignore
  const heads = list(
    'hdrl',
    chunk('avih', numbers(56, [[0, Math.round(1e6 / framesPerSecond)], [12, 0x10], [16, pieces.length], [24, 2], [32, width], [36, height]])), // prettier-ignore
    list('strl', head('vids', coding, [[20, 1], [24, framesPerSecond], [32, pieces.length]]), chunk('strf', picture)), // prettier-ignore
    list('strl', head('auds', '', [[20, 1], [24, SAMPLES], [32, samples], [44, 2]]), chunk('strf', format)), // prettier-ignore
  );
  const [content, index] = [[] as Buffer[], [] as Buffer[]];
  let at = 4;
  const add = (name: string, bytes: Buffer): void => {
    content.push(chunk(name, bytes));
    const entry = numbers(16, [[4, 0x10], [8, at], [12, bytes.length]]); // prettier-ignore
    entry.write(name, 0, 'latin1');
    index.push(entry);
    at += content.at(-1)!.length;
  };
  const place = (n: number): number => 2 * Math.round((n / framesPerSecond) * SAMPLES);
  for (const [n, piece] of pieces.entries()) {
    add('00dc', piece);
    add('01wb', sound.subarray(place(n), place(n + 1)));
  }
  return chunk('RIFF', Buffer.concat([Buffer.from('AVI '), heads, list('movi', ...content), chunk('idx1', Buffer.concat(index))])); // prettier-ignore
}

/** Where start codes of MPEG-4 stand, and what they are: ISO/IEC 14496-2, table 6-3. */
function* codes(bytes: Buffer): Generator<{ at: number; code: number }> {
  for (let at = bytes.indexOf('\0\0\x01', 0, 'latin1'); at >= 0; at = bytes.indexOf('\0\0\x01', at + 3, 'latin1'))
    yield { at, code: bytes[at + 3]! };
}
const PICTURE = 0xb6;

/** A picture of which nothing is stored, for it looks as the one before (6.2.5): its time takes 16 bits. */
export const stillPicture = Buffer.from([0, 0, 1, PICTURE, 0b01_0_1_0000, 0, 0b0000_1_0_0_1]);

const refersForwards = (picture: Buffer): boolean =>
  [...codes(picture)].some(({ at, code }) => code === PICTURE && picture[at + 4]! >> 6 === 2);

/**
 * Puts a picture that is shown late into one piece with the first that is shown before it, and a piece without a picture where it is
 * shown, so that none waits (common practice).
 */
export function packed(pictures: readonly Buffer[]): Buffer[] {
  const pieces: Buffer[] = [];
  // By this it is known.
  const mark = Buffer.concat([Buffer.from([0, 0, 1, 0xb2]), Buffer.from('DivX503b1393p')]);
  for (const [n, picture] of pictures.entries()) {
    const [before, after] = [pictures[n - 1], pictures[n + 1]];
    const isLate = after !== undefined && !refersForwards(picture) && refersForwards(after);
    if (isLate) pieces.push(Buffer.concat([n < 2 ? mark : Buffer.alloc(0), picture, after]));
    else if (!refersForwards(picture)) pieces.push(picture);
    // The first was put with what is stored before it.
    else if (before && refersForwards(before)) pieces.push(picture);
    if (refersForwards(picture) && (!after || !refersForwards(after))) pieces.push(stillPicture);
  }
  return pieces;
}

/**
 * The plates of 24 frames a second in MPEG-4 Visual, as they are stored.
 *
 * @param between pictures that are shown before one that is stored before them
 */
export async function visualPlates(between: number): Promise<Buffer[]> {
  const size = 'width=320 height=180';
  // The framework's encoder loses the times of what a decoder gives it: it is given pictures without any.
  const raw = await codedBy('raw', fixture('plates-24.mp4'), 'd. ! videoconvert ! video/x-raw,format=NV12 ! videoconvert ! video/x-raw,format=I420'); // prettier-ignore
  const coded = await codedBy('m4v', fixture('plates-24.mp4'), `d. ! fakesink filesrc location=${raw} ! rawvideoparse format=i420 ${size} framerate=24/1 ! avenc_mpeg4 bitrate=4000000 max-bframes=${between}`); // prettier-ignore
  const bytes = await readFile(coded);
  const begins: number[] = [];
  let from = 0;
  // What stands before a picture belongs to it.
  for (const { at, code } of codes(bytes)) {
    if (begins.at(-1) === from) from = at;
    if (code === PICTURE) begins.push(from);
  }
  return begins.map((begin, n) => bytes.subarray(begin, begins[n + 1]));
}

/** The plates of 24 frames a second as JPEG, each by itself. */
export async function jpegPlates(): Promise<Buffer[]> {
  const bytes = await readFile(await codedBy('jpegs', fixture('plates-24.mp4'), 'd. ! videoconvert ! jpegenc'));
  const begins: number[] = [];
  // Start and end of an image, side by side: ISO/IEC 10918-1, table B.1. Within one neither can be.
  for (let at = 0; at >= 0 && at < bytes.length; at = bytes.indexOf('\xff\xd8', at + 2, 'latin1')) begins.push(at);
  return begins.map((begin, n) => bytes.subarray(begin, begins[n + 1]));
}
