import type { FrameIndex } from '@hastig/probe';
import type { InputVideoTrack } from 'mediabunny';
import { valveOf } from './decoding/valve';
import { FrameServer } from './frame-server';
import { PictureBudget } from './picture-budget';

/** Stands for the decoder: yields frames from a moment on, counts what is open, and leaves out damaged frames. */
const mockDecoder = { opened: [] as number[], open: 0, damaged: new Set<number>(), frames: 60, copied: [] as number[] };
const mockValveOf = valveOf;

class MockSample {
  closed = false;
  readonly codedWidth = 10;
  readonly codedHeight = 10;

  constructor(readonly timestamp: number) {
    mockDecoder.open++;
  }

  get frame(): number {
    return Math.round(this.timestamp * 25);
  }

  clone(): MockSample {
    return new MockSample(this.timestamp);
  }

  close(): void {
    if (this.closed) throw new Error('closed twice');
    this.closed = true;
    mockDecoder.open--;
  }
}

jest.mock('mediabunny', () => ({
  VideoSampleSink: class {
    track: InputVideoTrack;

    constructor(mockTrack: InputVideoTrack) {
      this.track = mockTrack;
    }

    async *samples(start: number): AsyncGenerator<MockSample> {
      const first = Math.round(start * 25);
      mockDecoder.opened.push(first);
      const valve = mockValveOf((await this.track.getDecoderConfig())!)!;
      for (let frame = first; frame < mockDecoder.frames; frame++) {
        await Promise.resolve();
        if (valve.wants(Math.floor((frame / 25) * 1e6))) mockDecoder.copied.push(frame);
        if (!mockDecoder.damaged.has(frame)) yield new MockSample(frame / 25);
      }
    }
  },
}));

const index: FrameIndex = {
  timestamps: Float64Array.from({ length: 60 }, (_, frame) => frame / 25),
  groupStarts: Uint32Array.from([0, 20, 40]),
  lastDuration: 0.04,
};

const size = { width: 10, height: 10 };
const serve = (budget = 2 ** 20): FrameServer => {
  const track = { getDecoderConfig: () => Promise.resolve({}) } as unknown as InputVideoTrack;
  return new FrameServer(track, index, size, new PictureBudget(budget));
};
const settled = async (turns = 600): Promise<void> => {
  for (let turn = 0; turn < turns; turn++) await Promise.resolve();
};

async function frameOf(server: FrameServer, frame: number): Promise<number> {
  const sample = (await server.get(frame)) as unknown as MockSample;
  const found = sample.frame;
  sample.close();
  return found;
}

beforeEach(() => {
  mockDecoder.opened = [];
  mockDecoder.open = 0;
  mockDecoder.damaged = new Set();
  mockDecoder.frames = 60;
  mockDecoder.copied = [];
});

