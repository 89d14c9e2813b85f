import { RefusedMedia } from '../refused';

/** Reads bytes `from` (included) to `to` (not) of a file; fewer where the file ends before. */
export type ReadBytes = (from: number, to: number) => Promise<Uint8Array>;

/** Boxes of ISO/IEC 14496-12 in which the tables of samples lie. */
const outer = new Set(['moov', 'trak', 'mdia', 'minf', 'stbl', 'moof', 'traf']);

/** Bytes of one entry of a table and of what lies before its entries, version and flags included (8.6.1, 8.7). */
const tables: Record<string, { entry: number; head: number }> = {
  stts: { entry: 8, head: 8 },
  ctts: { entry: 8, head: 8 },
  stss: { entry: 4, head: 8 },
  stsc: { entry: 12, head: 8 },
  stco: { entry: 4, head: 8 },
  co64: { entry: 8, head: 8 },
};

/** Boxes looked at in one file. One with more is no recording: the longest have some for every second. */
const MOST_BOXES = 500_000;
/** Boxes inside one another; as many as lead to a table, and a few more. */
const DEEPEST = 10;
const WINDOW = 64 * 1024;
/** Samples that are added up while all of a track are looked for: so many, whatever the file's size, and for each byte on top. */
const CHUNK_WORK = { base: 2e7, perByte: 1000 };

const damaged = (what: string): RefusedMedia =>
  new RefusedMedia(
    `The file is damaged: ${what}. Copy it again from its origin, or export it again from a program that plays it.`,
  );

/**
 * Compares what an MP4 or MOV promises with what it can hold, before anybody counts on it: a table may name thousands of
 * millions of samples in a few bytes, and whoever lists them is busy for minutes. Reads heads of boxes and tables of times
 * only. What is no such file passes.
 *
 * @param bytes the file's size
 * @param most frames of a picture at most
 * @throws RefusedMedia where a table is larger than its box, or counts more samples than the file has bytes
 */
export async function checkTables(read: ReadBytes, bytes: number, most: number): Promise<void> {
  if ((await typeAt(read, 0)) !== 'ftyp' && (await typeAt(read, 0)) !== 'moov') return;
  await new TableWalk(read, bytes, most).boxes(0, bytes, 0, {});
}

async function typeAt(read: ReadBytes, at: number): Promise<string> {
  return String.fromCharCode(...(await read(at, at + 8)).subarray(4, 8));
}

/** What is known of the track that is being walked through. */
interface Track {
  handler?: string;
  /** Samples it has, where they differ in size, and the most that lie in one chunk. */
  samples?: number;
  inChunk?: number;
}

class TableWalk {
  private seen = 0;
  private promised = 0;
  private window: { from: number; bytes: Uint8Array } = { from: 0, bytes: new Uint8Array() };

  constructor(
    private readonly read: ReadBytes,
    private readonly bytes: number,
    private readonly most: number,
  ) {}

  async boxes(from: number, to: number, depth: number, track: Track): Promise<void> {
    let at = from;
    while (at + 8 <= to) {
      if (++this.seen > MOST_BOXES) throw damaged('it has too many fragments');
      const head = await this.view(at, 16);
      if (!head) return;
      const type = String.fromCharCode(...[4, 5, 6, 7].map((byte) => head.getUint8(byte)));
      const short = head.getUint32(0);
      const wide = short === 1;
      const size = wide ? Number(head.getBigUint64(8)) : short === 0 ? to - at : short;
      if (size < (wide ? 16 : 8)) return;
      const start = at + (wide ? 16 : 8);
      const end = Math.min(at + size, to);
      if (outer.has(type) && depth < DEEPEST) {
        const inside = type === 'trak' ? {} : track;
        await this.boxes(start, end, depth + 1, inside);
        if (type === 'trak') this.checkChunks(inside);
      } else if (depth > 0) {
        await this.box(type, start, end, track);
      }
      at += size;
    }
  }

