// The package’s types say nothing of this part of it; who includes this file includes what does.
// eslint-disable-next-line @typescript-eslint/triple-slash-reference
/// <reference path="./tar-headers.d.ts" />
import headers from 'tar-stream/headers.js';
import { MOST_STILLS } from '@hastig/contract';
import type { ReadBytes } from '../isobmff/tables';
import { RefusedMedia } from '../refused';

/**
 * Numbered stills are kept as one file: a tape archive (POSIX.1-2017, pax: ustar interchange format) that any program unpacks,
 * whose first entry, `index.json`, lists the pictures with their numbers and sizes, so that each is found without looking
 * through the others.
 */
const BLOCK = 512;
const INDEX = 'index.json';
const KIND = 'hastig-stills';
/** Bytes of an index at most. */
const MOST_INDEX = 32 * 2 ** 20;

/** A picture of numbered stills: what its file was called, its number, and its bytes. */
interface NumberedStill {
  name: string;
  number: number;
  bytes: number;
}

/** The same in an archive: `from` is the place of its first byte. */
export interface ArchivedStill extends NumberedStill {
  from: number;
}

const padded = (bytes: number): number => Math.ceil(bytes / BLOCK) * BLOCK;

function header(name: string, size: number): Uint8Array<ArrayBuffer> {
  // The same pictures are the same file, whenever they come in.
  const encoded = headers.encode({
    ...{ name, size, mode: 0o644, uid: 0, gid: 0, mtime: new Date(0), type: 'file' },
    ...{ linkname: null, uname: '', gname: '', devmajor: 0, devminor: 0 },
  });
  return new Uint8Array(encoded!);
}

/**
 * The parts of an archive of stills one after the other; contents are passed through and not read.
 *
 * @param stills in the order in which they are shown
 */
export function archiveParts<Content>(
  stills: readonly (NumberedStill & { content: Content })[],
): (Content | Uint8Array<ArrayBuffer>)[] {
  const pictures = stills.map(({ name, number, bytes }) => ({ name, number, bytes }));
  const index = new TextEncoder().encode(JSON.stringify({ kind: KIND, pictures }));
  const parts: (Content | Uint8Array<ArrayBuffer>)[] = [];
  const add = (name: string, bytes: number, content: Content | Uint8Array<ArrayBuffer>): void => {
    parts.push(header(name, bytes), content, new Uint8Array(padded(bytes) - bytes));
  };
  add(INDEX, index.byteLength, index);
  stills.forEach(({ name, bytes, content }, place) => {
    const ending = /\.[A-Za-z0-9]+$/.exec(name)?.[0] ?? '';
    add(`${String(place + 1).padStart(6, '0')}${ending.toLowerCase()}`, bytes, content);
  });
  // Two empty blocks end an archive.
  parts.push(new Uint8Array(2 * BLOCK));
  return parts;
}

/** Whether a file's first block is that of an archive of stills. */
export function isStillsArchive(head: Uint8Array): boolean {
  const text = (from: number, to: number): string => String.fromCharCode(...head.subarray(from, to));
  return text(257, 262) === 'ustar' && text(0, INDEX.length + 1) === `${INDEX}\0`;
}

/**
 * The pictures of an archive of stills, in the order in which they are shown.
 *
 * @param bytes the archive's size
 * @throws RefusedMedia for one that is damaged, cut short, or of another kind
 */
export async function readArchive(read: ReadBytes, bytes: number): Promise<ArchivedStill[]> {
  const pictures = await readIndex(read);
  const stills: ArchivedStill[] = [];
  let at = pictures.after;
  for (const picture of pictures.list) {
    stills.push({ ...picture, from: at + BLOCK });
    at += BLOCK + padded(picture.bytes);
  }
  if (at > bytes) throw new RefusedMedia('The image sequence is incomplete: some pictures are missing.');
  return stills;
}

async function readIndex(read: ReadBytes): Promise<{ list: NumberedStill[]; after: number }> {
  const damaged = new RefusedMedia('The image sequence is damaged: its picture list can’t be read.');
  try {
    const { size } = headers.decode(await read(0, BLOCK))!;
    if (!(size! <= MOST_INDEX)) throw damaged;
    const text = new TextDecoder().decode(await read(BLOCK, BLOCK + size!));
    const { kind, pictures } = JSON.parse(text) as { kind?: unknown; pictures?: unknown };
    if (kind !== KIND || !Array.isArray(pictures) || pictures.length < 1 || pictures.length > MOST_STILLS)
      throw damaged;
    return { list: pictures.map(checkedStill), after: BLOCK + padded(size!) };
  } catch {
    throw damaged;
  }
}

function checkedStill(raw: unknown): NumberedStill {
  const { name, number, bytes } = raw as Record<string, unknown>;
  if (typeof name !== 'string' || !Number.isSafeInteger(number) || !Number.isSafeInteger(bytes)) throw new Error();
  if ((number as number) < 0 || (bytes as number) < 1) throw new Error();
  return { name, number: number as number, bytes: bytes as number };
}
