import { shuttledSeconds, shuttledSound } from './shuttled-sound';

/** A program whose samples are the seconds they stand for. */
const seconds = (first: number, count: number, rate: number) =>
  Promise.resolve([Float32Array.from({ length: count }, (_, i) => (first + i) / rate)]);

it.each([2, 0.5, 8])('forwards at %s the moments go by so fast', async (speed) => {
  const [heard] = (await shuttledSound(seconds, { from: 3, speed })(100, 50, 1000))!;
  heard!.forEach((moment, i) => expect(moment).toBeCloseTo(3 + ((100 + i) * speed) / 1000, 5));
});

it.each([-1, -4])('backwards at %s they go down from the start, the sample before it first', async (speed) => {
  const [heard] = (await shuttledSound(seconds, { from: 3, speed })(0, 50, 1000))!;
  heard!.forEach((moment, i) => expect(moment).toBeCloseTo(3 + ((i + 1) * speed) / 1000, 5));
});

it('pieces that follow one another go on where the one before ended', async () => {
  const read = shuttledSound(seconds, { from: 2, speed: -2 });
  const [all] = (await read(0, 80, 1000))!;
  const pieces = await Promise.all([read(0, 30, 1000), read(30, 50, 1000)]);
  expect(pieces.flatMap((piece) => [...piece![0]!])).toEqual([...all!]);
});

it('stays silent where the program is', async () => {
  expect(await shuttledSound(() => Promise.resolve(null), { from: 1, speed: -1 })(0, 10, 1000)).toBeNull();
});

it('lasts until the end, or back to the start', () => {
  expect(shuttledSeconds({ from: 2, speed: 4 }, 10)).toBe(2);
  expect(shuttledSeconds({ from: 2, speed: -0.5 }, 10)).toBe(4);
  expect(shuttledSeconds({ from: 12, speed: 1 }, 10)).toBe(0);
});
