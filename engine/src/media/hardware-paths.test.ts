import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { probeMedia, type ProbedMedia } from '@hastig/probe';
import { BufferSource, type VideoSample } from 'mediabunny';
import { hardware, lent, standIn, turns } from '../../test/hardware-decoder';
import { FrameServer } from './frame-server';
import { PictureBudget } from './picture-budget';

/** Frames, the decoder's and copies, that nobody has closed. */
let open = 0;

/** Stands for the browser's frames. */
class Frame {
  readonly format = 'I420';
  readonly timestamp: number;
  readonly duration = null;
  readonly codedWidth: number;
  readonly codedHeight: number;
  readonly colorSpace = { toJSON: () => ({}) };
  private closed = false;

  constructor(
    _data: unknown,
    init: { timestamp: number; codedWidth: number; codedHeight: number },
    private readonly onClose: () => void = () => undefined,
  ) {
    open++;
    this.timestamp = init.timestamp;
    this.codedWidth = init.codedWidth;
    this.codedHeight = init.codedHeight;
  }
  get displayWidth() {
    return this.codedWidth;
  }
  get displayHeight() {
    return this.codedHeight;
  }
  get visibleRect() {
    return { x: 0, y: 0, width: this.codedWidth, height: this.codedHeight };
  }
  clone(): Frame {
    return new Frame(null, this);
  }
  // As reading back from hardware does, it takes a while.
  copyTo = (): Promise<void> => turns(1);
  close(): void {
    if (this.closed) return;
    this.closed = true;
    open--;
    this.onClose();
  }
}

class Chunk {
  readonly timestamp: number;
  constructor(init: { timestamp: number }) {
    this.timestamp = init.timestamp;
  }
}

const SIZE = { codedWidth: 320, codedHeight: 180 };
const file = join(__dirname, '../../../e2e/fixtures/plates-b-frames.mp4');
const FRAMES = 144;

/** A source of 144 frames, in groups of 48 with B-frames, over a hardware decoder. */
async function serve(habits: (typeof hardware)[number][1]): Promise<{ server: FrameServer; media: ProbedMedia }> {
  const makeFrame = (timestamp: number, close: () => void) =>
    new Frame(null, { timestamp, ...SIZE }, close) as unknown as VideoFrame;
  Object.assign(globalThis, {
    VideoFrame: Frame,
    EncodedVideoChunk: Chunk,
    VideoDecoder: standIn(habits, makeFrame),
  });
  const bytes = await readFile(file);
  const media = await probeMedia(new BufferSource(bytes), bytes.length, async (from, to) => bytes.subarray(from, to));
  const { track, index, facts } = media.picture!;
  return { server: new FrameServer(track, index, facts, new PictureBudget(2 ** 22)), media };
}

const frameOf = (sample: VideoSample): number => Math.round(sample.timestamp * 24);

async function get(server: FrameServer, frame: number): Promise<number> {
  const sample = await server.get(frame);
  const found = frameOf(sample);
  sample.close();
  return found;
}

/** Waits for a frame as play does: it looks whether it is there. */
async function peek(server: FrameServer, frame: number): Promise<number> {
  for (let look = 0; look < 20_000; look++) {
    const sample = server.peek(frame);
    if (sample) return frameOf(sample);
    await turns(1);
  }
  throw new Error(`frame ${frame} never came`);
}

const range = (from: number, count: number, step: number): number[] =>
  Array.from({ length: count }, (_, n) => from + n * step).filter((frame) => frame >= 0 && frame < FRAMES);

/** The ways in which frames of a source are taken. */
const paths: Readonly<Record<string, (server: FrameServer) => Promise<void>>> = {
  'play at 100% and at 300%': async (server) => {
    for (const step of [1, 3]) {
      for (let frame = 0; frame < FRAMES; frame += step) {
        server.prefetch(range(frame, 24, step), 1, true);
        expect(await peek(server, frame)).toBe(frame);
      }
    }
  },
  'play backwards': async (server) => {
    for (let frame = FRAMES - 1; frame >= 0; frame--) {
      server.prefetch(range(frame, 24, -1), -1, true);
      expect(await peek(server, frame)).toBe(frame);
    }
  },
  'drag to and fro, giving up on what is overtaken': async (server) => {
    for (const frame of [5, 100, 99, 98, 20, 143, 0, 47, 48, 49, 95]) {
      const stop = new AbortController();
      const overtaken = server.get((frame + 60) % FRAMES, stop.signal).then(
        (sample) => sample.close(),
        () => undefined,
      );
      await turns(3);
      stop.abort();
      server.prefetch([frame, Math.min(frame + 1, FRAMES - 1), Math.max(frame - 1, 0)], 1);
      expect(await get(server, frame)).toBe(frame);
      await overtaken;
    }
  },
  'small pictures': async (server) => {
    server.fitTo({ width: 80, height: 40 });
    for (const frame of [0, 48, 96, 70, 12]) expect(await get(server, frame)).toBe(frame);
  },
  'a proxy': async (server) => {
    for (let frame = 0; frame < FRAMES; frame++) {
      server.prefetch(range(frame, 8, 1), 1);
      expect(await get(server, frame)).toBe(frame);
    }
  },
  'a render at 250%': async (server) => {
    for (let n = 0; n * 2.5 < FRAMES; n++) {
      const ahead = Array.from({ length: 12 }, (_, k) => Math.floor((n + k) * 2.5)).filter((frame) => frame < FRAMES);
      server.prefetch(ahead, 1, true);
      expect(await get(server, ahead[0]!)).toBe(ahead[0]);
    }
  },
};

describe.each(hardware)('over a hardware decoder: %s', (_, habits) => {
  it.each(Object.keys(paths))('%s: every frame comes, with four of the decoder’s at most', async (path) => {
    Object.assign(lent, { now: 0, most: 0 });
    open = 0;
    const { server, media } = await serve(habits);
    await paths[path]!(server);
    await server.close();
    media.dispose();
    for (let wait = 0; wait < 500 && lent.now > 0; wait++) await turns(1);
    expect(lent.most).toBeGreaterThan(0);
    expect(lent.most).toBeLessThanOrEqual(4);
    expect([lent.now, open]).toEqual([0, 0]);
  });
});
