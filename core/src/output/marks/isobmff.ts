import { countingBase } from '../../time';
import { join, u16, u32, u64, u8, utf8, viewOf, zeros, type Bytes } from './bytes';
import type { Chapter, FileMarks } from './file-marks';

/**
 * Chapters and start timecode of MP4, MOV and M4A: a track of text that the others refer to as theirs, and one of timecode. After
 * “QuickTime File Format Specification” (Apple, 2016), “Text Media”, “Timecode Media”, “Track References”; boxes after ISO/IEC 14496-12.
 */

/** What 32 bits can’t count. */
const LONG = 2 ** 32;
/** Frames a second that a timecode's one byte counts. */
const MOST_FRAMES = 255;

const box = (type: string, ...parts: readonly Uint8Array[]): Bytes => {
  const content = join(...parts);
  return join(u32(8 + content.length), utf8(type), content);
};

const full = (type: string, [version, flags]: readonly [number, number], ...parts: readonly Uint8Array[]): Bytes =>
  box(type, u32(version * 2 ** 24 + flags), ...parts);

/** Turns and scales nothing: ISO/IEC 14496-12, 8.3.2. */
const identity = u32(0x10000, 0, 0, 0, 0x10000, 0, 0, 0, 0x40000000);

interface Timed {
  /** Units a second. */
  scale: number;
  /** Length of each sample, in them. */
  lengths: readonly number[];
  /** What the samples are. */
  entry: Uint8Array;
  /** What a header of generic media tells beside. */
  header: Uint8Array;
  samples: readonly Uint8Array[];
}

interface Track extends Timed {
  kind: 'text' | 'tmcd';
  name: string;
  /** Shown by itself, or only where another track refers to it. */
  enabled: boolean;
}

const sum = (values: readonly number[]): number => values.reduce((total, value) => total + value, 0);

/** Version, two times of making, and then as many bytes for times as a length needs. */
const timesOf = (length: number, between: Uint8Array): { version: number; bytes: Bytes } =>
  length < LONG
    ? { version: 0, bytes: join(u32(0, 0), between, u32(length)) }
    : { version: 1, bytes: join(u64(0, 0), between, u64(length)) };

function trackBox(
  { kind, name, enabled, scale, lengths, entry, header, samples }: Track,
  { id, at, movie }: { id: number; at: number; movie: MovieTimes },
): Bytes {
  const [length, shown] = [sum(lengths), movie.length];
  const [head, media] = [timesOf(shown, u32(id, 0)), timesOf(length, u32(scale))];
  const runs = lengths.reduce<[number, number][]>((all, each) => {
    const last = all.at(-1);
    if (last?.[1] === each) last[0]++;
    else all.push([1, each]);
    return all;
  }, []);
  let next = at;
  const offsets = samples.map(({ length: bytes }) => (next += bytes) - bytes);
  const table = box(
    'stbl',
    full('stsd', [0, 0], u32(1), entry),
    full('stts', [0, 0], u32(runs.length), u32(...runs.flat())),
    // Each sample a chunk of its own: readers there are that know no other way.
    full('stsc', [0, 0], u32(1, 1, 1, 1)),
    full('stsz', [0, 0], u32(0, samples.length), u32(...samples.map((sample) => sample.length))),
    offsets.at(-1)! < LONG
      ? full('stco', [0, 0], u32(offsets.length), u32(...offsets))
      : full('co64', [0, 0], u32(offsets.length), u64(...offsets)),
  );
  const kept = box('dinf', full('dref', [0, 0], u32(1), full('url ', [0, 1])));
  const plain = full('gmin', [0, 0], u16(0x40, 0x8000, 0x8000, 0x8000, 0, 0));
  return box(
    'trak',
    full('tkhd', [head.version, enabled ? 3 : 2], head.bytes, zeros(8), u16(0, 0, 0, 0), identity, u32(0, 0)),
    box(
      'mdia',
      // 0x55C4: a language that nobody has told (ISO/IEC 14496-12, 8.4.2).
      full('mdhd', [media.version, 0], media.bytes, u16(0x55c4, 0)),
      full('hdlr', [0, 0], zeros(4), utf8(kind), zeros(12), utf8(name), u8(0)),
      box('minf', box('gmhd', plain, header), kept, table),
    ),
  );
}

/** Text as a sample: how long it is, it, and that it is UTF-8. */
const textSample = (text: string): Bytes => {
  const coded = utf8(text);
  return join(u16(coded.length), coded, box('encd', u32(0x100)));
};

function chapterTrack({ rate, chapters }: FileMarks): Track {
  return {
    ...{ kind: 'text', name: 'Chapters', enabled: false },
    scale: rate.num,
    lengths: chapters.map(({ from, to }: Chapter) => Math.round((to - from) * rate.den)),
    // Reference to data, display flags, justification, background, box, font, face, foreground, no name.
    entry: box('text', zeros(6), u16(1), u32(1, 0), zeros(6), zeros(8), zeros(8), u16(0, 0), zeros(3), zeros(6), u8(0)),
    header: box('text', identity),
    samples: chapters.map(({ name }) => textSample(name)),
  };
}

