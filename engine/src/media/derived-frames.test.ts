import { PROXY_PIECE_FRAMES } from '@hastig/contract';
import type { VideoSample } from 'mediabunny';
import { ProxyFrames } from './proxy-frames';
import { PictureBudget } from './picture-budget';
import { FieldFrames } from './field-frames';
import type { SourceFrames } from './source-frames';

/** Open pictures, so that none is left behind; and what was asked of whom. */
const mockOpen = { count: 0 };
const asked: string[] = [];
const mockBroken = new Set<string>();

/** A picture of four lines, all of one brightness: `frame` in the top field's lines, `frame + 100` in the bottom's. */
class MockSample {
  readonly format = 'I420';
  readonly visibleRect = { left: 0, top: 0, width: 2, height: 4 };
  readonly codedWidth = 2;
  readonly codedHeight = 4;
  closed = false;
  readonly lines: number[];

  constructor(
    readonly from: string | Uint8Array,
    frame = 0,
  ) {
    mockOpen.count++;
    this.lines =
      typeof from === 'string' ? [frame, frame + 100, frame, frame + 100] : [0, 2, 4, 6].map((place) => from[place]!);
  }

  clone(): MockSample {
    mockOpen.count++;
    return Object.assign(Object.create(MockSample.prototype) as MockSample, this, { closed: false });
  }

  allocationSize(): number {
    return 12;
  }

  async copyTo(bytes: Uint8Array): Promise<{ offset: number; stride: number }[]> {
    await Promise.resolve();
    this.lines.forEach((value, line) => bytes.fill(value, line * 2, line * 2 + 2));
    bytes.fill(128, 8);
    return [
      { offset: 0, stride: 2 },
      { offset: 8, stride: 1 },
      { offset: 10, stride: 1 },
    ];
  }

  close(): void {
    if (this.closed) throw new Error('closed twice');
    this.closed = true;
    mockOpen.count--;
  }
}

class FakeFrames {
  closed = false;
  rested = 0;

  constructor(
    readonly name: string,
    readonly frames: number,
  ) {}

  peek(): undefined {
    return undefined;
  }

  async get(frame: number): Promise<MockSample> {
    asked.push(`${this.name}:${frame}`);
    await Promise.resolve();
    if (mockBroken.has(this.name)) throw new Error('cannot be decoded');
    return new MockSample(this.name, frame);
  }

  prefetch(frames: readonly number[]): void {
    if (frames.length > 0) asked.push(`${this.name}>${frames.join(',')}`);
  }

  group(frame: number): { start: number; end: number } {
    return { start: frame - (frame % 10), end: frame - (frame % 10) + 10 };
  }

  fitTo(): void {}

  rest(): void {
    this.rested++;
  }

  async close(): Promise<void> {
    await Promise.resolve();
    this.closed = true;
  }
}

const mockFakeFrames = FakeFrames;
const mockSample = MockSample;

jest.mock('mediabunny', () => ({
  VideoSample: class {
    constructor(bytes: Uint8Array) {
      return new mockSample(bytes);
    }
  },
}));
jest.mock('./open', () => ({
  openMedia: async ({ url }: { url: string }) => {
    await Promise.resolve();
    return { picture: { track: { url }, index: {}, facts: {} }, dispose: () => undefined };
  },
}));
jest.mock('./frame-server', () => ({
  FrameServer: class {
    constructor({ url }: { url: string }) {
      return new mockFakeFrames(url, 600);
    }
  },
}));

const file = (frames = 1500) => new FakeFrames('file', frames);
const asFrames = (fake: FakeFrames): SourceFrames => fake as unknown as SourceFrames;
const linesOf = (sample: VideoSample): number[] => (sample as unknown as MockSample).lines;
const settled = async (): Promise<void> => {
  for (let turn = 0; turn < 50; turn++) await Promise.resolve();
};

beforeEach(() => {
  asked.length = 0;
  mockBroken.clear();
  mockOpen.count = 0;
});

async function linesAt(frames: FieldFrames, frame: number): Promise<number[]> {
  const sample = await frames.get(frame);
  const lines = linesOf(sample);
  sample.close();
  return lines;
}

