import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { readAvi, videoInAvi, type FoundAvi } from './read-avi';
import { VisualReader } from './visual';

// Laid out by hand as "Multimedia Programming Interface and Data Specifications 1.0" (1991) and "AVI RIFF File Reference" say.
function chunk(name: string, content: Buffer): Buffer {
  const size = Buffer.alloc(4);
  size.writeUInt32LE(content.length);
  return Buffer.concat([Buffer.from(name, 'latin1'), size, content, Buffer.alloc(content.length % 2)]);
}
const list = (kind: string, ...parts: Buffer[]): Buffer => chunk('LIST', Buffer.concat([Buffer.from(kind), ...parts]));

function stream(
  kind: 'vids' | 'auds',
  coding: string,
  [scale, rate, length, start = 0]: readonly number[],
  extra: Buffer = Buffer.alloc(0),
): Buffer {
  const [head, format] = [Buffer.alloc(56), Buffer.alloc(40)];
  head.write(kind, 0, 'latin1');
  for (const [at, value] of [[20, scale!], [24, rate!], [28, start], [32, length!]] as const) head.writeUInt32LE(value, at); // prettier-ignore
  format.write(coding, 16, 'latin1');
  return list('strl', chunk('strh', head), chunk('strf', Buffer.concat([format, extra])));
}

const avi = (streams: Buffer[], ...pieces: Buffer[]): Buffer =>
  chunk('RIFF', Buffer.concat([Buffer.from('AVI '), list('hdrl', chunk('avih', Buffer.alloc(56)), chunk('odd ', Buffer.alloc(3)), ...streams), list('movi', ...pieces)])); // prettier-ignore

// Heads of MPEG-4 Visual by hand, as ISO/IEC 14496-2, 6.2.3 and 6.2.5 say: 25 increments a second, of 5 bits.
const bits = (code: number, text: string): Buffer => {
  const digits = text.replaceAll(' ', '');
  const bytes = (digits.padEnd(Math.ceil(digits.length / 8) * 8, '1').match(/.{8}/g) ?? []).map((byte) => parseInt(byte, 2)); // prettier-ignore
  return Buffer.from([0, 0, 1, code, ...bytes]);
};
const layer = bits(0x20, '0 00000001 0 0001 0 00 1 0000000000011001 1 0');
const vop = (type: 'I' | 'P' | 'B', time = 3, isCoded = true): Buffer =>
  bits(
    0xb6,
    `${{ I: '00', P: '01', B: '10' }[type]} 0 1 ${time.toString(2).padStart(5, '0')} 1 ${isCoded ? 1 : 0} 0000`,
  );
const nothing = Buffer.alloc(0);

