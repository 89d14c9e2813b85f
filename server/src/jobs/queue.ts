import type { JobKind } from '@hastig/contract';
import type { Knex } from 'knex';
import PgBoss from 'pg-boss';
import { logFault } from '../http/log';

/** A part that waits to be done. Its id in the queue is its own. */
export interface Queued {
  id: string;
  kind: JobKind;
  priority: number;
}

/** Hours after which the queue itself would take a part for lost, and days for which it keeps one; its bounds. */
const LONGEST = 23;
const KEPT_DAYS = 365;
/** Tries of a part that the queue allows; who counts them are the parts. */
const TRIES = 1000;

/** As much of Knex's client as lends a connection. */
interface Lender {
  acquireConnection(): Promise<{ query(text: string, values: unknown[]): Promise<{ rows: unknown[] }> }>;
  releaseConnection(connection: unknown): Promise<void>;
}

/** Knex's own connections as the queue takes them, within a transaction too. */
const through = (knex: Knex): PgBoss.Db => ({
  executeSql: async (text, values) => {
    const lender = knex.client as Lender;
    const connection = await lender.acquireConnection();
    try {
      return (await connection.query(text, values)) as { rows: unknown[] };
    } finally {
      await lender.releaseConnection(connection);
    }
  },
});

/** What waits to be done, in the database: which comes next, and that nobody else takes it too (`pg-boss`). */
export class Queue {
  private boss: Promise<PgBoss> | undefined;
  private kept: PgBoss | undefined;

  constructor(private readonly knex: Knex) {}

  /** Puts parts in, or in again with another priority. */
  async put(parts: readonly Queued[], within: Knex): Promise<void> {
    await this.takeOut(parts, within);
    const jobs = parts.map(({ id, kind, priority }) => ({ id, name: kind, priority, data: {} }));
    if (jobs.length > 0) await (await this.ready()).insert(jobs, { db: through(within) });
  }

  async takeOut(parts: readonly Pick<Queued, 'id' | 'kind'>[], within: Knex): Promise<void> {
    for (const kind of new Set(parts.map((part) => part.kind))) {
      const ids = parts.filter((part) => part.kind === kind).map(({ id }) => id);
      await (await this.ready()).deleteJob(kind, ids, { db: through(within) });
    }
  }

  /** Takes the next ones, in their order, for as long as the transaction holds; none where none waits. */
  async take(kind: JobKind, most: number, within: Knex): Promise<Queued[]> {
    const asked = { batchSize: most, includeMetadata: true, db: through(within) } as const;
    const taken = await (await this.ready()).fetch(kind, asked);
    // The order in which the database gives what it changed is not said.
    return taken
      .map(({ id, priority }) => ({ id, kind, priority }))
      .sort((a, b) => b.priority - a.priority || (a.id < b.id ? -1 : 1));
  }

  async complete(kind: JobKind, id: string, within: Knex): Promise<void> {
    await (await this.ready()).complete(kind, id, { db: through(within) });
  }

  /** Throws away what was done long ago. */
  async tidy(): Promise<void> {
    await (await this.ready()).maintain();
  }

  async stop(): Promise<void> {
    await this.boss?.catch(() => undefined);
    await this.kept?.stop({ graceful: false, close: false, wait: false });
  }

  // Begun when it is first needed; a database that is away then is asked again by the next.
  private ready(): Promise<PgBoss> {
    this.boss ??= this.start().catch((error: unknown) => {
      this.boss = undefined;
      throw error;
    });
    return this.boss;
  }

  private async start(): Promise<PgBoss> {
    const { rows } = await this.knex.raw<{ rows: { name: string }[] }>('select current_schema() as name');
    const boss = new PgBoss({
      db: through(this.knex),
      schema: `${rows[0]!.name}_queue`,
      // Whoever runs the server sees to it, not a clock that asks the database all day.
      supervise: false,
      schedule: false,
      retryLimit: TRIES,
      expireInHours: LONGEST,
      retentionDays: KEPT_DAYS,
    });
    boss.on('error', (error) => logFault('The queue', error));
    await boss.start();
    for (const kind of ['render', 'convert'] satisfies JobKind[]) await boss.createQueue(kind);
    return (this.kept = boss);
  }
}