  private async box(type: string, start: number, end: number, track: Track): Promise<void> {
    const head = await this.view(start, 12);
    if (!head) return;
    const table = tables[type];
    if (table) {
      const entries = head.getUint32(4);
      if (table.head + entries * table.entry > end - start) throw damaged(`its table “${type}” is larger than its box`);
      if (type === 'stsc') track.inChunk = await this.mostInChunk(start + table.head, entries);
      if (type === 'stts' || type === 'ctts') this.count(await this.samplesIn(start + table.head, entries), track);
    } else if (type === 'hdlr') {
      track.handler = String.fromCharCode(...[8, 9, 10, 11].map((byte) => head.getUint8(byte)));
    } else if (type === 'stsz' || type === 'stz2') {
      const samples = head.getUint32(8);
      const bits = type === 'stz2' ? head.getUint8(7) : head.getUint32(4) === 0 ? 32 : 0;
      if (12 + (samples * bits) / 8 > end - start) throw damaged(`its table “${type}” is larger than its box`);
      if (bits > 0) track.samples = samples;
      this.count(samples, track);
    } else if (type === 'trun') {
      // Samples of a fragment may be told by their number alone, all alike.
      const fields = [0x100, 0x200, 0x400, 0x800].filter((flag) => head.getUint32(0) & flag).length;
      const samples = head.getUint32(4);
      if (8 + samples * fields * 4 > end - start) throw damaged('a frame list is larger than its box');
      this.promised += samples;
      this.count(this.promised, {});
    }
  }

  private count(samples: number, { handler }: Track): void {
    // A sample has one byte at the least, or it is none.
    if (samples > this.bytes) {
      throw damaged(`it claims ${samples} frames, more than fit in ${this.bytes} bytes`);
    }
    if (handler === 'vide' && samples > this.most) {
      throw new RefusedMedia(`The file has ${samples} frames; the limit is ${this.most}. Split it into shorter files.`);
    }
  }

  // Where samples differ in size, whoever looks for one adds up the others of its chunk: a chunk cannot hold more than there are, nor
  // so many that looking for each takes longer than the file is large.
  private checkChunks({ samples = 0, inChunk = 0 }: Track): void {
    if (inChunk > Math.max(1, samples) && samples > 0)
      throw damaged(`it claims a chunk of ${inChunk} frames, of ${samples} in all`);
    if (samples * inChunk > CHUNK_WORK.base + CHUNK_WORK.perByte * this.bytes)
      throw new RefusedMedia(
        'The file keeps all its frames in one piece, which takes too long to read. Export it again from a program that plays it.',
      );
  }

  // Sum of the counts in a table of runs, each a count and a value.
  private async samplesIn(from: number, entries: number): Promise<number> {
    let sum = 0;
    await this.eachEntry(from, entries, 8, (view, offset) => (sum += view.getUint32(offset)));
    return sum;
  }

  // The largest of the numbers of samples in a table of chunks (8.7.4): first chunk, samples in each, description.
  private async mostInChunk(from: number, entries: number): Promise<number> {
    let most = 0;
    await this.eachEntry(from, entries, 12, (view, offset) => (most = Math.max(most, view.getUint32(offset + 4))));
    return most;
  }

  private async eachEntry(
    from: number,
    entries: number,
    size: number,
    use: (view: DataView, offset: number) => void,
  ): Promise<void> {
    const [end, step] = [from + entries * size, WINDOW - (WINDOW % size)];
    for (let at = from; at < end; at += step) {
      const part = await this.read(at, Math.min(at + step, end));
      const view = new DataView(part.buffer, part.byteOffset, part.byteLength);
      for (let offset = 0; offset + size <= part.byteLength; offset += size) use(view, offset);
    }
  }

  private async view(from: number, length: number): Promise<DataView | undefined> {
    let { from: start, bytes } = this.window;
    if (from < start || from + length > start + bytes.byteLength) {
      bytes = await this.read(from, Math.min(from + WINDOW, this.bytes));
      start = from;
      this.window = { from, bytes };
    }
    const offset = from - start;
    const there = bytes.subarray(offset, offset + length);
    // The last box of a file may be shorter than what is looked at; what is not there counts as zeros.
    if (there.byteLength < 8) return undefined;
    const joined = new Uint8Array(length);
    joined.set(there);
    return new DataView(joined.buffer);
  }
}