describe('an AVI', () => {
  let folder: string;
  beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'avi-'))));
  afterEach(() => rm(folder, { recursive: true }));

  async function read(bytes: Buffer, signal?: AbortSignal): Promise<FoundAvi | undefined> {
    await writeFile(join(folder, 'film.avi'), bytes);
    return readAvi(join(folder, 'film.avi'), signal);
  }
  const sound = stream('auds', '', [1, 48_000, 9]);
  const of = (coding: string, contents: readonly Buffer[], rate = 25): Buffer =>
    avi([stream('vids', coding, [1, rate, contents.length])], ...contents.map((content) => chunk('00dc', content)));
  const places = ({ times }: FoundAvi, rate = 25): number[] => times.map(({ from }) => Math.round(from * rate));
  const one = Buffer.from([1]);

  it('says when the pictures of its first video are shown, whose number is that of its stream', async () => {
    const streams = [sound, stream('vids', 'MJPG', [1001, 30_000, 3]), stream('vids', 'MJPG', [1, 25, 9])];
    const pieces = [chunk('01dc', one), chunk('00wb', one), list('rec ', chunk('01db', one), chunk('02dc', one)), chunk('ix01', one), chunk('01dc', one)]; // prettier-ignore
    const found = (await read(avi(streams, ...pieces)))!;
    expect(found).toMatchObject({ isVisual: false, areKnown: true, least: 3, soundFrom: 0 });
    for (const [n, { from, seconds }] of found.times.entries()) {
      expect(from).toBeCloseTo((n * 1001) / 30_000, 12);
      expect(seconds).toBeCloseTo(1001 / 30_000, 12);
    }
    expect(found.times.length).toBe(3);
  });

  it('keeps a place for a picture that was dropped, at the beginning and at the end too', async () => {
    const found = (await read(of('MJPG', [nothing, one, one, nothing, nothing, one, nothing])))!;
    expect(places(found)).toEqual([1, 2, 5]);
    expect(found.times.map(({ seconds }) => Math.round(seconds * 25))).toEqual([1, 3, 2]);
    expect(found).toMatchObject({ areKnown: false, least: 3, soundFrom: undefined });
  });

  it('says when its streams begin, where not at once', async () => {
    const streams = [stream('vids', 'MJPG', [1, 25, 1, 50]), stream('auds', '', [1, 8000, 9, 4000])];
    const found = (await read(avi(streams, chunk('00dc', one))))!;
    expect(found).toMatchObject({ areKnown: false, soundFrom: 0.5 });
    expect(found.times[0]!.from).toBe(2);
  });

  it('gives pictures of MPEG-4 that refer to later ones the places in which they are shown', async () => {
    const stored = [Buffer.concat([layer, vop('I')]), vop('P'), vop('B'), vop('B'), vop('P'), vop('B')];
    expect(places((await read(of('XVID', stored)))!)).toEqual([0, 1, 2, 3, 4, 5]);
    // Nothing at the third place stored, which waits for a later one as any does that others refer to.
    const dropped = (await read(of('dx50', [...stored.slice(0, 4), nothing, ...stored.slice(4)])))!;
    expect(places(dropped)).toEqual([0, 1, 2, 3, 5, 6]);
    expect(dropped.isVisual).toBe(true);
  });

  it('does not count pieces that only fill the places of pictures that were stored two in a piece', async () => {
    const stored = [Buffer.concat([layer, vop('I')]), Buffer.concat([vop('P'), vop('B')]), vop('B'), vop('P', 3, false), Buffer.concat([vop('P'), vop('B')]), Buffer.from([0x7f]), vop('P'), vop('P', 3, false), vop('P')]; // prettier-ignore
    const found = (await read(of('DIVX', stored)))!;
    // The last one but one is shown for two frames: nothing was owed then.
    expect(places(found)).toEqual([0, 1, 2, 3, 4, 5, 6, 8]);
    expect([...found.fillers]).toEqual([3, 5]);
    const given: Buffer[] = [];
    for await (const piece of videoInAvi(join(folder, 'film.avi'), found)) given.push(Buffer.from(piece));
    expect(Buffer.concat(given)).toEqual(Buffer.concat(stored.filter((_, n) => n !== 3 && n !== 5)));
  });

  it('knows what stands before the first picture from the stream’s head too', async () => {
    const stored = [vop('I'), vop('P', 3, false), vop('P')].map((content) => chunk('00dc', content));
    const found = (await read(avi([stream('vids', 'FMP4', [1, 25, 3], layer)], ...stored)))!;
    expect(places(found)).toEqual([0, 2]);
    const given = videoInAvi(join(folder, 'film.avi'), found);
    expect((await given.next()).value).toEqual(layer);
    await given.return(undefined);
  });

  it('of MPEG-4 those may be missing that refer to what was cut off, of H.264 fields may be apart', async () => {
    const cut = [Buffer.concat([layer, vop('I')]), vop('B'), vop('B'), vop('P'), vop('B')];
    expect((await read(of('XVID', cut)))!).toMatchObject({ least: 3, times: { length: 5 } });
    expect((await read(of('H264', [one, one, one])))!).toMatchObject({ least: 2, times: { length: 3 } });
    // Where pieces are given times each must be a picture.
    expect((await read(of('H264', [one, nothing, one])))!).toMatchObject({
      least: 2,
      areKnown: false,
      times: { length: 2 },
    });
  });

  it('is read as far as it goes where a camera lost its power: how long lists are is not known then', async () => {
    const bytes = of('MJPG', [one, one, one]);
    const list = bytes.indexOf('movi') - 4;
    bytes.writeUInt32LE(0, list);
    bytes.writeUInt32LE(0, 4);
    bytes.writeUInt32LE(0, bytes.indexOf('vids') + 32);
    expect((await read(bytes))!.times.length).toBe(3);
    // The last one is cut in two.
    expect((await read(bytes.subarray(0, -3)))!.times.length).toBe(2);
  });

  it('is read where odd pieces are not filled up to even ones, and where they are', async () => {
    const sizes = [1, 48, 3, 100, 5, 7];
    const pieces = sizes.map((size) => chunk('00dc', Buffer.alloc(size, 0x30)));
    const streams = [stream('vids', 'MJPG', [1, 25, sizes.length])];
    expect((await read(avi(streams, ...pieces)))!.times.length).toBe(6);
    const tight = pieces.map((piece, n) => piece.subarray(0, 8 + sizes[n]!));
    expect((await read(avi(streams, ...tight)))!.times.length).toBe(6);
  });

  it('is damaged where more pictures are promised than there are, but for one', async () => {
    const pieces = [one, one, one].map((content) => chunk('00dc', content));
    const promising = (count: number): Buffer => avi([stream('vids', 'MJPG', [1, 25, count])], ...pieces);
    expect((await read(promising(4)))!.times.length).toBe(3);
    await expect(read(promising(5))).rejects.toThrow('The file is damaged: 3 of its 5 pictures are there.');
    await expect(read(Buffer.concat([promising(9).subarray(0, -20), Buffer.alloc(80, 3)]))).rejects.toThrow(
      '1 of its 9',
    );
  });

  it('is none where it says nothing that can be, or is cut off', async () => {
    expect(await read(avi([stream('vids', 'XVID', [0, 25, 2])]))).toBeUndefined();
    expect(await read(avi([sound]))).toBeUndefined();
    expect(await read(of('XVID', [one]).subarray(0, 120))).toBeUndefined();
    expect(await read(Buffer.from('RIFF'))).toBeUndefined();
    expect(await read(nothing)).toBeUndefined();
  });

  it('is no longer read when nobody waits for it', async () => {
    const reason = new Error('enough');
    await expect(read(of('MJPG', [one]), AbortSignal.abort(reason))).rejects.toBe(reason);
  });
});

