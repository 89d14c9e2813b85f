import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readAvi, type FoundAvi } from './avi';

// Laid out by hand as "Multimedia Programming Interface and Data Specifications 1.0" (1991) and the AVI headers of it say.
function chunk(name: string, content: Buffer): Buffer {
  const size = Buffer.alloc(4);
  size.writeUInt32LE(content.length);
  return Buffer.concat([Buffer.from(name, 'latin1'), size, content, Buffer.alloc(content.length % 2)]);
}
const list = (kind: string, ...parts: Buffer[]): Buffer => chunk('LIST', Buffer.concat([Buffer.from(kind), ...parts]));

function stream(kind: 'vids' | 'auds', coding: string, [scale, rate, length]: readonly number[]): Buffer {
  const [head, format] = [Buffer.alloc(56), Buffer.alloc(40)];
  head.write(kind, 0, 'latin1');
  for (const [at, value] of [[20, scale!], [24, rate!], [32, length!]] as const) head.writeUInt32LE(value, at); // prettier-ignore
  format.write(coding, 16, 'latin1');
  return list('strl', chunk('strh', head), chunk('strf', format));
}

const avi = (...streams: Buffer[]): Buffer => chunk('RIFF', Buffer.concat([Buffer.from('AVI '), list('hdrl', chunk('avih', Buffer.alloc(56)), chunk('odd ', Buffer.alloc(3)), ...streams), list('movi')])); // prettier-ignore

describe('an AVI', () => {
  let folder: string;
  beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'avi-'))));
  afterEach(() => rm(folder, { recursive: true }));

  async function read(bytes: Buffer): Promise<FoundAvi | undefined> {
    await writeFile(join(folder, 'film.avi'), bytes);
    return readAvi(join(folder, 'film.avi'));
  }
  const sound = stream('auds', '', [1, 48_000, 9]);

  it('says how many frames there are a second, and pictures in all, of its first video', async () => {
    const video = stream('vids', 'XVID', [1001, 30_000, 144]);
    expect(await read(avi(sound, video, stream('vids', 'XVID', [1, 25, 9])))).toEqual({ rate: { num: 30_000, den: 1001 }, frames: 144 }); // prettier-ignore
    expect((await read(avi(stream('vids', 'dx50', [1, 25, 2]))))!.frames).toBe(2);
  });

  it('is left to the framework where it is of another coding, says nothing that can be, or is cut off', async () => {
    expect(await read(avi(stream('vids', 'MJPG', [1, 25, 2])))).toBeUndefined();
    expect(await read(avi(stream('vids', 'XVID', [0, 25, 2])))).toBeUndefined();
    expect(await read(avi(sound))).toBeUndefined();
    expect(await read(avi(stream('vids', 'XVID', [1, 25, 2])).subarray(0, 150))).toBeUndefined();
    expect(await read(Buffer.from('RIFF'))).toBeUndefined();
    expect(await read(Buffer.alloc(0))).toBeUndefined();
  });
});
