import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { demoMediaFolder } from '@hastig/demo/media';
import fc from 'fast-check';
import { HANGS, Report } from './report';
import { upload } from './upload';

const fixtures = new URL('../e2e/fixtures/', import.meta.url).pathname;
const files = [
  join(fixtures, 'plates-24.mp4'),
  join(fixtures, 'plates-b-frames.mp4'),
  join(fixtures, 'plates-open-group.mp4'),
  join(demoMediaFolder, 'drop.mp4'),
  join(fixtures, 'sound-eac3.mkv'),
];

/** Tables of an MP4 and heads of its boxes, in which a change does most harm (ISO/IEC 14496-12). */
const boxes = [
  'moov',
  'trak',
  'stts',
  'ctts',
  'stsz',
  'stsc',
  'stco',
  'stss',
  'mdhd',
  'tkhd',
  'avcC',
  'stsd',
  'mvhd',
  'elst',
];

const share = fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true });
const change = fc.oneof(
  fc.record({ kind: fc.constant('byte' as const), at: share, value: fc.nat(255) }),
  fc.record({ kind: fc.constant('cut' as const), at: share }),
  fc.record({
    kind: fc.constant('box' as const),
    box: fc.constantFrom(...boxes),
    offset: fc.integer({ min: -4, max: 24 }),
    value: fc.constantFrom(0, 1, 0x7f_ff_ff_ff, 0xff_ff_ff_ff, 2_000_000_000, 65_536),
  }),
);
type Change = typeof change extends fc.Arbitrary<infer T> ? T : never;

function changed(content: Buffer, changes: readonly Change[]): Buffer {
  let bytes = Buffer.from(content);
  for (const one of changes) {
    if (one.kind === 'byte') bytes[Math.floor(one.at * bytes.length)] = one.value;
    else if (one.kind === 'cut') bytes = bytes.subarray(0, Math.max(1, Math.floor(one.at * bytes.length)));
    else {
      const at = bytes.indexOf(one.box) + one.offset;
      if (at >= 0 && at + 4 <= bytes.length) bytes.writeUInt32BE(one.value, at);
    }
  }
  return bytes;
}

/**
 * Brings in damaged media. Each is refused with a reason that says something, or is media that a project can hold; the server
 * answers others meanwhile.
 */
export async function fuzzMedia(address: string, count: number, seed: number): Promise<Report> {
  const report = new Report(`damaged media (seed ${seed})`);
  const contents = await Promise.all(files.map((file) => readFile(file)));
  const anyFile = fc.tuple(fc.nat(files.length - 1), fc.array(change, { minLength: 1, maxLength: 4 }));
  for (const [index, changes] of fc.sample(anyFile, { numRuns: count, seed })) {
    const what = `${files[index]!.split('/').at(-1)} with ${JSON.stringify(changes)}`;
    const started = performance.now();
    try {
      const bringing = upload(address, changed(contents[index]!, changes));
      let health = 0;
      const asked = setInterval(() => {
        const began = performance.now();
        void fetch(`${address}/api/health`).then(
          () => (health = Math.max(health, performance.now() - began)),
          () => undefined,
        );
      }, 100);
      const { answer } = await bringing.finally(() => clearInterval(asked));
      const took = performance.now() - started;
      const body = (await answer.json()) as { detail?: string; sha256?: string; facts?: object };
      report.tried(String(answer.status), took);
      if (answer.status >= 500) report.fault(`${answer.status} for ${what}`);
      if (took > HANGS) report.fault(`${took.toFixed(0)} ms for ${what}`);
      if (health > HANGS / 5) report.fault(`others waited ${health.toFixed(0)} ms during ${what}`);
      if (
        answer.status === 422 &&
        !/(damaged|incomplete|can’t read|neither picture|no picture|no frame|empty|frames)/i.test(body.detail ?? '')
      )
        report.fault(`a reason that says nothing for ${what}: ${body.detail}`);
      if (/assert|internal error|undefined|NaN/i.test(body.detail ?? ''))
        report.fault(`a reason for makers, not for people: ${body.detail}`);
    } catch (error) {
      report.tried('no answer');
      report.fault(`no answer for ${what}: ${(error as Error).message}`);
    }
  }
  return report;
}
