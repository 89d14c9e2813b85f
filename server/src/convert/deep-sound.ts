import { open, type FileHandle } from 'node:fs/promises';

/** Boxes within which a track's sample descriptions lie: QuickTime File Format, "Movie Atoms". */
const CONTAINERS = ['moov', 'trak', 'mdia', 'minf', 'stbl'];
const HEAD = 8;
/** From a sample description's beginning to its entries, and within a sound's entry to its bits: QuickTime File Format, "Sound Sample Descriptions". */
const ENTRIES = 16;
const BITS = 26;

interface Box {
  kind: string;
  /** Bytes from the file's beginning: of its content, and behind it. */
  from: number;
  to: number;
}

async function read(file: FileHandle, from: number, length: number): Promise<Buffer> {
  const { buffer, bytesRead } = await file.read(Buffer.alloc(length), 0, length, from);
  return buffer.subarray(0, bytesRead);
}

async function boxes(file: FileHandle, from: number, to: number): Promise<Box[]> {
  const found: Box[] = [];
  for (let at = from; at + HEAD <= to;) {
    const head = await read(file, at, 2 * HEAD);
    const short = head.readUInt32BE(0);
    const [size, before] = short === 1 ? [Number(head.readBigUInt64BE(HEAD)), 2 * HEAD] : [short || to - at, HEAD];
    if (size < before) break;
    found.push({ kind: head.toString('latin1', 4, HEAD), from: at + before, to: Math.min(to, at + size) });
    at += size;
  }
  return found;
}

/**
 * Gives sound of 24 bits in a MOV the name that it has by the QuickTime File Format, `in24` (high byte first). The framework's muxer calls
 * it `twos`, as sound of 16 bits is called, and few readers know what is meant.
 */
export async function nameDeepSound(path: string): Promise<void> {
  const file = await open(path, 'r+');
  const within = async (from: number, to: number): Promise<void> => {
    for (const box of await boxes(file, from, to)) {
      if (CONTAINERS.includes(box.kind)) await within(box.from, box.to);
      if (box.kind !== 'stsd') continue;
      const entry = await read(file, box.from - HEAD + ENTRIES, BITS + 2);
      if (entry.toString('latin1', 4, 8) !== 'twos' || entry.readUInt16BE(BITS) !== 24) continue;
      await file.write(Buffer.from('in24'), 0, 4, box.from - HEAD + ENTRIES + 4);
    }
  };
  try {
    await within(0, (await file.stat()).size);
  } finally {
    await file.close();
  }
}
