import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { MOST_PICTURES } from '../order';
import { PictureCounter, type FoundPictures } from './pictures';
import { headOf } from './program-stream';
import { readMpeg, videoIn, type FoundMpeg } from './read-mpeg';
import { shownTimes } from './shown';

// Laid out by hand as ISO/IEC 13818-2 (6.2.2 and 6.2.3) and 13818-1 (2.4 and 2.5) say.
const code = (value: number, ...after: number[]): number[] => [0, 0, 1, value, ...after];
const sequence = code(0xb3, 0x2d, 0x02, 0x40, 0x13, 0xff, 0xff, 0xe0, 0x18);
const group = (closed: boolean): number[] => code(0xb8, 0, 8, 0, closed ? 0x40 : 0);
const types = { I: 1, P: 2, B: 3 } as const;
const slice = code(0x01, 0x12, 0x34, 0x56, 0x78, 0x9a);
const picture = (type: keyof typeof types, structure?: 1 | 2 | 3): number[] => [
  ...code(0x00, 0, types[type] << 3, 0xff, 0xf8),
  ...(structure ? code(0xb5, 0x8f, 0xff, 0xf0 | structure, 0x41, 0x80) : []),
  ...slice,
];
const pictures = (words: string, structure?: 3): number[] => [...words].flatMap((type) => picture(type as 'I', structure)); // prettier-ignore

function counted(bytes: readonly number[], size = bytes.length): FoundPictures | undefined {
  const counter = new PictureCounter();
  for (let at = 0; at < bytes.length; at += size)
    counter.push({ bytes: Buffer.from(bytes.slice(at, at + size)), time: undefined });
  return counter.end();
}

describe('the pictures of a video', () => {
  const whole = [...sequence, ...group(true), ...pictures('IBBPBBP', 3)];

  it.each([1, 2, 3, 5, 7, 1000])('are counted by their headers, in pieces of %d bytes', (size) => {
    expect(counted(whole, size)).toMatchObject({ least: 7, most: 7 });
  });

  it('of MPEG-1, which has no extensions, too', () => {
    expect(counted([...sequence, ...group(true), ...pictures('IPPP')])).toMatchObject({ least: 4, most: 4 });
  });

  it('are two fields each, also where one of an I picture is predicted from the other', () => {
    const fields = [...picture('I', 1), ...picture('P', 2), ...picture('B', 2), ...picture('B', 1), ...picture('P', 1), ...picture('P', 2)]; // prettier-ignore
    expect(counted([...sequence, ...group(true), ...fields])).toMatchObject({ least: 3, most: 3 });
    // A frame of one field, as where a recording was cut, is one still.
    expect(counted([...sequence, ...group(true), ...picture('I', 1), ...picture('I', 3)])).toMatchObject({ least: 2, most: 2 }); // prettier-ignore
  });

  it('may lack at the beginning what their references were cut off from', () => {
    expect(counted([...sequence, ...group(false), ...pictures('IBBPBB')])).toMatchObject({ least: 4, most: 6 });
    expect(counted([...pictures('PBB'), ...sequence, ...group(false), ...pictures('IP')])).toMatchObject({ least: 2, most: 5 }); // prettier-ignore
    // Later groups may be open: what they refer to is there.
    expect(counted([...whole, ...group(false), ...pictures('IBB')])).toMatchObject({ least: 10, most: 10 });
  });

  it('are timed where each is told when it is shown, or none is shown before one that is stored earlier', () => {
    const timed = (words: string, told: (n: number) => boolean): boolean => {
      const counter = new PictureCounter();
      counter.push({ bytes: Buffer.from([...sequence, ...group(true)]), time: undefined });
      [...words].forEach((type, n) => counter.push({ bytes: Buffer.from(picture(type as 'I', 3)), time: told(n) ? n : undefined })); // prettier-ignore
      return counter.end()!.timed;
    };
    expect(timed('IPBBPBB', () => true)).toBe(true);
    expect(timed('IPPPP', (n) => n === 0)).toBe(true);
    expect(timed('IPBBPBB', (n) => n !== 3)).toBe(false);
    expect(timed('IPBBPBB', () => false)).toBe(false);
  });

  it('are no more than are converted: a small file that claims many fills no memory', () => {
    const counter = new PictureCounter();
    const many = Buffer.from([...sequence, ...Array.from({ length: 100_000 }, () => code(0, 0, 0x10)).flat()]);
    const claim = (): void => {
      for (let n = 0; n * 100_000 <= MOST_PICTURES; n++) counter.push({ bytes: many, time: undefined });
    };
    expect(claim).toThrow('more pictures than can be converted');
  });

  it('are not counted of other codings', () => {
    expect(counted([...code(0xb0, 1), ...sequence, ...code(0xb6, 0, 0, 0, 0)])).toBeUndefined();
    expect(counted([...code(0x67, 1, 2, 3, 4), ...code(0x65, 1, 2, 3, 4)])).toBeUndefined();
    expect(counted([])).toBeUndefined();
  });
});

