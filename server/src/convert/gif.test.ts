import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readGif } from './gif';

let file: string;
let folder: string;
beforeEach(async () => {
  folder = await mkdtemp(join(tmpdir(), 'hastig-gif-'));
  file = join(folder, 'one.gif');
});
afterEach(() => rm(folder, { recursive: true, force: true }));

interface Picture {
  delay: number;
  disposal?: number;
  /** Which of two pixels it draws white; without, both. */
  x?: number;
}

/** A GIF (GIF89a) of two pixels, one above black. */
const gif = (...pictures: readonly Picture[]): Buffer =>
  Buffer.concat([
    Buffer.from('GIF89a\x02\0\x01\0\x80\0\0\0\0\0\xff\xff\xff', 'latin1'),
    ...pictures.map(({ delay, disposal = 0, x }) =>
      Buffer.from([
        ...[0x21, 0xf9, 4, disposal << 2, delay & 255, delay >> 8, 0, 0],
        ...[0x2c, x ?? 0, 0, 0, 0, x === undefined ? 2 : 1, 0, 1, 0, 0],
        // Codes of three bits, the lowest first: clear, white (once or twice), end.
        ...(x === undefined ? [2, 2, 0x4c, 0x0a, 0] : [2, 2, 0x4c, 0x01, 0]),
      ]),
    ),
    Buffer.from(';'),
  ]);

it('each picture is shown for as long as it says; one that says nothing for a tenth of a second', async () => {
  await writeFile(file, gif({ delay: 4 }, { delay: 300 }, { delay: 0 }, { delay: 2 }));
  const { times, width, height } = await readGif(file);
  expect([width, height]).toEqual([2, 1]);
  expect(times.map(({ seconds }) => seconds)).toEqual([0.04, 3, 0.1, 0.02]);
  expect(times.map(({ from }) => from)).toEqual([0, 0.04, 3.04, 3.14]);
});

it('what was drawn stays, goes, or gives way to what was there before, as it says', async () => {
  const drawn = async (disposal: number): Promise<boolean[][]> => {
    await writeFile(file, gif({ delay: 4, x: 0, disposal }, { delay: 4, x: 1 }));
    return [...(await readGif(file)).pictures()].map((_, n, all) => [0, 4].map((at) => all[n]![at] === 255));
  };
  // The memory is the same every time: what is seen in it at the end is the last picture.
  expect((await drawn(1)).at(-1)).toEqual([true, true]);
  expect((await drawn(2)).at(-1)).toEqual([false, true]);
  expect((await drawn(3)).at(-1)).toEqual([false, true]);
});

it('what is cut off, is none, or would fill memory is refused', async () => {
  await writeFile(file, gif({ delay: 4 }, { delay: 3 }).subarray(0, 30));
  await expect(readGif(file)).rejects.toThrow();
  await writeFile(file, 'marbles');
  await expect(readGif(file)).rejects.toThrow();
  await writeFile(file, gif());
  await expect(readGif(file)).rejects.toThrow('holds no picture');
  const large = gif({ delay: 4 });
  large.fill(255, 6, 10);
  await writeFile(file, large);
  await expect(readGif(file)).rejects.toThrow('too large');
});