describe('the frame server', () => {
  it('hands over any frame, reading from the start of its group', async () => {
    const server = serve();
    for (const frame of [47, 3, 25, 0, 59]) expect(await frameOf(server, frame)).toBe(frame);
    expect(mockDecoder.opened).toEqual([40, 0, 20, 40]);
    await server.close();
  });

  it('reads on instead of starting anew when frames are asked for in order', async () => {
    const server = serve();
    for (let frame = 0; frame < 60; frame++) expect(await frameOf(server, frame)).toBe(frame);
    expect(mockDecoder.opened).toEqual([0]);
    await server.close();
  });

  it('decodes the group before in one go when played backwards', async () => {
    const server = serve();
    for (let frame = 59; frame >= 0; frame--) {
      server.prefetch(
        [frame, frame - 1, frame - 2].filter((one) => one >= 0),
        -1,
      );
      expect(await frameOf(server, frame)).toBe(frame);
    }
    expect(mockDecoder.opened).toEqual([40, 20, 0]);
    await server.close();
  });

  it('goes straight to what is wanted when a wish is taken back', async () => {
    const server = serve();
    const stop = new AbortController();
    const wish = server.get(59, stop.signal);
    await Promise.resolve();
    stop.abort(new Error('not wanted any more'));
    await expect(wish).rejects.toThrow('not wanted any more');
    expect(await frameOf(server, 2)).toBe(2);
    // Of the group that 59 lies in, nothing was decoded to its end.
    expect(server.peek(59)).toBeUndefined();
    await server.close();
    expect(mockDecoder.open).toBe(0);
  });

  it('has what was announced ready at once', async () => {
    const server = serve();
    server.prefetch([10, 11, 12, 13], 1);
    await settled();
    expect([10, 11, 12, 13].map((frame) => (server.peek(frame) as unknown as MockSample).frame)).toEqual([
      10, 11, 12, 13,
    ]);
    expect(server.peek(14)).toBeUndefined();
    await server.close();
  });

  it('copies only what is looked at where something is passed, both ways', async () => {
    const server = serve();
    server.prefetch([20, 23, 26, 29], 1, true);
    await settled();
    expect(mockDecoder.copied).toEqual([20, 23, 26, 29]);
    server.prefetch([19, 15, 11], -1, true);
    await settled();
    // What lies before may be wanted next.
    expect(mockDecoder.copied.slice(4)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11, 15, 19]);
    await server.close();
    expect(mockDecoder.open).toBe(0);
  });

  it('has what it passed when somebody asks for it after all', async () => {
    const server = serve();
    server.prefetch([20, 30], 1, true);
    await settled();
    expect(server.peek(24)).toBeUndefined();
    expect(await frameOf(server, 24)).toBe(24);
    expect(server.peek(30)).toBeDefined();
    await server.close();
  });

  it('gives what is asked for before what was announced', async () => {
    const server = serve();
    server.prefetch([5, 6, 7, 8, 9, 10, 11, 12, 13, 14, 15], 1);
    expect(await frameOf(server, 45)).toBe(45);
    expect(mockDecoder.opened.at(-1)).toBe(40);
    await server.close();
  });

  it('serves many who wait for the same frame, and stays within its room', async () => {
    const server = serve(10 * 150);
    expect(await Promise.all([30, 30, 30].map((frame) => frameOf(server, frame)))).toEqual([30, 30, 30]);
    for (let frame = 0; frame < 60; frame++) await frameOf(server, frame);
    expect(mockDecoder.open).toBeLessThanOrEqual(10);
    await server.close();
  });

  it('says which frame is damaged, and goes on with the others', async () => {
    mockDecoder.damaged.add(23);
    const server = serve();
    await expect(server.get(23)).rejects.toThrow('Frame 23 can’t be decoded');
    expect(await frameOf(server, 24)).toBe(24);
    await server.close();
  });

  it('says when the file ends early, and refuses frames that do not exist', async () => {
    mockDecoder.frames = 50;
    const server = serve();
    await expect(server.get(55)).rejects.toThrow('ended before frame 55');
    expect(await frameOf(server, 41)).toBe(41);
    await expect(server.get(60)).rejects.toThrow(RangeError);
    await expect(server.get(-1)).rejects.toThrow('outside 0…59');
    await server.close();
  });

  it('leaves no frame open when it is closed, and whoever waits is told', async () => {
    const server = serve();
    await frameOf(server, 12);
    const waiting = server.get(58);
    const refused = expect(waiting).rejects.toThrow('closed');
    await server.close();
    await refused;
    await settled();
    expect(mockDecoder.open).toBe(0);
  });
});

it('of another size than is wanted by now is of use to whoever waits, and is not kept', async () => {
  const server = serve();
  const waiting = server.get(0);
  while (mockDecoder.opened.length === 0) await Promise.resolve();
  server.fitTo({ width: 5, height: 5 });
  (await waiting).close();
  expect(server.peek(0)).toBeUndefined();
  await server.close();
  expect(mockDecoder.open).toBe(0);
});

it('is refused by a server that is closed, at once', async () => {
  const server = serve();
  await server.close();
  await expect(server.get(5)).rejects.toThrow('closed');
});
