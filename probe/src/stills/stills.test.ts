import { execFile } from 'node:child_process';
import { mkdtempSync, readdirSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { promisify } from 'node:util';
import { crc32, deflateSync } from 'node:zlib';
import { archiveParts, gapsIn, numberedRuns } from '.';
import { probeStills, type ReadBytes } from '..';

/** A PNG (ISO/IEC 15948) of one colour. */
function png(width: number, height: number, colourType: 2 | 6 = 2): Buffer {
  const chunk = (type: string, data: Buffer): Buffer => {
    const body = Buffer.concat([Buffer.from(type, 'latin1'), data]);
    const [length, check] = [Buffer.alloc(4), Buffer.alloc(4)];
    length.writeUInt32BE(data.length);
    check.writeUInt32BE(checksum(body));
    return Buffer.concat([length, body, check]);
  };
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, colourType, 0, 0, 0], 8);
  const row = Buffer.alloc(1 + width * (colourType === 6 ? 4 : 3), 90);
  row[0] = 0;
  const pixels = deflateSync(Buffer.concat(Array<Buffer>(height).fill(row)));
  const signature = Buffer.from([0x89, 0x50, 0x4e, 0x47, 0x0d, 0x0a, 0x1a, 0x0a]);
  return Buffer.concat([signature, chunk('IHDR', head), chunk('IDAT', pixels), chunk('IEND', Buffer.alloc(0))]);
}

// CRC-32 as PNG has it (ISO/IEC 15948, annex D); younger Nodes have it built in.
function checksum(bytes: Buffer): number {
  if (typeof crc32 === 'function') return crc32(bytes);
  let crc = 0xffffffff;
  for (const byte of bytes) {
    crc ^= byte;
    for (let bit = 0; bit < 8; bit++) crc = (crc >>> 1) ^ (crc & 1 ? 0xedb88320 : 0);
  }
  return (crc ^ 0xffffffff) >>> 0;
}

const readerOf =
  (bytes: Uint8Array): ReadBytes =>
  (from, to) =>
    Promise.resolve(bytes.subarray(from, to));
const probe = (bytes: Uint8Array, fresh = true) => probeStills(readerOf(bytes), bytes.length, fresh);
const archive = (...stills: { name: string; number: number; content: Buffer }[]): Buffer =>
  Buffer.concat(archiveParts(stills.map((still) => ({ ...still, bytes: still.content.length }))));

describe('a still', () => {
  it('says how large it is and whether it may be transparent', async () => {
    expect((await probe(png(31, 17)))!.facts).toEqual({
      ...{ container: 'PNG', mime: 'image/png', bytes: png(31, 17).length, video: null, audio: null },
      still: { codec: 'png', width: 31, height: 17, pictures: 1 },
    });
    expect((await probe(png(4, 4, 6)))!.facts.still).toMatchObject({ alpha: true });
  });

  it('is refused with its reason where it is damaged, cut short or of a kind that browsers do not show', async () => {
    await expect(probe(png(31, 17).subarray(0, -20))).rejects.toThrow(/incomplete/);
    await expect(probe(png(0, 0))).rejects.toThrow(/damaged/);
    const gif = Buffer.from('GIF89a\x10\0\x10\0\x80\0\0\0\0\0\xff\xff\xff;', 'latin1');
    await expect(probe(gif)).rejects.toThrow(/GIF picture.*PNG, JPEG, WebP or AVIF/);
  });

  it('is not what is something else', async () => {
    for (const text of ['', 'RIFF\0\0\0\0WAVEfmt ', '\0\0\0\x18ftypisom\0\0\0\0', 'words '.repeat(100)])
      expect(await probe(Buffer.from(text, 'latin1'))).toBeUndefined();
  });
});

describe('numbered stills', () => {
  const stills = [1, 2, 4, 9].map((number) => ({ name: `IMG_${number}.PNG`, number, content: png(40 + number, 20) }));
  const same = stills.map((still) => ({ ...still, content: png(40, 20, still.number === 9 ? 6 : 2) }));

  it('are one file, each picture found in it where it lies', async () => {
    const file = archive(...same);
    const { facts, pictures } = (await probe(file))!;
    expect(facts).toMatchObject({
      ...{ container: 'PNG stills', mime: 'application/x-tar', bytes: file.length, video: null },
      still: { codec: 'png', width: 40, height: 20, pictures: 4, first: 1, alpha: true },
    });
    expect(facts.still!.gaps).toEqual([
      { from: 3, count: 1 },
      { from: 5, count: 4 },
    ]);
    pictures.forEach(({ from, bytes, name }, index) => {
      expect(name).toBe(same[index]!.name);
      expect(file.subarray(from, from + bytes).equals(same[index]!.content)).toBe(true);
    });
    // The same pictures are the same file.
    expect(archive(...same).equals(file)).toBe(true);
  });

  // GNU tar reads it as any archive (POSIX.1-2017, pax: ustar interchange format).
  it('are unpacked by another program', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'hastig-stills-'));
    writeFileSync(join(folder, 'stills.tar'), archive(...same));
    await promisify(execFile)('tar', ['-xf', 'stills.tar'], { cwd: folder });
    expect(readdirSync(folder).sort()).toEqual(
      ['000001.png', '000002.png', '000003.png', '000004.png', 'index.json', 'stills.tar'].sort(),
    );
  });

  it('are refused where they have several sizes, by name, but only looked at when they come in', async () => {
    await expect(probe(archive(...stills))).rejects.toThrow(
      'IMG_2.PNG is 42 × 20 pixels, but the first picture is 41 × 20.',
    );
    expect((await probe(archive(...stills), false))!.pictures).toHaveLength(4);
    const broken = same.map((still) => (still.number === 4 ? { ...still, content: Buffer.from('no picture') } : still));
    await expect(probe(archive(...broken))).rejects.toThrow(/^IMG_4.PNG: .*damaged/);
  });

  it('are refused where the archive is damaged or cut short', async () => {
    const file = archive(...same);
    await expect(probe(file.subarray(0, file.length - 2000))).rejects.toThrow(/incomplete/);
    const garbled = Buffer.from(file);
    garbled.write('{"kind":"song"', 512);
    await expect(probe(garbled)).rejects.toThrow(/damaged/);
  });
});

describe('files that were numbered one after the other', () => {
  const named = (...names: string[]) => names.map((name) => ({ name }));

  it('are found among others, in order of their numbers', () => {
    const { runs, others } = numberedRuns(
      named('IMG_0010.jpg', 'notes.jpg', 'IMG_0009.JPG', 'plan1.png', 'IMG_0011.jpg', 'sky 2.webp', 'sky 10.webp'),
    );
    expect(runs.map(({ items }) => items.map(({ item }) => item.name))).toEqual([
      ['IMG_0009.JPG', 'IMG_0010.jpg', 'IMG_0011.jpg'],
      ['sky 2.webp', 'sky 10.webp'],
    ]);
    expect(others.map(({ name }) => name)).toEqual(['notes.jpg', 'plan1.png']);
  });

  it('are none where two have one number, or only one is there', () => {
    const { runs, others } = numberedRuns(named('a1.png', 'a01.png', 'b7.png'));
    expect(runs).toEqual([]);
    expect(others.map(({ name }) => name).sort()).toEqual(['a01.png', 'a1.png', 'b7.png']);
  });

  it('tell their gaps', () => {
    expect(gapsIn([1, 2, 5, 6, 9])).toEqual([
      { from: 3, count: 2 },
      { from: 7, count: 2 },
    ]);
    expect(gapsIn([4])).toEqual([]);
  });
});
