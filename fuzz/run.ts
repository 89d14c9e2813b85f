import { randomInt } from 'node:crypto';
import { writeFile } from 'node:fs/promises';
import { parseArgs } from 'node:util';
import { startThrowaway } from '../scripts/throwaway';
import { fuzzArchives } from './archives';
import { fuzzCosts } from './costs';
import { fuzzDisk } from './disk';
import { fuzzFrameTimes } from './frame-times';
import { fuzzInterface } from './interface';
import { fuzzKills } from './kills';
import { fuzzMedia } from './media';
import type { Report } from './report';
import { fuzzRequests } from './requests';

/**
 * Tries what nobody does on purpose, bounded and repeatable: `--seed` begins the same run again; `--requests`, `--media`,
 * `--archives`, `--times` (of frames), `--actions`, `--kills` and `--disk` (files, onto a disk that they fill) say how much of each. Loopback only.
 */
const { values } = parseArgs({
  allowNegative: true,
  options: {
    seed: { type: 'string' },
    requests: { type: 'string', default: '3000' },
    media: { type: 'string', default: '200' },
    actions: { type: 'string', default: '400' },
    archives: { type: 'string', default: '60' },
    times: { type: 'string', default: '300' },
    costs: { type: 'boolean', default: true },
    kills: { type: 'string', default: '0' },
    disk: { type: 'string', default: '0' },
    /** Where counts are written, for whoever adds them up. */
    report: { type: 'string' },
  },
});
const seed = Number(values.seed ?? randomInt(2 ** 31));
const app = await startThrowaway('fuzz');
const reports: Report[] = [];
try {
  const run = async (made: Promise<Report>): Promise<void> => {
    const report = await made;
    report.print();
    reports.push(report);
  };
  // Before anything is asked: it computes for so long that the server would give up connections that idle meanwhile.
  if (Number(values.times)) await run(fuzzFrameTimes(Number(values.times), seed));
  if (Number(values.kills)) await run(fuzzKills(app, Number(values.kills), seed));
  if (Number(values.requests)) await run(fuzzRequests(app.address, Number(values.requests), seed));
  if (Number(values.media)) await run(fuzzMedia(app.address, Number(values.media), seed));
  if (Number(values.archives)) await run(fuzzArchives(app.address, Number(values.archives), seed));
  if (values.costs) await run(fuzzCosts(app.address));
  if (Number(values.actions)) {
    await run(fuzzInterface(app.address, { width: 390, height: 844 }, Number(values.actions), seed));
    await run(fuzzInterface(app.address, { width: 1280, height: 800 }, Number(values.actions), seed + 1));
  }
  const health = await fetch(`${app.address}/api/health`).catch((error: Error) => error);
  if (health instanceof Error || !health.ok) {
    console.log(`✘ the server is gone: ${health instanceof Error ? String(health.cause ?? health) : health.status}`);
    process.exitCode = 1;
  }
} finally {
  await app.stop();
}
if (Number(values.disk)) {
  const report = await fuzzDisk(Number(values.disk));
  if (report) {
    report.print();
    reports.push(report);
  } else console.log('a full disk: not tried, only root may mount a small one');
}
const failed = reports.filter((report) => report.failed > 0).length;
if (values.report)
  await writeFile(
    values.report,
    JSON.stringify({ passed: reports.length - failed, failed: failed + (process.exitCode ? 1 : 0) }),
  );
if (failed > 0) process.exitCode = 1;
