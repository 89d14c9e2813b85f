import { execFileSync } from 'node:child_process';
import { mkdtemp, open, rm, stat, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Rate, RetimeMap } from '@hastig/contract';
import {
  compile,
  constantSpan,
  drawSpeeds,
  eases,
  heldFrame,
  keysOf,
  positionAt,
  rampSpan,
  setPlateauSpeed,
  type DrawnPoint,
} from '@hastig/core';
import type { RenderJob } from '@hastig/engine/job';
import { openHeadlessPage, type HeadlessPage } from '@hastig/headless';
import express from 'express';
import { benchPreview } from './preview';

/** Figures of this machine, each beside a reference of the same run. They are printed, not judged. */

const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url));
const rate = (num: number, den = 1): Rate => ({ num, den });
const line = (name: string, text: string): void => console.log(`${name.padEnd(34)} ${text}`);
const best = (times: number[]): number => Math.min(...times);

function time(task: () => void, rounds = 5): number {
  const times = Array.from({ length: rounds }, () => {
    const started = performance.now();
    task();
    return performance.now() - started;
  });
  return best(times);
}

function benchCore(): void {
  const spans = Array.from({ length: 50 }, (_, i) =>
    i % 2 ? rampSpan(0.4, 3, 200, eases['ease-in-out']) : constantSpan(i % 4 ? 3 : 0.4, 200),
  );
  const map: RetimeMap = { sourceRate: rate(60), outputRate: rate(24), sourceFrames: 100_000, start: 0, spans };
  const ready = compile(map);
  let sum = 0;
  const lookups = time(() => {
    for (let i = 0; i < 1_000_000; i++) sum += positionAt(ready, (i * 7919) % 10_000);
  });
  const reference = time(() => {
    for (let i = 0; i < 1_000_000; i++) sum += Math.sin((i * 7919) % 10_000);
  });
  line(
    '1 M positions, 50 spans',
    `${lookups.toFixed(0)} ms (1 M Math.sin: ${reference.toFixed(0)} ms, ratio ${(lookups / reference).toFixed(1)})`,
  );
  const points: DrawnPoint[] = Array.from({ length: 5001 }, (_, i) => ({ at: 2 * i, speed: i % 3 ? 1 : 0.5 }));
  const many = drawSpeeds({ ...map, spans: [constantSpan(1, 10_001)] }, points, 'length');
  const index = many.spans.findIndex((span) => span.y.every((speed) => speed === 1));
  line(
    `an edit of ${keysOf(many).length} keys`,
    `${time(() => void compile(setPlateauSpeed(many, index, 0.7, 'content'))).toFixed(2)} ms`,
  );
  if (!Number.isFinite(sum) || heldFrame(ready, 0) !== 0) throw new Error('the look-ups went wrong');
}

interface Bench extends HeadlessPage {
  folder: string;
}

async function openBench(): Promise<Bench> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-bench-'));
  const files = new Map<string, FileHandle>();
  const headless = await openHeadlessPage({
    entry: here('./page.ts'),
    routes: (app) => {
      app.get('/demo/:name', (request, response) =>
        response.sendFile(here(`../demo/media/${request.params.name}.mp4`)),
      );
      app.get('/clip', (_request, response) => response.sendFile(join(folder, 'clip')));
      app.put(['/out', '/clip'], express.raw({ type: () => true, limit: '64mb' }), async (request, response) => {
        const name = request.path.slice(1);
        if (!files.has(name) || (name === 'clip' && request.query.position === '0'))
          files.set(name, await open(join(folder, name), 'w'));
        await files.get(name)!.write(request.body as Buffer, 0, undefined, Number(request.query.position));
        response.end();
      });
      app.post('/out', (_request, response) => void response.end());
      app.delete('/out', (_request, response) => void response.end());
    },
  });
  const close = async (): Promise<void> => {
    await headless.close();
    for (const file of files.values()) await file.close();
  };
  return { ...headless, close, folder };
}

