import type { PicturePlan, Program, SeenPicture } from '@hastig/core';
import { FillAhead } from './fill-ahead';

const mockMade: number[] = [];
let mockOpen = 0;

jest.mock('../picture/samples', () => ({
  PictureSamples: {
    of: (_studio: unknown, [layer]: { of: { frame: number } }[]) => {
      mockMade.push(layer!.of.frame);
      return Promise.resolve({ get: () => ({}), close: () => undefined });
    },
  },
}));
jest.mock('../picture/makers/parcel', () => ({
  parcelOf: () => ({}),
  sampleOf: () => {
    mockOpen++;
    return { allocationSize: () => 10, close: () => void mockOpen-- };
  },
}));

const picture = (frame: number, share?: number): SeenPicture => [
  { of: { sourceId: 'a', frame, clipId: 'c', ...(share !== undefined && { share }) } },
];
/** Frames that are there as they are at even ones, and are made at odd ones. */
const plan = (count: number, at = (n: number) => picture(n, n % 2 ? 0.5 : undefined)): PicturePlan => ({
  ...{ count, at },
  rate: { num: 24, den: 1 },
});
const moving = plan(20, (n) => picture(n));
const studio = { makers: { with: (task: (makes: unknown) => unknown) => task({ draw: () => Promise.resolve({}) }) } };
const order = (from: number, loop: { from: number; to: number } | null = null, count = 20) => ({
  ...{ plan: plan(count), moving, from, loop, size: { width: 65, height: 36 } },
  program: { sizes: {} } as Program,
});

let told: string[];
let ahead: FillAhead;
const turns = async (): Promise<void> => {
  for (let turn = 0; turn < 400; turn++) await Promise.resolve();
};

beforeEach(() => {
  mockMade.length = mockOpen = 0;
  told = [];
  ahead = new FillAhead(studio as never, 60, (ranges) =>
    told.push(ranges.map(({ from, to }) => `${from}-${to}`).join(' ')),
  );
});

it('makes what play would show otherwise, from the playhead on and round, until there is no more room', async () => {
  ahead.begin(order(14));
  await turns();
  expect(mockMade).toEqual([15, 17, 19, 1, 3, 5, 7]);
  expect(told.at(-1)).toBe('1-2 3-4 5-6 15-16 17-18 19-20');
  expect(mockOpen).toBe(6);
  expect(ahead.get(15)).toBeDefined();
  expect(ahead.get(16)).toBeUndefined();
});

it('stays inside what is played round and round', async () => {
  ahead.begin(order(14, { from: 12, to: 18 }));
  await turns();
  expect(mockMade).toEqual([15, 17, 13]);
});

it('ends when it is stopped, and nothing that was on its way is kept', async () => {
  ahead.begin(order(0));
  ahead.stop();
  await turns();
  expect(mockOpen).toBe(0);
});

it('says what is ready only where that is news', async () => {
  ahead.keepFor(plan(20));
  ahead.clear();
  expect(told).toEqual([]);
  ahead.begin(order(16));
  await turns();
  const before = told.length;
  ahead.keepFor(plan(20));
  expect(told).toHaveLength(before);
  ahead.keepFor(plan(20, (n) => picture(n, n === 17 ? 0.5 : undefined)));
  expect(told.at(-1)).toBe('17-18');
  ahead.clear();
  expect([told.at(-1), mockOpen]).toEqual(['', 0]);
});
