import { randomUUID } from 'node:crypto';
import { EventEmitter } from 'node:events';
import type {
  ConvertOrder,
  JobChange,
  JobLogLine,
  JobSettings,
  JobState,
  NewJob,
  RenderOrder,
  ServerJob,
} from '@hastig/contract';
import type { Knex } from 'knex';
import { uuid } from '../http/checked';
import { HttpProblem, notFound } from '../http/problem';
import type { Uploads } from '../media/uploads';
import type { ProjectStore } from '../projects/store';
import type { JobFiles } from './files';
import { convertible } from './convertible';
import { listJobs } from './listed';
import { planRender } from './plan';
import type { Queue } from './queue';
import { openStates, type ConversionOrder, type JobRow, type PartRow } from './rows';

/** Lines of a log that are told at most. */
const MOST_LINES = 1000;
/** A job as it is made. */
interface NewRow {
  id: string;
  kind: JobRow['kind'];
  priority: number;
  file: string;
  project_id: string | null;
  project: string;
  media: string[];
  needs?: string | null;
  total: number;
  /** JSON. */
  order: string;
  document?: string;
}

interface JobStoreOptions {
  uploads: Uploads;
  knex: Knex;
  queue: Queue;
  files: JobFiles;
  projects: ProjectStore;
}

/** What the server has to do and did: jobs, each in parts that wait in a queue. */
export class JobStore {
  /** Tells that something about a job is other than it was (`changed`), and that there may be more to do (`more`). */
  readonly events = new EventEmitter();

  constructor(private readonly options: JobStoreOptions) {
    this.events.setMaxListeners(0);
  }

  /** Takes an order. Throws HttpProblem 404 and 422. */
  add({ render, convert, priority = 0 }: NewJob): Promise<ServerJob> {
    return render ? this.addRender(render, priority) : this.addConversion(convert!, priority);
  }

  private async addRender(render: RenderOrder, priority: number): Promise<ServerJob> {
    const { projects } = this.options;
    const { document } = await projects.at(render.projectId, render.revision);
    const { total, media, needs, tasks } = planRender(document, render);
    const job = {
      ...{ id: randomUUID(), kind: 'render' as const, priority, file: render.file },
      ...{ project_id: render.projectId, project: document.name, media, needs, total },
      ...{ order: JSON.stringify(render), document: JSON.stringify(document) },
    };
    await this.options.knex.transaction((transaction) => this.insert(transaction, job, tasks));
    this.told();
    return this.one(job.id);
  }

  // The upload is the job's from then on.
  private async addConversion({ uploadId, file, projectId }: ConvertOrder, priority: number): Promise<ServerJob> {
    const { knex, uploads, files } = this.options;
    const id = randomUUID();
    let added = false;
    try {
      await uploads.withFile(uploadId, async (path) => {
        const from = await convertible(path);
        const sha256 = await files.takeOriginal(id, path);
        const job = {
          ...{ id, kind: 'convert' as const, priority, file, project_id: projectId ?? null, project: '' },
          ...{ media: [sha256], total: 100, order: JSON.stringify({ sha256, from } satisfies ConversionOrder) },
        };
        await knex.transaction((transaction) => this.insert(transaction, job, [{ do: 'convert', sha256 }]));
        added = true;
      });
    } catch (error) {
      // Of one that was added only the upload could not be taken away.
      if (!added) await files.remove(id);
      throw error;
    }
    this.told();
    return this.one(id);
  }

  private async insert(knex: Knex, job: NewRow, tasks: readonly PartRow['task'][]): Promise<void> {
    const { id, kind, priority } = job;
    const [{ number }] = (await knex<JobRow>('jobs').insert(job as object, 'number')) as [{ number: number }];
    const place = { priority, number };
    const parts = tasks.map((task, index) => ({
      ...{ id: randomUUID(), job_id: id, number: index, task },
      state: task.do === 'join' ? ('held' as const) : ('waiting' as const),
    }));
    await knex('job_parts').insert(parts.map((part) => ({ ...part, task: JSON.stringify(part.task) })));
    const waiting = parts.filter(({ state }) => state === 'waiting');
    await this.options.queue.put(
      waiting.map((part) => ({ id: part.id, kind, priority: priorityOf(place, part) })),
      knex,
    );
    await logLine(knex, id, `Added: ${tasks.length} ${tasks.length === 1 ? 'part' : 'parts'}.`);
  }

  /** Those that are still to be done and the last that ended, newest first. */
  list(): Promise<ServerJob[]> {
    return listJobs(this.options.knex);
  }

  async one(id: string): Promise<ServerJob> {
    const [found] = uuid.test(id) ? await listJobs(this.options.knex, id) : [];
    if (!found) throw notFound('job');
    return found;
  }

  /** Digest of what a conversion is about. */
  async originalOf(id: string): Promise<string> {
    const row = await this.options.knex<JobRow>('jobs').where({ id }).first();
    return row!.media[0]!;
  }

  async log(id: string): Promise<JobLogLine[]> {
    await this.one(id);
    const rows = (await this.options.knex('job_log').where({ job_id: id }).orderBy('id', 'desc').limit(MOST_LINES)) as {
      at: Date;
      machine: string | null;
      text: string;
    }[];
    return rows.reverse().map(({ at, machine, text }) => ({ at: at.toISOString(), machine, text }));
  }

