import { COPY_PIECE_FRAMES } from '@hastig/contract';
import type { VideoSample } from 'mediabunny';
import { FrameServer } from './frame-server';
import { openMedia, type CopyLocation } from './open';
import type { SourceFrames } from './source-frames';

/** Pieces kept open at once: the one being passed and those beside it. */
const MOST_OPEN = 3;
/** Bytes of decoded pictures that one piece may keep: a few hundred of a copy's size. */
const BUDGET = 96 * 2 ** 20;

interface OpenPiece {
  server: FrameServer;
  close(): Promise<void>;
}

interface Piece {
  opening: Promise<OpenPiece>;
  open: OpenPiece | undefined;
}

/**
 * The frames of a file, taken from its scrubbing copy where a piece of it is there and from the file itself elsewhere. A
 * piece that cannot be read is as good as not there.
 */
export class CopiedFrames implements SourceFrames {
  private bytes = new Map<number, number>();
  // In the order of their last use.
  private readonly pieces = new Map<number, Piece>();

  constructor(
    private readonly file: SourceFrames,
    private copy: CopyLocation,
  ) {
    this.use(copy);
  }

  get frames(): number {
    return this.file.frames;
  }

  /** Says which pieces are there from now on. */
  use(copy: CopyLocation): void {
    this.copy = copy;
    this.bytes = new Map(copy.pieces.map(({ piece, bytes }) => [piece, bytes]));
    for (const piece of [...this.pieces.keys()]) if (!this.bytes.has(piece)) void this.drop(piece);
  }

  peek(frame: number): VideoSample | undefined {
    const piece = pieceOf(frame);
    if (!this.bytes.has(piece)) return this.file.peek(frame);
    return this.pieces.get(piece)?.open?.server.peek(frame - piece * COPY_PIECE_FRAMES);
  }

  async get(frame: number, signal?: AbortSignal): Promise<VideoSample> {
    const piece = pieceOf(frame);
    if (frame >= 0 && frame < this.frames && this.bytes.has(piece)) {
      try {
        const { server } = await this.opened(piece).opening;
        return await server.get(frame - piece * COPY_PIECE_FRAMES, signal);
      } catch (error) {
        if (signal?.aborted) throw error;
        this.bytes.delete(piece);
        void this.drop(piece);
      }
    }
    return this.file.get(frame, signal);
  }

  prefetch(frames: readonly number[], direction: 1 | -1): void {
    const wanted = new Map<number, number[]>();
    const stored: number[] = [];
    for (const frame of frames) {
      const piece = pieceOf(frame);
      if (!this.bytes.has(piece)) {
        stored.push(frame);
        continue;
      }
      const inPiece = wanted.get(piece) ?? [];
      inPiece.push(frame - piece * COPY_PIECE_FRAMES);
      wanted.set(piece, inPiece);
    }
    this.file.prefetch(stored, direction);
    for (const [piece, inPiece] of wanted) {
      const { open, opening } = this.opened(piece);
      if (open) open.server.prefetch(inPiece, direction);
      // Told of by `get`, which falls back on the file.
      else opening.then(({ server }) => server.prefetch(inPiece, direction)).catch(() => undefined);
    }
    for (const [piece, { open }] of this.pieces) if (!wanted.has(piece)) open?.server.rest();
  }

  group(frame: number): { start: number; end: number } {
    const piece = pieceOf(frame);
    const open = this.bytes.has(piece) ? this.pieces.get(piece)?.open : undefined;
    if (!open) return this.file.group(frame);
    const first = piece * COPY_PIECE_FRAMES;
    const { start, end } = open.server.group(frame - first);
    return { start: first + start, end: first + end };
  }

  rest(): void {
    this.file.rest();
    for (const { open } of this.pieces.values()) open?.server.rest();
  }

  async close(): Promise<void> {
    await Promise.all([...this.pieces.keys()].map((piece) => this.drop(piece)));
    await this.file.close();
  }

  private opened(piece: number): Piece {
    const known = this.pieces.get(piece);
    if (known) {
      this.pieces.delete(piece);
      this.pieces.set(piece, known);
      return known;
    }
    const opening = openPiece(`${this.copy.url}/${piece}`, this.bytes.get(piece)!);
    const made: Piece = { opening, open: undefined };
    this.pieces.set(piece, made);
    opening.then(
      (open) => (made.open = open),
      () => undefined,
    );
    if (this.pieces.size > MOST_OPEN) void this.drop(this.pieces.keys().next().value!);
    return made;
  }

  private async drop(piece: number): Promise<void> {
    const entry = this.pieces.get(piece);
    this.pieces.delete(piece);
    await entry?.opening.then(
      (open) => open.close(),
      () => undefined,
    );
  }
}

const pieceOf = (frame: number): number => Math.floor(frame / COPY_PIECE_FRAMES);

async function openPiece(url: string, bytes: number): Promise<OpenPiece> {
  const media = await openMedia({ url, bytes });
  const server = new FrameServer(media.video, media.index, BUDGET);
  return {
    server,
    close: async () => {
      await server.close();
      media.dispose();
    },
  };
}