describe('the times of pictures', () => {
  /** Pictures by their letters, with the ticks that are told of some, and half frames for which one is shown. */
  const times = (words: string, told: Record<number, number>, fields: Record<number, number> = {}, rate = 25) =>
    shownTimes(
      [...words].map((type, n) => ({ waits: type !== 'B', time: told[n], fields: fields[n] ?? 2 })),
      rate,
    );
  const from = (...all: Parameters<typeof times>): number[] | undefined => times(...all)?.map((shown) => Math.round(shown.from * 90_000)); // prettier-ignore

  it('are those that are told, in the order in which they are shown: those that are stored earlier wait', () => {
    expect(from('IPBBPBB', { 0: 3600, 1: 14_400, 2: 7200, 3: 10_800, 4: 25_200, 5: 18_000, 6: 21_600 })).toEqual([3600, 7200, 10_800, 14_400, 18_000, 21_600, 25_200]); // prettier-ignore
  });

  it('follow each other where none is told, before the first one too', () => {
    expect(from('IPBBP', { 1: 90_000 })).toEqual([79_200, 82_800, 86_400, 90_000, 93_600]);
    expect(times('IP', { 0: 0 })).toEqual([{ from: 0, seconds: 0.04 }, { from: 0.04, seconds: 0.04 }]); // prettier-ignore
  });

  // Film at 24 frames a second as television of 60 fields shows it: two and three fields in turn (common practice).
  it('are as far apart as fields are repeated', () => {
    const wanted = [0, 3003, 7507.5, 10_510.5, 15_015];
    const found = times('IPPPP', { 0: 0 }, { 1: 3, 3: 3 }, 30_000 / 1001)!;
    found.forEach((shown, n) => expect(shown.from * 90_000).toBeCloseTo(wanted[n]!, 6));
    expect(found.length).toBe(5);
  });

  it('go on where the clock of 33 bits begins anew, and are not known where they go back', () => {
    expect(from('IP', { 0: 2 ** 33 - 1800, 1: 1800 })).toEqual([2 ** 33 - 1800, 2 ** 33 + 1800]);
    expect(from('IPP', { 0: 90_000, 2: 45_000 })).toBeUndefined();
    expect(from('IPP', {})).toBeUndefined();
    expect(from('IP', { 0: 0 }, {}, 0)).toBeUndefined();
  });
});

