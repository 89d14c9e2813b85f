import { constantSpan, makeRate, mapProgram, type Program } from '@hastig/core';
import type { SourceLocations } from '../media/source-pool';
import { wallTime } from './clock';
import type { StageEvents } from './stage-events';
import { StageWorker } from './stage-worker';

/** What the fake sources give, and what was asked of them. */
const mockSource = {
  asked: [] as string[],
  /** Frames whose picture is held back until it is let go. */
  held: new Map<number, () => void>(),
  hold: new Set<number>(),
  broken: new Set<number>(),
  open: 0,
  copy: false,
  located: 0,
  /** Whether frames are ready before they are asked for, as while playing. */
  ready: false,
};

function mockSample(name: string): object {
  mockSource.open++;
  return {
    ...{ name, displayWidth: 64, displayHeight: 36, draw: () => undefined },
    clone: () => mockSample(name),
    close: () => mockSource.open--,
  };
}

function mockFrames(name: string) {
  return {
    frames: 100,
    peek: (frame: number) => (mockSource.ready ? { ...mockSample(name + frame), shown: mockSource.open-- } : undefined),
    get: (frame: number, signal?: AbortSignal) => {
      mockSource.asked.push(`${name}${frame}`);
      return new Promise((resolve, reject) => {
        signal?.addEventListener('abort', () => reject(signal.reason as Error));
        const give = (): void => resolve(mockSample(name + frame));
        if (mockSource.broken.has(frame)) reject(new Error(`frame ${frame} is damaged`));
        else if (mockSource.hold.has(frame)) mockSource.held.set(frame, give);
        else give();
      });
    },
  };
}

jest.mock('../media/source-pool', () => ({
  SourcePool: class {
    private readonly exact = mockFrames('f');
    fitTo = (): void => undefined;
    private readonly quick = mockFrames('copy');
    locate = () => Promise.resolve(void mockSource.located++);
    get = () => Promise.resolve({ exact: this.exact, frames: mockSource.copy ? this.quick : this.exact });
    ready = () => (mockSource.ready ? { exact: this.exact, frames: this.exact } : undefined);
    prefetch = () => undefined;
    close = () => Promise.resolve();
  },
}));

const map = (frames: number, start = 0) => ({
  sourceRate: makeRate(24),
  outputRate: makeRate(24),
  sourceFrames: 100,
  start,
  spans: [constantSpan(1, frames)],
});
const program = (frames = 50, start = 0): Program => mapProgram(map(frames, start), 'a');
const sources: SourceLocations = { a: { url: 'a', bytes: 1 } };

let told: string[];
let drawn: number;
let worker: StageWorker;

beforeEach(() => {
  jest.useFakeTimers();
  Object.assign(mockSource, {
    asked: [],
    held: new Map(),
    hold: new Set(),
    broken: new Set(),
    open: 0,
    copy: false,
    located: 0,
    ready: false,
  });
  told = [];
  drawn = 0;
  worker = new StageWorker();
  const context = {
    canvas: { width: 64, height: 36 },
    fillStyle: '',
    fillRect: () => undefined,
    drawImage: () => undefined,
  };
  const canvas = { width: 64, height: 36, getContext: () => ((drawn += 1), context) };
  const events: StageEvents = {
    frame: (frame) => told.push(`frame ${frame}`),
    ended: () => told.push('ended'),
    fault: (message) => told.push(`fault: ${message}`),
    made: () => told.push('made'),
    ready: () => undefined,
    draft: (on) => told.push(on ? 'draft' : 'as made'),
  };
  worker.attach(canvas as unknown as OffscreenCanvas, events);
});
afterEach(() => jest.useRealTimers());

const turns = async (): Promise<void> => {
  for (let turn = 0; turn < 40; turn++) await Promise.resolve();
};

