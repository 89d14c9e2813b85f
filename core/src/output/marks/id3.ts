import { join, u32, u8, utf8, zeros, type Bytes } from './bytes';
import { secondsAt, type FileMarks } from './file-marks';

/** Chapters of MP3: “ID3v2 Chapter Frame Addendum” 1.0 (2005) to ID3v2.4 (2000). */

/** Entries of a table of contents at most: one byte counts them. */
const MOST_ENTRIES = 255;
/** Where chapters begin is told by time, not by bytes. */
const BY_TIME = 0xffffffff;

/** A number of seven bits a byte: ID3v2.4, 6.2. */
const synchsafe = (value: number): Bytes => u8(...[21, 14, 7, 0].map((shift) => (value >> shift) & 0x7f));

const frame = (id: string, ...parts: readonly Uint8Array[]): Bytes => {
  const content = join(...parts);
  return join(utf8(id), synchsafe(content.length), zeros(2), content);
};

const named = (id: string): Bytes => join(utf8(id), zeros(1));
/** Text as UTF-8. */
const title = (text: string): Bytes => frame('TIT2', u8(3), utf8(text), zeros(1));

/** A table of contents; the top one tells what is not told by another. */
const contents = (id: string, top: boolean, entries: readonly string[]): Bytes =>
  frame('CTOC', named(id), u8(top ? 3 : 1, entries.length), ...entries.map(named));

/** The tag that an MP3 file with chapters begins with; undefined where there are none. */
export function id3Tag(marks: FileMarks, name: string): Bytes | undefined {
  if (marks.chapters.length === 0) return undefined;
  const ms = (frames: number): number => Math.round(secondsAt(marks, frames) * 1000);
  const ids = marks.chapters.map((_, index) => `ch${index + 1}`);
  const groups = Array.from({ length: Math.ceil(ids.length / MOST_ENTRIES) }, (_, index) =>
    ids.slice(index * MOST_ENTRIES, (index + 1) * MOST_ENTRIES),
  );
  const tables =
    groups.length === 1
      ? [contents('toc', true, ids)]
      : [
          contents('toc', true, groups.map((_, index) => `toc${index + 1}`)), // prettier-ignore
          ...groups.map((group, index) => contents(`toc${index + 1}`, false, group)),
        ];
  const chapters = marks.chapters.map(({ from, to, name: text }, index) =>
    frame('CHAP', named(ids[index]!), u32(ms(from), ms(to), BY_TIME, BY_TIME), title(text)),
  );
  const frames = join(title(name), ...tables, ...chapters);
  return join(utf8('ID3'), u8(4, 0, 0), synchsafe(frames.length), frames);
}