  /** Has a job wait, go on, end, or come sooner or later. Throws 404; 409 for what can't be any more. */
  async change(id: string, { priority, state }: JobChange): Promise<ServerJob> {
    if (!uuid.test(id)) throw notFound('job');
    const { knex, files } = this.options;
    await knex.transaction(async (transaction) => {
      const job = await transaction<JobRow>('jobs').where({ id }).forUpdate().first();
      if (!job) throw notFound('job');
      const now = { ...job, ...(priority !== undefined && { priority }) };
      if (state !== undefined) now.state = await this.nextState(transaction, job, state);
      await transaction('jobs').where({ id }).update({ priority: now.priority, state: now.state });
      await this.queueAnew(transaction, now);
    });
    if (state === 'cancelled') await files.tidy(id);
    this.told();
    return this.one(id);
  }

  private async nextState(knex: Knex, job: JobRow, wanted: NonNullable<JobChange['state']>): Promise<JobState> {
    const { id } = job;
    const open = openStates.includes(job.state);
    if (wanted === 'cancelled') {
      if (!open) throw over();
      await knex('job_parts').where({ job_id: id }).whereNot('state', 'done').update({ state: 'held', lease: null, machine_id: null, done: 0 }); // prettier-ignore
      await knex('jobs').where({ id }).update({ ended_at: knex.fn.now() });
      await logLine(knex, id, 'Cancelled.');
      return 'cancelled';
    }
    if (wanted === 'paused') {
      if (!open) throw over();
      if (job.state !== 'paused') await logLine(knex, id, 'Paused.');
      return 'paused';
    }
    if (job.state === 'done') throw over();
    if (!open) await this.begin(knex, job);
    else if (job.state === 'paused') await logLine(knex, id, 'Resumed.');
    const [running] = await knex('job_parts').where({ job_id: id }).whereNot({ state: 'waiting' }).whereNot({ state: 'held' }).limit(1); // prettier-ignore
    return running ? 'running' : 'waiting';
  }

  // What was done of one that failed is kept; of one that was cancelled nothing is.
  private async begin(knex: Knex, { id, state }: JobRow): Promise<void> {
    const again = knex<PartRow>('job_parts').where({ job_id: id });
    if (state === 'failed') void again.whereNot({ state: 'done' });
    else await knex('jobs').where({ id }).update({ browser: null });
    await again.update({
      ...{ lease: null, machine_id: null, done: 0, failures: 0, losses: 0, frames_per_second: 0 },
      state: knex.raw(`case when task->>'do' = 'join' then 'held' else 'waiting' end`),
    });
    await knex('jobs').where({ id }).update({ message: null, ended_at: null });
    await logLine(knex, id, 'Started again.');
    await this.releaseJoin(knex, id);
  }

  /** Lets what joins the parts of a job be done, once there is nothing else to do. @returns it, where it was waiting for that */
  async releaseJoin(knex: Knex, jobId: string): Promise<PartRow | undefined> {
    const parts = await knex<PartRow>('job_parts').where({ job_id: jobId });
    const join = parts.find(({ task }) => task.do === 'join');
    if (join?.state !== 'held' || parts.some((part) => part !== join && part.state !== 'done')) return undefined;
    await knex('job_parts').where({ id: join.id }).update({ state: 'waiting' });
    return join;
  }

  /** Puts into the queue what waits, and takes out what does not. */
  async queueAnew(knex: Knex, job: Pick<JobRow, 'id' | 'number' | 'kind' | 'priority' | 'state'>): Promise<void> {
    const { queue } = this.options;
    const { id, kind, state } = job;
    const parts = await knex<PartRow>('job_parts').where({ job_id: id }).orderBy('number');
    const waits = state === 'waiting' || state === 'running';
    const [now, later] = [
      parts.filter((part) => waits && part.state === 'waiting'),
      parts.filter((part) => !waits || part.state === 'held'),
    ];
    await queue.takeOut(later.map((part) => ({ id: part.id, kind })), knex); // prettier-ignore
    await queue.put(now.map((part) => ({ id: part.id, kind, priority: priorityOf(job, part) })), knex); // prettier-ignore
  }

  /** Takes one out of the list, with its file. Throws 404; 409 for one that is still to be done. */
  async remove(id: string): Promise<void> {
    const { state } = await this.one(id);
    if (openStates.includes(state)) throw new HttpProblem(409, 'The job is still running. Cancel it first.');
    await this.options.knex('jobs').where({ id }).delete();
    await this.options.files.remove(id);
    this.told();
  }

  async settings(): Promise<JobSettings> {
    const row = (await this.options.knex('job_settings').where({ id: 1 }).first()) as { at_once: number };
    return { atOnce: row.at_once };
  }

  async set({ atOnce }: JobSettings): Promise<JobSettings> {
    await this.options.knex('job_settings').where({ id: 1 }).update({ at_once: atOnce });
    this.told();
    return { atOnce };
  }

  /** Something is other than it was; and there may be more to do, unless it is told that there is not. */
  told(more = true): void {
    this.events.emit('changed');
    if (more) this.events.emit('more');
  }
}

/** Steps between two priorities of jobs, and between two jobs: more of the first than there are jobs. */
const STEP = 600_000_000;
const OF_JOB = 3;

/** Where a part stands in the queue, the highest first: jobs of one priority in the order in which they came; of each what joins it, then its sound and what is tried again. */
export function priorityOf(
  { priority, number }: Pick<JobRow, 'priority' | 'number'>,
  { task, failures = 0, losses = 0 }: Pick<PartRow, 'task'> & Partial<Pick<PartRow, 'failures' | 'losses'>>,
): number {
  const first = task.do === 'join' ? 2 : task.do === 'sound' || failures + losses > 0 ? 1 : 0;
  return STEP * priority - OF_JOB * number + first;
}

export async function logLine(knex: Knex, jobId: string, text: string, machine?: string): Promise<void> {
  await knex('job_log').insert({ job_id: jobId, text, machine: machine ?? null });
}

const over = (): HttpProblem => new HttpProblem(409, 'The job has ended.');
