import { PROXY_PIECE_FRAMES } from '@hastig/contract';
import type { Size } from '@hastig/core';
import type { VideoSample } from 'mediabunny';
import { FrameServer } from './frame-server';
import { KeptOpen, type Held } from './kept-open';
import type { ProxyLocation } from './location';
import { openMedia } from './open';
import type { PictureBudget } from './picture-budget';
import type { SourceFrames } from './source-frames';

/** Pieces kept open at once: the one being passed and those beside it. */
const MOST_OPEN = 3;

interface OpenPiece {
  server: FrameServer;
  close(): Promise<void>;
}

/**
 * The frames of a file, taken from its proxy where a piece of it is there and from the file itself elsewhere. A
 * piece that cannot be read is as good as not there.
 */
export class ProxyFrames implements SourceFrames {
  private bytes = new Map<number, number>();
  private fit: Size | null = null;
  private readonly pieces = new KeptOpen<number, OpenPiece>(MOST_OPEN);

  constructor(
    private readonly file: SourceFrames,
    private proxy: ProxyLocation,
    private readonly budget: PictureBudget,
  ) {
    this.use(proxy);
  }

  get frames(): number {
    return this.file.frames;
  }

  /** Says which pieces are there from now on. */
  use(proxy: ProxyLocation): void {
    this.proxy = proxy;
    this.bytes = new Map(proxy.pieces.map(({ piece, bytes }) => [piece, bytes]));
    for (const [piece] of this.pieces.all()) if (!this.bytes.has(piece)) void this.pieces.close(piece);
  }

  peek(frame: number): VideoSample | undefined {
    const piece = pieceOf(frame);
    if (!this.bytes.has(piece)) return this.file.peek(frame);
    return this.pieces.peek(piece)?.server.peek(frame - piece * PROXY_PIECE_FRAMES);
  }

  async get(frame: number, signal?: AbortSignal): Promise<VideoSample> {
    const piece = pieceOf(frame);
    if (frame >= 0 && frame < this.frames && this.bytes.has(piece)) {
      try {
        const { server } = await this.opened(piece).opening;
        return await server.get(frame - piece * PROXY_PIECE_FRAMES, signal);
      } catch (error) {
        if (signal?.aborted) throw error;
        this.bytes.delete(piece);
        void this.pieces.close(piece);
      }
    }
    return this.file.get(frame, signal);
  }

  prefetch(frames: readonly number[], direction: 1 | -1, passing = false): void {
    const wanted = new Map<number, number[]>();
    const stored: number[] = [];
    for (const frame of frames) {
      const piece = pieceOf(frame);
      if (!this.bytes.has(piece)) {
        stored.push(frame);
        continue;
      }
      const inPiece = wanted.get(piece) ?? [];
      inPiece.push(frame - piece * PROXY_PIECE_FRAMES);
      wanted.set(piece, inPiece);
    }
    this.file.prefetch(stored, direction, passing);
    for (const [piece, inPiece] of wanted) {
      const { open, opening } = this.opened(piece);
      if (open) open.server.prefetch(inPiece, direction, passing);
      // Told of by `get`, which falls back on the file.
      else opening.then(({ server }) => server.prefetch(inPiece, direction, passing)).catch(() => undefined);
    }
    for (const [piece, { open }] of this.pieces.all()) if (!wanted.has(piece)) open?.server.rest();
  }

  group(frame: number): { start: number; end: number } {
    const piece = pieceOf(frame);
    const open = this.bytes.has(piece) ? this.pieces.peek(piece) : undefined;
    if (!open) return this.file.group(frame);
    const first = piece * PROXY_PIECE_FRAMES;
    const { start, end } = open.server.group(frame - first);
    return { start: first + start, end: first + end };
  }

  fitTo(fit: Size | null): void {
    this.fit = fit;
    this.file.fitTo(fit);
    for (const [, { open }] of this.pieces.all()) open?.server.fitTo(fit);
  }

  rest(): void {
    this.file.rest();
    for (const [, { open }] of this.pieces.all()) open?.server.rest();
  }

  async close(): Promise<void> {
    await this.pieces.closeAll();
    await this.file.close();
  }

  private opened(piece: number): Held<OpenPiece> {
    return this.pieces.use(piece) ?? this.pieces.add(piece, this.open(piece));
  }

  private async open(piece: number): Promise<OpenPiece> {
    const media = await openMedia({ url: `${this.proxy.url}/${piece}`, bytes: this.bytes.get(piece)! });
    const { track, index, facts } = media.picture!;
    const server = new FrameServer(track, index, facts, this.budget);
    server.fitTo(this.fit);
    return {
      server,
      close: async () => {
        await server.close();
        media.dispose();
      },
    };
  }
}

const pieceOf = (frame: number): number => Math.floor(frame / PROXY_PIECE_FRAMES);
