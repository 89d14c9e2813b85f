import { mkdtemp, open, rm, type FileHandle } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { Rate } from '@hastig/contract';
import { mapProgram, constantSpan } from '@hastig/core';
import type { RenderJob } from '@hastig/engine';
import { openHeadlessPage, type HeadlessPage } from '@hastig/headless';
import express from 'express';

/** A path beside this file. */
export const here = (path: string): string => fileURLToPath(new URL(path, import.meta.url));

/** A page that renders, and the folder in which its files lie until it is closed. */
interface Bench extends HeadlessPage {
  folder: string;
}

export async function openBench(): Promise<Bench> {
  const folder = await mkdtemp(join(tmpdir(), 'hastig-bench-'));
  const files = new Map<string, FileHandle>();
  const headless = await openHeadlessPage({
    entry: here('./page.ts'),
    bundles: { '/engine/engine.worker.js': fileURLToPath(import.meta.resolve('@hastig/engine/worker')) },
    routes: (app) => {
      app.get('/demo/:name', (request, response) =>
        response.sendFile(here(`../demo/media/${request.params.name}.mp4`)),
      );
      // A page without a profile caches what it loads in memory; with one it would lie on the disk.
      app.get('/clip', (_request, response) =>
        response.sendFile(join(folder, 'clip'), { cacheControl: false, headers: { 'Cache-Control': 'no-store' } }),
      );
      app.put(['/out', '/clip'], express.raw({ type: () => true, limit: '64mb' }), async (request, response) => {
        const name = request.path.slice(1);
        if (!files.has(name) || (name === 'clip' && request.query.position === '0')) {
          await files.get(name)?.close();
          files.set(name, await open(join(folder, name), 'w'));
        }
        await files.get(name)!.write(request.body as Buffer, 0, undefined, Number(request.query.position));
        response.end();
      });
      app.post(['/out', '/clip'], (_request, response) => void response.end());
      app.delete(['/out', '/clip'], (_request, response) => void response.end());
    },
  });
  const close = async (): Promise<void> => {
    await headless.close();
    for (const file of files.values()) await file.close();
    await rm(folder, { recursive: true, force: true });
  };
  return { ...headless, close, folder };
}

/** Renders a whole source at real time, forward and back again as often as `passes` says. */
export function job(
  bench: Bench,
  path: string,
  bytes: number,
  sourceRate: Rate,
  frames: number,
  width: number,
  height: number,
  passes = 1,
): RenderJob {
  const spans = Array.from({ length: passes }, (_, pass) => constantSpan(pass % 2 ? -1 : 1, frames));
  return {
    format: 'mp4',
    program: mapProgram({ sourceRate, outputRate: sourceRate, sourceFrames: frames, start: 0, spans }, 'source'),
    sources: { source: { url: `${bench.address}${path}`, bytes } },
    rate: sourceRate,
    width,
    height,
    quality: 'high',
    sound: false,
    target: { to: 'address', url: `${bench.address}/out` },
  };
}
