import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { BufferSource } from 'mediabunny';
import { probeMedia } from '..';

const clip = readFileSync(join(__dirname, '../../../e2e/fixtures/plates-b-frames.mp4'));

/** Probes a clip in which a number of a box is another one, at an offset from the box's name (ISO/IEC 14496-12). */
async function probed(box: string, offset: number, value: number): Promise<string> {
  const bytes = Buffer.from(clip);
  bytes.writeUInt32BE(value, bytes.indexOf(box) + offset);
  const read = async (from: number, to: number): Promise<Uint8Array> => bytes.subarray(from, to);
  try {
    const media = await probeMedia(new BufferSource(bytes), bytes.length, read);
    media.dispose();
    return 'taken';
  } catch (error) {
    return (error as Error).message;
  }
}

it('a whole file passes', async () => {
  expect(await probed('moov', 0, clip.readUInt32BE(clip.indexOf('moov')))).toBe('taken');
});

describe('a table that promises what the file cannot hold is refused before anybody counts on it', () => {
  it.each([
    ['thousands of millions of samples of one length', 'stts', 12, 2_000_000_000],
    ['as many that are shown later', 'ctts', 12, 2_000_000_000],
    ['more entries than there is room for', 'stts', 8, 0x0f_ff_ff_ff],
    ['more sizes than there is room for', 'stsz', 12, 0x7f_ff_ff_ff],
    ['more places than there is room for', 'stco', 8, 0x3f_ff_ff_ff],
  ])('%s', async (_, box, offset, value) => {
    const reason = await probed(box, offset, value);
    expect(reason).toMatch(/^The file is damaged: (it claims \d+ frames|its table “\w+” is larger)/);
    expect(reason).toContain('Copy it again');
  });
});
