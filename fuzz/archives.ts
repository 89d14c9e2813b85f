import { once } from 'node:events';
import { readFile } from 'node:fs/promises';
import { PassThrough } from 'node:stream';
import type { StoredMedia, StoredProject } from '@hastig/contract';
import { addSource, newProject } from '@hastig/core';
import archiver from 'archiver';
import fc from 'fast-check';
import { HANGS, Report } from './report';
import { send, upload } from './upload';

const fixtures = new URL('../e2e/fixtures/', import.meta.url).pathname;

/** A project of one clip with its media, packed as small as it gets. */
async function packed(address: string): Promise<Buffer> {
  const clip = await readFile(`${fixtures}plates-24.mp4`);
  const media = (await (await upload(address, clip)).answer.json()) as StoredMedia;
  const document = addSource(newProject('Archive'), { id: 's', name: 'plates.mp4', ...media }, 'c');
  const zip = archiver('zip', { zlib: { level: 9 } });
  const out = new PassThrough();
  const pieces: Buffer[] = [];
  out.on('data', (piece: Buffer) => pieces.push(piece));
  zip.pipe(out);
  zip.append(JSON.stringify({ kind: 'hastig-project', document }), { name: 'project.json' });
  zip.append(clip, { name: `media/${media.sha256}` });
  await Promise.all([zip.finalize(), once(out, 'end')]);
  return Buffer.concat(pieces);
}

/** Brings in archives that are damaged at random places, in their compressed parts too. Each becomes a project or is refused. */
export async function fuzzArchives(address: string, count: number, seed: number): Promise<Report> {
  const report = new Report(`damaged archives (seed ${seed})`);
  const archive = await packed(address);
  const change = fc.record({ at: fc.double({ min: 0, max: 1, noNaN: true, maxExcluded: true }), value: fc.nat(255) });
  const changes = fc.tuple(fc.array(change, { minLength: 1, maxLength: 5 }), fc.boolean());
  // The first one as it is: what is refused of the others is refused for their damage.
  const whole: [{ at: number; value: number }[], boolean] = [[], false];
  for (const [damage, cut] of [whole, ...fc.sample(changes, { numRuns: count, seed })]) {
    let bytes = Buffer.from(archive);
    for (const { at, value } of damage) bytes[Math.floor(at * bytes.length)] = value;
    if (cut) bytes = bytes.subarray(0, Math.max(1, Math.floor(damage[0]!.at * bytes.length)));
    const what = JSON.stringify({ damage, cut });
    const started = performance.now();
    try {
      const path = await send(address, bytes);
      const answer = await fetch(`${address}${path}/project`, { method: 'POST', signal: AbortSignal.timeout(30_000) });
      const took = performance.now() - started;
      report.tried(String(answer.status), took);
      const body = (await answer.json()) as StoredProject & { detail?: string };
      if (damage.length === 0 && answer.status !== 201) report.fault(`${answer.status} for an archive that is whole`);
      if (answer.status >= 500) report.fault(`${answer.status} for ${what}`);
      if (took > HANGS) report.fault(`${took.toFixed(0)} ms for ${what}`);
      if (/select |insert |undefined|NaN/i.test(body.detail ?? '')) report.fault(`a reason for makers: ${body.detail}`);
      if (answer.ok) await fetch(`${address}/api/projects/${body.id}`, { method: 'DELETE' });
    } catch (error) {
      report.tried('no answer');
      report.fault(`no answer for ${what}: ${(error as Error).message}`);
    }
  }
  return report;
}