describe('the stage at rest', () => {
  it('shows the source frame that the program has there', async () => {
    await worker.setProgram(program(50, 10), sources);
    await worker.show(5);
    expect(mockSource.asked).toEqual(['f10', 'f15']);
    expect(told).toEqual(['frame 0', 'frame 5']);
    expect(mockSource.open).toBe(0);
  });

  it('draws nothing anew where another program shows the same picture', async () => {
    await worker.setProgram(program(50), sources);
    await worker.show(5);
    const before = drawn;
    await worker.setProgram(program(40), null);
    expect(drawn).toBe(before);
    expect(mockSource.asked).toEqual(['f0', 'f5']);
    expect(told.at(-1)).toBe('frame 5');
    // Sources that lie elsewhere may show something else.
    await worker.setProgram(program(40), sources);
    expect(mockSource.asked.at(-1)).toBe('f5');
    expect(mockSource.asked).toHaveLength(3);
  });

  it('looks only for the last of several frames, and gives up on one that takes long', async () => {
    await worker.setProgram(program(), sources);
    mockSource.asked.length = 0;
    mockSource.hold.add(10);
    const first = worker.show(10);
    await turns();
    const shows = [first, ...[11, 12, 13].map((frame) => worker.show(frame))];
    await turns();
    expect(mockSource.asked).toEqual(['f10']);
    await jest.advanceTimersByTimeAsync(250);
    await Promise.all(shows);
    expect(mockSource.asked).toEqual(['f10', 'f13']);
    expect(told.at(-1)).toBe('frame 13');
    expect(told).not.toContain('frame 10');
    expect(told.some((entry) => entry.startsWith('fault'))).toBe(false);
  });

  it('lets something be seen of what is dragged over, if it comes in time', async () => {
    await worker.setProgram(program(), sources);
    mockSource.hold.add(10);
    const first = worker.show(10);
    await turns();
    const shows = [first, worker.show(20)];
    await turns();
    const before = drawn;
    mockSource.held.get(10)!();
    await Promise.all(shows);
    expect(drawn).toBe(before + 2);
    // But only what one rests at is told.
    expect(told.slice(1)).toEqual(['frame 20']);
  });

  it('shows the copy at once, and the file’s own frame a moment later', async () => {
    mockSource.copy = true;
    await worker.setProgram(program(), sources);
    await worker.show(7);
    expect(mockSource.asked.at(-1)).toBe('copy7');
    await jest.advanceTimersByTimeAsync(200);
    expect(mockSource.asked.at(-1)).toBe('f7');
    expect(mockSource.open).toBe(0);
    // While dragging on, no frame of the file is decoded.
    mockSource.asked.length = 0;
    for (const frame of [8, 9, 10]) await worker.show(frame);
    expect(mockSource.asked).toEqual(['copy8', 'copy9', 'copy10']);
    await jest.advanceTimersByTimeAsync(200);
    expect(mockSource.asked.slice(3)).toEqual(['f10']);
  });

  it('takes back the wish for the file’s own frame when one drags on', async () => {
    mockSource.copy = true;
    await worker.setProgram(program(), sources);
    mockSource.hold.add(7);
    const first = worker.show(7);
    await turns();
    mockSource.held.get(7)!();
    await first;
    mockSource.held.clear();
    await jest.advanceTimersByTimeAsync(200);
    // It is being decoded, and not there yet.
    expect(mockSource.asked.at(-1)).toBe('f7');
    expect(mockSource.held.has(7)).toBe(true);
    const before = drawn;
    await worker.show(8);
    mockSource.held.get(7)!();
    await turns();
    expect(drawn).toBe(before + 1);
    expect(told.at(-1)).toBe('frame 8');
  });

  it('tells what cannot be shown, and goes on', async () => {
    await worker.setProgram(program(), sources);
    mockSource.broken.add(30);
    await worker.show(30);
    expect(told.at(-1)).toBe('fault: frame 30 is damaged');
    await worker.show(31);
    expect(told.at(-1)).toBe('frame 31');
  });
});

describe('the stage while it plays', () => {
  const frames: (() => void)[] = [];
  beforeEach(() => {
    frames.length = 0;
    mockSource.ready = true;
    // The clock of the tests begins with the page.
    Object.defineProperty(performance, 'timeOrigin', { value: 0, configurable: true });
    globalThis.self = { requestAnimationFrame: (tick: () => void) => frames.push(tick) } as never;
  });

  /** The next animation frame, some milliseconds later. */
  const animationFrame = async (milliseconds: number): Promise<void> => {
    jest.advanceTimersByTime(milliseconds);
    frames.pop()?.();
    await turns();
  };

  it('draws each picture once, however many turns it is due', async () => {
    const slow = { ...map(48), spans: [constantSpan(0.25, 48)] };
    await worker.setProgram(mapProgram(slow, 'a'), sources);
    worker.play({ at: wallTime(), frame: 0, rate: 24 }, null);
    drawn = 0;
    for (let turn = 0; turn < 8; turn++) await animationFrame(1000 / 24 + 0.1);
    // Nine turns at a quarter of the speed: three pictures, of which the first was there.
    expect(told.filter((line) => /^frame [1-9]/.test(line))).toEqual([1, 2, 3, 4, 5, 6, 7, 8].map((n) => `frame ${n}`));
    expect(drawn).toBe(2);
    expect(worker.stop()).toMatchObject({ shown: 9, skipped: 0 });
  });

  it('begins now where the moment to begin has passed: no frame is lost', async () => {
    await worker.setProgram(program(50), sources);
    const at = worker.play({ at: wallTime() - 2700, frame: 4, rate: 24 }, null);
    expect(wallTime() - at).toBeLessThan(1);
    await turns();
    await animationFrame(1000 / 24 + 1);
    expect(told.at(-1)).toBe('frame 5');
    expect(worker.stop()).toMatchObject({ skipped: 0 });
    expect(worker.play({ at: wallTime() + 50, frame: 4, rate: 24 }, null)).toBeGreaterThan(wallTime() + 40);
  });
});
