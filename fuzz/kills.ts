import type { PatchOperation, StoredProject } from '@hastig/contract';
import fc from 'fast-check';
import type { ThrowawayApp } from '../scripts/throwaway';
import { Report } from './report';

const PROJECTS = 4;
/** Milliseconds of work before the server is ended. */
const pauses = fc.integer({ min: 30, max: 900 });

/** Somebody who edits a project, one change after the other, and remembers what was acknowledged. */
class Editor {
  private count = 0;
  /** What was acknowledged last. */
  saved: { revision: number; name: string };
  /** What was sent and not answered: it may have been taken or not. */
  private sent: string | undefined;

  constructor(
    private readonly address: string,
    readonly id: string,
    made: StoredProject,
  ) {
    this.saved = { revision: made.revision, name: made.document.name };
  }

  /** Edits until the server is gone. @returns how many changes were acknowledged */
  async edit(): Promise<number> {
    let acknowledged = 0;
    for (;;) {
      const name = `change ${++this.count}`;
      const patch: PatchOperation[] = [{ op: 'replace', path: '/name', value: name }];
      this.sent = name;
      const answer = await fetch(`${this.address}/api/projects/${this.id}`, {
        method: 'PATCH',
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify({ revision: this.saved.revision, patch }),
      }).catch(() => undefined);
      const body = (await answer?.json().catch(() => undefined)) as { revision?: number } | undefined;
      if (!answer?.ok || !body?.revision) return acknowledged;
      this.saved = { revision: body.revision, name };
      this.sent = undefined;
      acknowledged++;
    }
  }

  /** Looks at what a server that was started again has of it. @returns what is wrong with it */
  async look(): Promise<string | undefined> {
    const answer = await fetch(`${this.address}/api/projects/${this.id}`);
    if (!answer.ok) return `its project answers ${answer.status}`;
    const { revision, document } = (await answer.json()) as StoredProject;
    const kept = revision === this.saved.revision && document.name === this.saved.name;
    const andMore = revision === this.saved.revision + 1 && document.name === this.sent;
    this.saved = { revision, name: document.name };
    return kept || andMore ? undefined : `revision ${revision}, “${document.name}”`;
  }
}

/** Ends the server in the middle of edits, time after time: nothing that was acknowledged is lost, nothing is half there. */
export async function fuzzKills(app: ThrowawayApp, count: number, seed: number): Promise<Report> {
  const report = new Report(`kills (seed ${seed})`);
  const editors = await Promise.all(
    Array.from({ length: PROJECTS }, async () => {
      const made = (await (await fetch(`${app.address}/api/demo`, { method: 'POST' })).json()) as StoredProject;
      return new Editor(app.address, made.id, made);
    }),
  );
  let acknowledged = 0;
  for (const pause of fc.sample(pauses, { numRuns: count, seed })) {
    const editing = editors.map((editor) => editor.edit());
    await new Promise((resolve) => setTimeout(resolve, pause));
    await app.kill();
    for (const changes of await Promise.all(editing)) acknowledged += changes;
    const started = performance.now();
    await app.restart();
    const took = performance.now() - started;
    for (const editor of editors) {
      const before = editor.saved;
      const wrong = await editor.look();
      report.tried(wrong ? 'lost' : 'kept', took);
      if (wrong) report.fault(`acknowledged were revision ${before.revision}, “${before.name}”; there is ${wrong}`);
    }
  }
  report.note(`${acknowledged} changes acknowledged, the server ended ${count} times`);
  return report;
}
