import { createHash, randomBytes } from 'node:crypto';
import { setTimeout as sleep } from 'node:timers/promises';
import type { NewMachineKey, ServerJob, StoredProject, TakenPart } from '@hastig/contract';
import knex from 'knex';
import { startThrowaway } from '../scripts/throwaway';
import { line } from './line';

const JOBS = 100;
const MACHINES = 10;
/** Milliseconds that a part takes, at least and beyond that at most. */
const TAKES = { least: 5000, more: 10_000 };
/** How often a machine goes in the middle of a part: it is lost then, and comes back later. */
const GOES = 0.1;
/** Milliseconds between two looks at what the database has done. */
const LOOK = 15_000;

const facts = { cores: 2, codecs: ['H.264'], can: ['render'], browser: 'Chromium 1' };

/** A hundred jobs at once and ten machines that come and go at random: each done once, by priority, and what the database does meanwhile. */
export async function benchManyJobs(): Promise<void> {
  const app = await startThrowaway('bench');
  const database = knex({ client: 'pg', connection: app.databaseUrl });
  const ask = async (method: string, path: string, body?: object | Buffer, key?: string): Promise<Response> =>
    fetch(`${app.address}/api${path}`, {
      method,
      headers: {
        ...(!Buffer.isBuffer(body) && { 'Content-Type': 'application/json' }),
        ...(key && { Authorization: `Bearer ${key}` }),
      },
      ...(body && { body: (Buffer.isBuffer(body) ? body : JSON.stringify(body)) as BodyInit }),
    });
  const told = async <T>(answer: Promise<Response>): Promise<T> => (await (await answer).json()) as T;
  const done: { file: string; priority: number }[] = [];
  const priorities = new Map<string, number>();
  let over = false;

  const work = async (name: string): Promise<void> => {
    const { key } = await told<NewMachineKey>(ask('POST', '/machines', { name }));
    while (!over) {
      const answer = await ask('POST', '/worker/next', facts, key);
      if (answer.status !== 200) continue;
      const { id, lease, file } = (await answer.json()) as TakenPart;
      const goes = Math.random() < GOES;
      for (let left = TAKES.least + Math.random() * TAKES.more; left > 0; left -= 2000) {
        await sleep(Math.min(2000, left));
        if (!goes) await ask('POST', `/worker/parts/${id}/heard`, { lease, done: 1, framesPerSecond: 1 }, key);
      }
      const content = randomBytes(1000);
      const sha256 = createHash('sha256').update(content).digest('hex');
      if (goes) await sleep(25_000);
      await ask('PUT', `/worker/parts/${id}/file?lease=${lease}&position=0`, content, key);
      const ended = { lease, bytes: content.length, sha256, frames: 1, took: 1 };
      if ((await ask('POST', `/worker/parts/${id}/done`, ended, key)).status === 204) done.push({ file, priority: priorities.get(file)! }); // prettier-ignore
    }
  };

  /** Transactions that ended, and rows that were read, so far. */
  const count = async (): Promise<{ ended: number; read: number }> => {
    const { rows } = await database.raw<{ rows: { ended: string; read: string }[] }>(
      'select xact_commit + xact_rollback as ended, tup_returned as read from pg_stat_database where datname = current_database()',
    );
    return { ended: Number(rows[0]!.ended), read: Number(rows[0]!.read) };
  };

  try {
    const demo = await told<StoredProject>(ask('POST', '/demo'));
    for (let n = 0; n < JOBS; n++) {
      const [file, priority] = [`${n}.gif`, (n % 3) - 1];
      priorities.set(file, priority);
      const render = { projectId: demo.id, revision: demo.revision, file, form: { format: 'gif' }, span: { from: 0, to: 20 } }; // prettier-ignore
      await ask('POST', '/jobs', { render, priority });
    }
    // As an open tab listens.
    const events = new AbortController();
    void fetch(`${app.address}/api/jobs/events`, { signal: events.signal })
      .then(async (answer) => {
        for await (const _ of answer.body as unknown as AsyncIterable<Uint8Array>);
      })
      .catch(() => undefined);
    const machines = Array.from({ length: MACHINES }, (_, n) => work(`Machine ${n}`));
    const begun = performance.now();
    let before = await count();
    for (;;) {
      await sleep(LOOK);
      const now = await count();
      const list = await told<ServerJob[]>(ask('GET', '/jobs'));
      const open = list.filter(({ state }) => state !== 'done').length;
      const each = (what: 'ended' | 'read'): string => (((now[what] - before[what]) * 1000) / LOOK).toFixed(0);
      line(
        `${((performance.now() - begun) / 1000).toFixed(0)} s, ${open} jobs left`,
        `${each('ended')} transactions, ${each('read')} rows a second`,
      );
      before = now;
      if (open === 0) break;
    }
    over = true;
    events.abort();
    await Promise.all(machines);
    const once = new Set(done.map(({ file }) => file)).size;
    const late = done.slice(0, 30).filter(({ priority }) => priority < 1).length;
    line('jobs done, and each once', `${done.length}, ${once}`);
    line('of the first 30, of lower priority', String(late));
  } finally {
    await database.destroy();
    await app.stop();
  }
}