function timecodeTrack({ timecode, rate, frames }: FileMarks): Track | undefined {
  const base = timecode && countingBase(timecode.rate);
  if (!timecode || !base || base > MOST_FRAMES) return undefined;
  // Drop-frame, and at most 24 hours.
  const flags = (timecode.dropFrame ? 1 : 0) + 2;
  const [scale, each] = [timecode.rate.num, timecode.rate.den];
  // As long as the file: its frames at the film's rate, in units of the file's.
  const length = Math.round((frames * rate.den * scale) / rate.num);
  return {
    ...{ kind: 'tmcd', name: 'Timecode', enabled: true, scale },
    lengths: [length],
    entry: box('tmcd', zeros(6), u16(1), u32(0, flags, scale, each), u8(base, 0)),
    // Font, face, size, reserved, colour, background, no name.
    header: box('tmcd', full('tcmi', [0, 0], u16(0, 0, 12, 0), zeros(6), zeros(6), u8(0))),
    samples: [u32(timecode.frame)],
  };
}

interface Found {
  type: string;
  from: number;
  to: number;
}

/** The boxes in a stretch of bytes. */
function boxesIn(bytes: Uint8Array, from: number, to: number): Found[] {
  const [view, found]: [DataView, Found[]] = [viewOf(bytes), []];
  for (let at = from; at + 8 <= to;) {
    const short = view.getUint32(at);
    const size = short === 1 ? Number(view.getBigUint64(at + 8)) : short;
    if (size < 8 || at + size > to) throw new RangeError('A box is longer than what it lies in.');
    found.push({ type: String.fromCharCode(...bytes.subarray(at + 4, at + 8)), from: at, to: at + size });
    at += size;
  }
  return found;
}

/** How long a film is, in its own units. */
interface MovieTimes {
  length: number;
}

const within = (bytes: Uint8Array, { from, to }: Found): Found[] => boxesIn(bytes, from + 8, to);

/** What a track is of: `vide`, `soun` or another. */
function handlerOf(bytes: Uint8Array, track: Found): string | undefined {
  const media = within(bytes, track).find(({ type }) => type === 'mdia');
  const handler = media && within(bytes, media).find(({ type }) => type === 'hdlr');
  return handler && String.fromCharCode(...bytes.subarray(handler.from + 16, handler.from + 20));
}

/** A track with references to others, after its header. */
function refer(bytes: Uint8Array, track: Found, references: readonly Uint8Array[]): Bytes {
  const parts = within(bytes, track).map(({ type, from, to }) => {
    const part = bytes.subarray(from, to);
    return type === 'tkhd' ? join(part, box('tref', ...references)) : part;
  });
  return box('trak', ...parts);
}

function tracksOf(marks: FileMarks, seen: boolean): Track[] {
  const timecode = seen ? timecodeTrack(marks) : undefined;
  return [...(marks.chapters.length > 0 ? [chapterTrack(marks)] : []), ...(timecode ? [timecode] : [])];
}

/** Bytes by which a film's index grows at most by its marks. */
export function movieRoom(marks: FileMarks): number {
  const tracks = tracksOf(marks, true);
  const grown = tracks.map((track) => trackBox(track, { id: 0, at: LONG, movie: { length: LONG } }).length);
  return sum(grown) + 2 * (8 + 2 * 12);
}

/**
 * A film's index with its marks, and what they are made of, which becomes the end of its file.
 *
 * @param movie the index: a whole `moov` box
 * @param end bytes of the file so far, at which `tail` will lie
 * @returns undefined where there is nothing to write
 * @throws RangeError when `movie` is not one
 */
export function markMovie(movie: Uint8Array, marks: FileMarks, end: number): { movie: Bytes; tail: Bytes } | undefined {
  const boxes = boxesIn(movie, 8, movie.length);
  const head = boxes.find(({ type }) => type === 'mvhd');
  const tracks = boxes.filter(({ type }) => type === 'trak');
  const main = tracks.find((track) => handlerOf(movie, track) === 'vide') ?? tracks[0];
  if (!head || !main) throw new RangeError('This is no index of a film.');
  const added = tracksOf(marks, handlerOf(movie, main) === 'vide');
  if (added.length === 0) return undefined;
  const view = viewOf(movie);
  const length =
    movie[head.from + 8] === 1 ? Number(view.getBigUint64(head.from + 32)) : view.getUint32(head.from + 24);
  const first = view.getUint32(head.to - 4);
  const samples = added.map((track) => join(...track.samples));
  let at = end + 8;
  const made = added.map((track, index) => {
    const done = trackBox(track, { id: first + index, at, movie: { length } });
    at += samples[index]!.length;
    return done;
  });
  const references = added.map(({ kind }, index) => box(kind === 'text' ? 'chap' : kind, u32(first + index)));
  const parts = boxes.map((one) => {
    if (one === main) return refer(movie, one, references);
    if (one !== head) return movie.subarray(one.from, one.to);
    return join(movie.subarray(one.from, one.to - 4), u32(first + added.length));
  });
  return { movie: box('moov', ...insertAfterTracks(parts, boxes, made)), tail: box('mdat', ...samples) };
}

/** Tracks follow each other; what else an index has comes after them. */
function insertAfterTracks(parts: Uint8Array[], boxes: readonly Found[], made: readonly Uint8Array[]): Uint8Array[] {
  const last = boxes.findLastIndex(({ type }) => type === 'trak');
  return parts.toSpliced(last + 1, 0, ...made);
}

/** A box of nothing, of so many bytes; eight at least. */
export const freeBox = (length: number): Bytes => box('free', zeros(length - 8));
