import { statSync } from 'node:fs';
import { join } from 'node:path';
import { FilePathSource } from 'mediabunny';
import { probeMedia } from '..';
import { BitReader, payloadOf, unitsOf } from './bits';
import { avcScan } from './scan';

async function scanOf(path: string) {
  const media = await probeMedia(new FilePathSource(path), statSync(path).size);
  media.dispose();
  return media.facts.video?.scan;
}

const fixture = (name: string): Promise<unknown> => scanOf(join(__dirname, '../../../e2e/fixtures', name));

describe('how a stream is scanned', () => {
  it('is told by the timing of its pictures, and without that by its slices (streams made by x264)', async () => {
    expect(await fixture('plates-top-first.mp4')).toBe('topFirst');
    // All timing messages are taken out of this one.
    expect(await fixture('plates-bottom-first.mp4')).toBe('bottomFirst');
  });

  it('is progressive where frames are whole, also in a stream that could hold fields', async () => {
    expect(await fixture('plates-24.mp4')).toBe('progressive');
    expect(await fixture('plates-marked-interlaced.mp4')).toBe('progressive');
  });

  it('is known of the demo’s old camera, and not taken for it elsewhere', async () => {
    const demo = (name: string): Promise<unknown> => scanOf(join(__dirname, '../../../demo/media', `${name}.mp4`));
    expect(await demo('trough')).toBe('topFirst');
    expect(await demo('drop')).toBe('progressive');
  });

  it('does not fail on rubbish', () => {
    expect(avcScan(undefined, [])).toBe('progressive');
    expect(avcScan(new Uint8Array([1, 2, 3, 4, 5, 6, 7]), [new Uint8Array([0, 0, 0, 9, 1])])).toBe('progressive');
    const noise = Uint8Array.from({ length: 400 }, (_, i) => (i * 73 + (i >> 3)) & 255);
    expect(['progressive', 'topFirst', 'bottomFirst']).toContain(avcScan(noise, [noise]));
  });
});

describe('the bits of H.264', () => {
  // Table 9-2 of ITU-T H.264: 1, 010, 011, 00100, 00101 are 0, 1, 2, 3, 4; table 9-3 maps them to 0, 1, −1, 2, −2.
  const codes = Uint8Array.of(0b10100110, 0b01000010, 0b10000000);

  it('reads Exp-Golomb numbers as the standard’s tables have them', () => {
    const unsigned = new BitReader(codes);
    expect([unsigned.ue(), unsigned.ue(), unsigned.ue(), unsigned.ue(), unsigned.ue()]).toEqual([0, 1, 2, 3, 4]);
    const signed = new BitReader(codes);
    expect([signed.se() + 0, signed.se(), signed.se(), signed.se(), signed.se()]).toEqual([0, 1, -1, 2, -2]);
  });

  it('takes out the bytes that keep start codes from appearing (7.4.1)', () => {
    expect([...payloadOf(Uint8Array.of(0x67, 0, 0, 3, 1, 0, 0, 3, 0, 0, 3, 3))]).toEqual([0, 0, 1, 0, 0, 0, 0, 3]);
  });

  it('finds units by their lengths and by start codes (Annex B)', () => {
    expect(unitsOf(Uint8Array.of(0, 0, 0, 2, 6, 1, 0, 0, 0, 1, 5), 4).map((unit) => [...unit])).toEqual([[6, 1], [5]]);
    expect(unitsOf(Uint8Array.of(0, 0, 0, 1, 9, 8, 0, 0, 1, 5, 4), 0).map((unit) => unit[0])).toEqual([9, 5]);
  });
});
