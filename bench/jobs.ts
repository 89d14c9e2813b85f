import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import type { ProjectDocument, ServerJob, StoredProject } from '@hastig/contract';
import { appendClip, constantSpan, SEQUENCE, wholeClip } from '@hastig/core';
import { startThrowaway } from '../scripts/throwaway';
import { startWorker } from '../scripts/worker-process';
import { emptied } from './emptied';
import { line } from './line';

/** Frames of the film, at 24 a second: eighteen stretches, which two and three machines share evenly. */
const FRAMES = 18 * 192;
/** Milliseconds that a simulated device takes longer for each frame: so long that this machine's cores have time to spare. */
const SLOWNESS = 100;
const LOOK = 200;

/** Two minutes and a half of the demo's sources in turn, slower and faster. */
function film(demo: ProjectDocument): ProjectDocument {
  let project = emptied(demo);
  const clips = 18;
  const seen = project.sources.filter(({ facts }) => facts.video);
  for (let n = 0; n < clips; n++) {
    const whole = wholeClip(project, 'c', seen[n % seen.length]!);
    const timing = { ...whole.timing, spans: [constantSpan(0.25 + (n % 5) / 10, FRAMES / clips)] };
    const shown = { from: 0, frames: FRAMES / clips };
    project = appendClip(project, SEQUENCE, { ...whole, id: `c${n}`, name: `Shot ${n + 1}`, timing, shown });
  }
  return project;
}

/** A film of two minutes and a half rendered by one, two and three machines: simulated ones that are slow, and this one's cores. */
export async function benchJobs(): Promise<void> {
  const dataFolder = await mkdtemp(join(tmpdir(), 'hastig-bench-jobs-'));
  const app = await startThrowaway('bench', dataFolder);
  const ask = async <T>(method: string, path: string, body?: object): Promise<T> => {
    const headers = { 'Content-Type': 'application/json' };
    const answer = await fetch(`${app.address}/api${path}`, { method, headers, ...(body && { body: JSON.stringify(body) }) }); // prettier-ignore
    if (!answer.ok) throw new Error(`${path}: ${await answer.text()}`);
    return (await answer.json()) as T;
  };
  try {
    const demo = await ask<StoredProject>('POST', '/demo');
    const { id, revision } = await ask<StoredProject>('POST', '/projects', { document: film(demo.document) });
    const form = { format: 'mp4', width: 160, height: 90 };
    const render = { projectId: id, revision, file: 'Film.mp4', form, span: { from: 0, to: FRAMES } };
    /** Seconds that so many machines take. */
    const time = async (machines: number, slowness: number): Promise<number> => {
      const flags = slowness > 0 ? ['--slowness', String(slowness)] : [];
      const workers = await Promise.all(
        Array.from({ length: machines }, (_, n) =>
          startWorker({ address: app.address, dataFolder: join(dataFolder, `${n}`), name: `Machine ${n}`, flags }),
        ),
      );
      try {
        // Each has done a part before: what it opens first is no part of the comparison.
        const warm = Array.from({ length: machines }, () =>
          ask<ServerJob>('POST', '/jobs', { render: { ...render, span: { from: 0, to: 24 } } }),
        );
        for (const job of warm) await ended((await job).id);
        const started = performance.now();
        const job = await ask<ServerJob>('POST', '/jobs', { render });
        await ended(job.id);
        return (performance.now() - started) / 1000;
      } finally {
        for (const worker of workers) await worker.stop();
      }
    };
    const ended = async (job: string): Promise<void> => {
      for (;;) {
        const { state, message } = await ask<ServerJob>('GET', `/jobs/${job}`);
        if (state === 'done') return;
        if (state === 'failed') throw new Error(message ?? 'the job failed');
        await new Promise((resolve) => setTimeout(resolve, LOOK));
      }
    };
    for (const [name, slowness, most] of [
      [`devices that take ${SLOWNESS} ms a frame longer`, SLOWNESS, 3],
      ['this machine’s cores', 0, 2],
    ] as const) {
      const one = await time(1, slowness);
      line(name, `1 machine ${one.toFixed(0)} s`);
      for (let machines = 2; machines <= most; machines++) {
        const took = await time(machines, slowness);
        line('', `${machines} machines ${took.toFixed(0)} s, ${(one / took).toFixed(2)} times as fast`);
      }
    }
  } finally {
    await app.stop();
    await rm(dataFolder, { recursive: true, force: true });
  }
}