describe('a picture of MPEG-4 Visual', () => {
  const coded = (head: Buffer, ...pieces: Buffer[]): boolean[] =>
    new VisualReader().pictures(Buffer.concat([head, ...pieces])).map(({ isCoded }) => isCoded);

  it('says whether anything is stored of it, whatever its layer says before', () => {
    const both = [vop('I'), vop('P', 31, false)];
    expect(coded(layer, ...both)).toEqual([true, false]);
    // A version, a shape of pixels of its own, and what a buffer must hold.
    const long = bits(0x2f, `0 00000001 1 0010 001 1111 00001100 00001011 1 01 1 1 ${'10'.repeat(39)}1 00 1 0000000000011001 1 0`); // prettier-ignore
    expect(coded(long, ...both)).toEqual([true, false]);
    // 65,535 a second take 16 bits, and one a second takes one.
    const fine = bits(0x20, '0 00000001 0 0001 0 00 1 1111111111111111 1 0');
    expect(coded(fine, bits(0xb6, '01 110 1 0000000000000001 1 0'), bits(0xb6, '01 0 1 1111111111111111 1 1'))).toEqual([false, true]); // prettier-ignore
    const coarse = bits(0x20, '0 00000001 0 0001 0 00 1 0000000000000001 1 0');
    expect(coded(coarse, bits(0xb6, '01 0 1 0 1 0'), bits(0xb6, '01 0 1 0 1 1'))).toEqual([false, true]);
  });

  it('is taken for stored where no layer was told, and where it is cut off', () => {
    expect(coded(nothing, vop('P', 0, false))).toEqual([true]);
    expect(coded(nothing, Buffer.from([0, 0, 1, 0xb6]))).toEqual([]);
    expect(coded(layer, Buffer.from([0, 0, 1, 0xb6, 0xff]))).toEqual([false]);
  });
});