describe('frames made of fields', () => {
  it('shows each field as a frame, in the order that is chosen, also when that is changed', async () => {
    const frames = new FieldFrames(asFrames(file(50)), { use: 'both', first: 'top' }, new PictureBudget(2 ** 20));
    expect(frames.frames).toBe(100);
    expect(await linesAt(frames, 6)).toEqual([3, 3, 3, 3]);
    expect(await linesAt(frames, 7)).toEqual([103, 103, 103, 103]);
    frames.take({ use: 'both', first: 'bottom' });
    expect(await linesAt(frames, 6)).toEqual([103, 103, 103, 103]);
    frames.take({ use: 'woven', first: 'top' });
    expect(await linesAt(frames, 6)).toEqual([6, 106, 6, 106]);
    expect(frames.group(14)).toEqual({ start: 10, end: 20 });
    await frames.close();
    expect(mockOpen.count).toBe(0);
  });

  it('makes what is announced ahead, so that it is there to be drawn', async () => {
    const source = file(50);
    const frames = new FieldFrames(asFrames(source), { use: 'both', first: 'top' }, new PictureBudget(2 ** 20));
    frames.prefetch([4, 5, 6], 1);
    expect(asked[0]).toBe('file>2,3');
    await settled();
    expect(linesOf(frames.peek(5)!)).toEqual([102, 102, 102, 102]);
    expect(frames.peek(7)).toBeUndefined();
    expect(frames.group(5)).toEqual({ start: 0, end: 20 });
    frames.rest();
    expect(frames.peek(5)).toBeUndefined();
    expect(source.rested).toBe(1);
    await frames.close();
    expect(mockOpen.count).toBe(0);
  });

  it('made by a way that was changed under way is given to whoever asked, and held by nobody', async () => {
    const frames = new FieldFrames(asFrames(file(50)), { use: 'both', first: 'top' }, new PictureBudget(2 ** 20));
    for (const first of ['bottom', 'top', 'bottom'] as const) {
      const making = frames.get(4);
      frames.take({ use: 'both', first });
      (await making).close();
      expect(frames.peek(4)).toBeUndefined();
    }
    await frames.close();
    expect(mockOpen.count).toBe(0);
  });

  it('tells a fault to whoever asks for the frame, not to whoever announces it', async () => {
    mockBroken.add('file');
    const frames = new FieldFrames(asFrames(file(50)), { use: 'first', first: 'top' }, new PictureBudget(2 ** 20));
    frames.prefetch([4, 5], 1);
    await settled();
    await expect(frames.get(4)).rejects.toThrow('cannot be decoded');
    await frames.close();
  });
});

describe('frames of a proxy', () => {
  const copy = (...pieces: number[]) => ({ url: 'copy', pieces: pieces.map((piece) => ({ piece, bytes: 9 })) });
  const get = async (frames: ProxyFrames, frame: number): Promise<void> => (await frames.get(frame)).close();

  it('come from the pieces that are there, and from the file elsewhere', async () => {
    const frames = new ProxyFrames(asFrames(file()), copy(1), new PictureBudget(2 ** 20));
    expect(frames.frames).toBe(1500);
    await get(frames, 3);
    await get(frames, PROXY_PIECE_FRAMES + 3);
    await get(frames, 2 * PROXY_PIECE_FRAMES + 3);
    expect(asked).toEqual(['file:3', 'copy/1:3', `file:${2 * PROXY_PIECE_FRAMES + 3}`]);
    asked.length = 0;
    frames.prefetch([598, 599, 600, 601], 1);
    await settled();
    expect(asked).toEqual(['file>598,599', 'copy/1>0,1']);
    expect(frames.group(625)).toEqual({ start: 620, end: 630 });
    frames.use(copy(0, 1));
    asked.length = 0;
    await get(frames, 3);
    expect(asked).toEqual(['copy/0:3']);
    await frames.close();
    expect(mockOpen.count).toBe(0);
  });

  it('come from the file where a piece cannot be read, from then on', async () => {
    mockBroken.add('copy/0');
    const frames = new ProxyFrames(asFrames(file()), copy(0), new PictureBudget(2 ** 20));
    await get(frames, 7);
    await get(frames, 8);
    expect(asked).toEqual(['copy/0:7', 'file:7', 'file:8']);
    await frames.close();
  });

  it('come from the file again when the copy is taken away', async () => {
    const frames = new ProxyFrames(asFrames(file()), copy(0, 1, 2), new PictureBudget(2 ** 20));
    await get(frames, 1499);
    frames.use(copy());
    asked.length = 0;
    await get(frames, 1499);
    expect(asked).toEqual(['file:1499']);
    await frames.close();
  });
});
