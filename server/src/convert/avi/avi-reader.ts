import { open, type FileHandle } from 'node:fs/promises';
import { chunksOf, PieceReader, type Chunk } from './chunks';

/** What a stream's head says: "AVI RIFF File Reference", AVISTREAMHEADER. */
export interface AviStream {
  kind: string;
  /** Seconds that a piece lasts, and at which the first begins. */
  scale: number;
  rate: number;
  start: number;
  pieces: number;
  coding: string;
  /** What stands before the first picture. */
  extra: Buffer;
}

/** Bytes of a stream's head, and of a picture's that what belongs to its coding follows. */
const [STREAM_HEAD, PICTURE_HEAD] = [36, 40];
/** What start codes of MPEG begin with. */
const PREFIX = Buffer.from([0, 0, 1]);
/** More than a picture takes. */
const MOST_BYTES = 2 ** 27;

function streamOf(head: Buffer): AviStream {
  const [scale, rate, start, pieces] = [20, 24, 28, 32].map((at) => head.readUInt32LE(at));
  return { kind: head.toString('latin1', 0, 4), scale: scale!, rate: rate!, start: start!, pieces: pieces!, coding: '', extra: Buffer.alloc(0) }; // prettier-ignore
}

/** A piece of a video. */
interface AviPiece {
  bytes: () => Promise<Buffer>;
  isEmpty: boolean;
}

/** Reads an AVI once. */
export class AviReader {
  readonly streams: AviStream[] = [];
  private readonly reader: PieceReader;

  constructor(
    file: FileHandle,
    private readonly bytes: number,
    signal?: AbortSignal,
  ) {
    this.reader = new PieceReader(file, signal);
  }

  get video(): AviStream | undefined {
    return this.streams.find(({ kind, rate, scale }) => kind === 'vids' && rate > 0 && scale > 0);
  }

  get sound(): AviStream | undefined {
    return this.streams.find(({ kind }) => kind === 'auds');
  }

  async isAvi(): Promise<boolean> {
    const head = await this.reader.bytes(0, 12);
    return head.toString('latin1', 0, 4) === 'RIFF' && head.toString('latin1', 8, 12) === 'AVI ';
  }

  /** The pieces of its first video; where one is cut off it is left out. */
  async *pieces(): AsyncGenerator<AviPiece> {
    for await (const chunk of chunksOf(this.reader, this.bytes)) {
      const { name, from, to } = chunk;
      if (name === 'strh' || name === 'strf') await this.hear(chunk);
      else if (/^\d\d(dc|db)$/.test(name) && to <= this.bytes && to - from <= MOST_BYTES) {
        const { video } = this;
        if (video && this.streams[Number(name.slice(0, 2))] === video)
          yield { isEmpty: to === from, bytes: () => this.reader.bytes(from, to - from) };
      }
    }
  }

  private async hear({ name, from, to }: Chunk): Promise<void> {
    const head = await this.reader.bytes(from, Math.min(to - from, 2 ** 16));
    const stream = this.streams.at(-1);
    if (name === 'strh' && head.length >= STREAM_HEAD) this.streams.push(streamOf(head));
    else if (name === 'strf' && stream?.kind === 'vids' && head.length >= PICTURE_HEAD) {
      stream.coding = head.toString('latin1', 16, 20).toUpperCase();
      const extra = head.subarray(PICTURE_HEAD);
      // Others write what is of no use there.
      if (extra.includes(PREFIX)) stream.extra = Buffer.from(extra);
    }
  }
}

/** An AVI, which is closed when no more is wanted; nothing for another file. An aborted signal throws its reason. */
export async function* openAvi(path: string, signal?: AbortSignal): AsyncGenerator<AviReader> {
  const file = await open(path);
  try {
    const avi = new AviReader(file, (await file.stat()).size, signal);
    if (await avi.isAvi()) yield avi;
  } finally {
    await file.close();
  }
}
