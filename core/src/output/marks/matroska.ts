import { join, utf8, viewOf, zeros, type Bytes, type Patch } from './bytes';
import { secondsAt, type FileMarks } from './file-marks';

/** Chapters of MKV and WebM: RFC 9559 (Matroska), 5.1.7; its coding: RFC 8794 (EBML). */

/** Elements by their names there. */
const ids = {
  ebml: 0x1a45dfa3,
  segment: 0x18538067,
  seekHead: 0x114d9b74,
  seek: 0x4dbb,
  seekId: 0x53ab,
  seekPosition: 0x53ac,
  tags: 0x1254c367,
  tag: 0x7373,
  simpleTag: 0x67c8,
  tagName: 0x45a3,
  chapters: 0x1043a770,
  edition: 0x45b9,
  atom: 0xb6,
  uid: 0x73c4,
  start: 0x91,
  end: 0x92,
  display: 0x80,
  string: 0x85,
  language: 0x437c,
  void: 0xec,
} as const;

/** The tag that keeps room in a file's head, which becomes chapters. */
export const ROOM_TAG = 'ROOM';

/** A whole number in as few bytes as it takes. */
function unsigned(value: number): Bytes {
  const bytes: number[] = [];
  for (let rest = BigInt(value); rest > 0n || bytes.length === 0; rest >>= 8n) bytes.unshift(Number(rest & 0xffn));
  return new Uint8Array(bytes);
}

/** A size in `length` bytes, or in as few as it takes. */
function size(value: number, length = 0): Bytes {
  let bytes = Math.max(1, length);
  while (length === 0 && value >= 2 ** (7 * bytes) - 1) bytes++;
  const coded = new Uint8Array(bytes);
  for (let index = bytes - 1, rest = value; index >= 0; index--, rest = Math.floor(rest / 256))
    coded[index] = rest % 256;
  coded[0]! |= 0x80 >> (bytes - 1);
  return coded;
}

const element = (id: number, ...parts: readonly Uint8Array[]): Bytes => {
  const content = join(...parts);
  return join(unsigned(id), size(content.length), content);
};

/** All chapters of a file. */
function chaptersElement(marks: FileMarks): Bytes {
  // In nanoseconds, whatever the rest of the file counts in.
  const at = (frames: number): Bytes => unsigned(Math.round(secondsAt(marks, frames) * 1e9));
  const atoms = marks.chapters.map(({ from, to, name }, index) =>
    element(
      ids.atom,
      element(ids.uid, unsigned(index + 1)),
      element(ids.start, at(from)),
      element(ids.end, at(to)),
      element(ids.display, element(ids.string, utf8(name)), element(ids.language, utf8('und'))),
    ),
  );
  return element(ids.chapters, element(ids.edition, ...atoms));
}

/** What a file's head keeps room for its chapters with: the content of a tag; undefined where there are none. */
export function matroskaRoom(marks: FileMarks): Bytes | undefined {
  return marks.chapters.length > 0 ? zeros(chaptersElement(marks).length) : undefined;
}

interface Found {
  id: number;
  from: number;
  /** Where what it holds begins. */
  content: number;
  to: number;
}

/** The elements in a stretch, as far as they are all there. */
function elementsIn(bytes: Uint8Array, from: number, to: number): Found[] {
  const found: Found[] = [];
  for (let at = from; at + 2 <= to;) {
    const idLength = Math.clz32(bytes[at]!) - 23;
    const sizeLength = Math.clz32(bytes[at + idLength] ?? 0) - 23;
    const content = at + idLength + sizeLength;
    if (idLength > 4 || sizeLength > 8 || content > to) break;
    let id = 0;
    for (let index = at; index < at + idLength; index++) id = id * 256 + bytes[index]!;
    let length = bytes[at + idLength]! & (0xff >> sizeLength);
    for (let index = at + idLength + 1; index < content; index++) length = length * 256 + bytes[index]!;
    found.push({ id, from: at, content, to: content + length });
    at = content + length;
  }
  return found;
}

/**
 * What is to be changed in a file's head so that it has chapters: they take the place of the tag that kept room for them.
 *
 * @param head the file's first bytes, as far as its tags
 * @throws RangeError when there is no such tag
 */
export function markSegment(head: Uint8Array, marks: FileMarks): Patch[] {
  const segment = elementsIn(head, 0, head.length).find(({ id }) => id === ids.segment);
  const parts = segment ? elementsIn(head, segment.content, head.length) : [];
  const [seekHead, tags] = [ids.seekHead, ids.tags].map((wanted) => parts.find(({ id }) => id === wanted));
  if (!segment || !seekHead || !tags || tags.to > head.length) throw new RangeError('There is no room for chapters.');
  const chapters = chaptersElement(marks);
  const left = element(ids.tags, ...elementsIn(head, tags.content, tags.to).map((tag) => withoutRoom(head, tag)));
  const rest = tags.to - tags.from - chapters.length - left.length;
  const nothing = join(unsigned(ids.void), size(rest - 9, 8), zeros(rest - 9));
  const [entry] = elementsIn(head, seekHead.content, seekHead.to).flatMap((seek) => {
    const [what, where] = [ids.seekId, ids.seekPosition].map((wanted) =>
      elementsIn(head, seek.content, seek.to).find(({ id }) => id === wanted),
    );
    return what && where && viewOf(head).getUint32(what.content) === ids.tags ? [where] : [];
  });
  if (!entry) throw new RangeError('There is no room for chapters.');
  const position = unsigned(tags.from + chapters.length - segment.content);
  return [
    { at: tags.from, bytes: join(chapters, left, nothing) },
    { at: entry.content, bytes: join(zeros(entry.to - entry.content - position.length), position) },
  ];
}

/** A tag without the one that kept room. */
function withoutRoom(head: Uint8Array, tag: Found): Bytes {
  const kept = elementsIn(head, tag.content, tag.to).filter((one) => {
    if (one.id !== ids.simpleTag) return true;
    const name = elementsIn(head, one.content, one.to).find(({ id }) => id === ids.tagName);
    return !name || new TextDecoder().decode(head.subarray(name.content, name.to)) !== ROOM_TAG;
  });
  return element(tag.id, ...kept.map(({ from, to }) => head.subarray(from, to)));
}