function job(
  bench: Bench,
  path: string,
  bytes: number,
  sourceRate: Rate,
  frames: number,
  width: number,
  height: number,
): RenderJob {
  return {
    location: { url: `${bench.address}${path}`, bytes },
    map: { sourceRate, outputRate: sourceRate, sourceFrames: frames, start: 0, spans: [constantSpan(1, frames)] },
    rate: sourceRate,
    width,
    height,
    quality: 'high',
    sound: false,
    target: { to: 'address', url: `${bench.address}/out` },
  };
}

async function benchExport(bench: Bench): Promise<void> {
  const { size } = await stat(here('../demo/media/bowl.mp4'));
  const order = job(bench, '/demo/bowl', size, rate(60), 300, 1280, 720);
  const plain: number[] = [];
  const exported: number[] = [];
  for (let round = 0; round < 4; round++) {
    plain.push(
      await bench.page.evaluate((address) => window.plain(address), order.location && `${bench.address}/demo/bowl`),
    );
    exported.push(await bench.page.evaluate((one) => window.exported(one), order));
  }
  const [a, b] = [Math.max(...plain), Math.max(...exported)];
  line(
    '720p held-frame export',
    `${b.toFixed(1)} frames/s; plain decode → encode ${a.toFixed(1)}; ratio ${(b / a).toFixed(2)}`,
  );
}

/** Resident memory of all Chromium processes this process started, in bytes. */
function browserMemory(): number {
  const rows = execFileSync('ps', ['-eo', 'pid,ppid,rss,comm'], { encoding: 'utf8' }).trim().split('\n').slice(1);
  const processes = rows
    .map((row) => row.trim().split(/\s+/))
    .map(([pid, parent, rss, name]) => ({ pid, parent, rss: Number(rss) * 1024, name }));
  const ours = new Set([String(process.pid)]);
  for (let grown = true; grown;) {
    grown = false;
    for (const { pid, parent } of processes) {
      if (ours.has(parent!) && !ours.has(pid!)) grown = !!ours.add(pid!);
    }
  }
  return processes
    .filter(({ pid, name }) => ours.has(pid!) && name!.startsWith('chrom'))
    .reduce((sum, { rss }) => sum + rss, 0);
}

async function benchMemory(seconds: number): Promise<number> {
  const bench = await openBench();
  try {
    const frames = await bench.page.evaluate((length) => window.makeClip(length, 24), seconds);
    const { size } = await stat(join(bench.folder, 'clip'));
    // A fresh page, so that making the clip does not count.
    await bench.page.reload();
    let peak = 0;
    const timer = setInterval(() => (peak = Math.max(peak, browserMemory())), 250);
    await bench.page.evaluate((one) => window.exported(one), job(bench, '/clip', size, rate(24), frames, 640, 360));
    clearInterval(timer);
    return Math.max(peak, browserMemory());
  } finally {
    await bench.close();
    await rm(bench.folder, { recursive: true, force: true });
  }
}

benchCore();
const bench = await openBench();
await benchExport(bench);
await bench.close();
await rm(bench.folder, { recursive: true, force: true });
for (const { shown, skipped, worstDelay, emptyPage, curve } of await benchPreview(4)) {
  line(
    '720p preview at 30 fps, −2 … 4',
    `${shown} shown, ${skipped} skipped, worst delay ${worstDelay.toFixed(0)} ms (empty page: ${emptyPage} animation frames a second)`,
  );
  line('the curve, drawn', `median ${curve.median.toFixed(1)} ms, slowest ${curve.slowest.toFixed(1)} ms`);
}
const mega = (bytes: number): string => `${(bytes / 1e6).toFixed(0)} MB`;
let first: number | undefined;
for (const seconds of [10, 60, 600]) {
  const peak = await benchMemory(seconds);
  first ??= peak;
  line(
    `memory of a render, ${seconds} s source`,
    `${mega(peak)} at its peak, all browser processes (ratio ${(peak / first).toFixed(2)})`,
  );
}