describe('an MPEG stream', () => {
  let folder: string;
  beforeEach(async () => (folder = await mkdtemp(join(tmpdir(), 'mpeg-'))));
  afterEach(() => rm(folder, { recursive: true }));

  async function read(bytes: readonly number[]): Promise<FoundMpeg | undefined> {
    const path = join(folder, 'film.mpg');
    await writeFile(path, Buffer.from(bytes));
    return readMpeg(path);
  }

  const video = [...sequence, ...group(true), ...pictures('IPPBBP')];
  const packet = (id: number, content: readonly number[]): number[] => code(id, content.length >> 8, content.length & 255, ...content); // prettier-ignore
  const pack = code(0xba, 0x44, 0, 4, 0, 4, 1, 0, 0, 3, 0xf8);
  const map = packet(0xbc, [0xe0, 0xff, 0, 0, 0, 0, 0, 0, 0, 0]);
  /** Heads of MPEG-2 with a time, of MPEG-1 with a buffer's size and two times, and of MPEG-1 with none. */
  const heads = [
    [0x80, 0x80, 5, 0x21, 0, 1, 0, 1],
    [0xff, 0xff, 0x40, 0x20, 0x31, 0, 1, 0, 1, 0x11, 0, 1, 0, 1],
    [0x0f],
  ];

  it.each(heads.map((head) => [head]))('of packets whose heads have different lengths is read', async (head) => {
    expect(headOf(Buffer.from(head))).toEqual({ bytes: head.length, time: head.length > 1 ? 0 : undefined });
    const cut = 21;
    const program = [...pack, ...packet(0xe0, [...head, ...video.slice(0, cut)]), ...packet(0xc0, [...head, ...video]), ...pack, ...packet(0xe0, [...head, ...video.slice(cut)]), ...code(0xb9)]; // prettier-ignore
    expect(await read(program)).toMatchObject({ pictures: { least: 6, most: 6 }, beginsWithMap: false });
  });

  it('tells whether its first pack has a map of it; a later one is none', async () => {
    const content = packet(0xe0, [0x0f, ...video]);
    expect((await read([...pack, ...map, ...content]))!.beginsWithMap).toBe(true);
    expect((await read([...pack, ...content, ...pack, ...map]))!.beginsWithMap).toBe(false);
  });

  it('that is cut off within a packet has what came before', async () => {
    const program = [...pack, ...packet(0xe0, [0x0f, ...video]), ...packet(0xe0, [0x0f, ...video])];
    expect((await read(program.slice(0, -9)))!.pictures!.most).toBe(6);
    expect(await read(pack)).toEqual({ pictures: undefined, beginsWithMap: false, soundFrom: undefined });
  });

  /** Packets of a transport stream with some content of a program number, filled up by adaptation fields. */
  function transported(number: number, content: readonly number[], before: number, behind: number): number[] {
    const packets: number[] = [];
    for (let at = 0; at < content.length;) {
      const part = content.slice(at, at + 150);
      const field = 188 - 4 - 1 - part.length;
      const head = [0x47, (at === 0 ? 0x40 : 0) | (number >> 8), number & 255, 0x30, field];
      packets.push(...Array<number>(before).fill(0), ...head, ...Array<number>(field).fill(0xff), ...part, ...Array<number>(behind).fill(1)); // prettier-ignore
      at += part.length;
    }
    return packets;
  }

  it.each([
    [188, 0, 0],
    [192, 4, 0],
    [204, 0, 16],
  ])('is read in packets of %d bytes', async (_size, before, behind) => {
    const head = [0x80, 0x80, 5, 0x21, 0, 1, 0, 1];
    const unit = (id: number): number[] => [...code(id, 0, 0), ...head, ...video, ...video];
    const stream = [
      ...transported(0x50, unit(0xc0), before, behind),
      ...transported(0x41, unit(0xe0), before, behind),
      ...transported(0x41, unit(0xe0), before, behind),
      ...transported(0x42, unit(0xe1), before, behind),
    ];
    expect(await read(stream)).toMatchObject({ pictures: { least: 24, most: 24 }, beginsWithMap: false, soundFrom: 0 });
    const whole: Buffer[] = [];
    for await (const piece of videoIn(join(folder, 'film.mpg'))) whole.push(piece);
    expect(Buffer.concat(whole).equals(Buffer.from([...video, ...video, ...video, ...video]))).toBe(true);
  });

  it('is nothing else', async () => {
    expect(await read([])).toBeUndefined();
    expect(await read([...Buffer.from('RIFF....AVI LIST')])).toBeUndefined();
    expect(await read(Array<number>(2000).fill(0x46))).toBeUndefined();
  });
});
