import { randomUUID } from 'node:crypto';
import type {
  JobKind,
  MachineFacts,
  PartDone,
  PartFailed,
  PartHeard,
  PartTask,
  PartWish,
  TakenPart,
} from '@hastig/contract';
import { Mutex } from 'async-mutex';
import type { Knex } from 'knex';
import { uuid } from '../http/checked';
import { HttpProblem, notFound } from '../http/problem';
import type { JobFiles } from './files';
import type { Queue, Queued } from './queue';
import type { MediaStore } from '../media/store';
import { openStates, type ConversionOrder, type JobRow, type MachineRow, type PartRow } from './rows';
import { logLine, priorityOf, type JobStore } from './store';
import { anySuits, leftAlone, makeAnew, suits } from './suits';

/** Milliseconds after which a machine that says nothing is taken for lost, and its part given to another. */
export const LOST = 20_000;
/** Times that a part may fail, or its machine be lost, before its job is given up. */
const MOST_FAILURES = 3;
const MOST_LOSSES = 6;

interface PartStoreOptions {
  knex: Knex;
  queue: Queue;
  files: JobFiles;
  jobs: JobStore;
  media: MediaStore;
}

interface Leased {
  part: PartRow;
  job: JobRow;
}

/** Who takes a part has it under a lease; whoever was taken for lost comes with an older one. */
const stale = (): HttpProblem => new HttpProblem(409, 'This part was given to another machine, or cancelled.');

/** The parts of jobs, as machines take, do and give them back. */
export class PartStore {
  // Who waits for a turn is not to hold a connection meanwhile: there are fewer of them than machines.
  private readonly turn = new Mutex();

  constructor(private readonly options: PartStoreOptions) {}

  /** Gives a machine the next part that it can do; undefined where there is none, or enough are at work. */
  async next(machine: MachineRow, facts: MachineFacts): Promise<TakenPart | undefined> {
    const { jobs } = this.options;
    const kinds = (['convert', 'render'] as const).filter(
      (kind) => facts.can.includes(kind) && machine.scopes.includes(kind),
    );
    const taken = await this.inTurn(async (transaction) => {
      // No more are at work than may be.
      const [{ count }] = (await transaction('job_parts').where({ state: 'running' }).count()) as [{ count: string }];
      const { at_once: most } = (await transaction('job_settings').where({ id: 1 }).first()) as { at_once: number };
      if (Number(count) >= most) return undefined;
      for (const kind of kinds) {
        const found = await this.takeOf(transaction, kind, machine, facts);
        if (found) return found;
      }
      return undefined;
    });
    if (taken) jobs.told(false);
    return taken;
  }

  // Parts are given away one after the other, by all servers at a database.
  private inTurn<T>(work: (transaction: Knex) => Promise<T>): Promise<T> {
    return this.turn.runExclusive(() =>
      this.options.knex.transaction(async (transaction) => {
        await transaction.raw("select pg_advisory_xact_lock(hashtext('hastig jobs ' || current_schema()))");
        return work(transaction);
      }),
    );
  }

  // The queue knows no machines: what does not suit this one is passed over, and put back where it was.
  private async takeOf(
    knex: Knex,
    kind: JobKind,
    machine: MachineRow,
    facts: MachineFacts,
  ): Promise<TakenPart | undefined> {
    const { queue } = this.options;
    if (!(await anySuits(knex, kind, facts))) return undefined;
    const passed: Queued[] = [];
    let found: PartRow | undefined;
    for (let most = 1; !found; most *= 2) {
      const queued = await queue.take(kind, most, knex);
      if (queued.length === 0) break;
      for (const one of queued) {
        const waits: PartRow | 'later' | undefined = found ? 'later' : await this.waiting(knex, one.id, facts);
        // What was changed meanwhile is put in anew when it waits again.
        if (waits === undefined) await queue.takeOut([one], knex);
        else if (waits === 'later') passed.push(one);
        else found = waits;
      }
    }
    await queue.put(passed, knex);
    return found && this.lease(knex, found, machine, facts);
  }

  // A part if it suits a machine; undefined where it does not wait at all.
  private async waiting(knex: Knex, id: string, facts: MachineFacts): Promise<PartRow | 'later' | undefined> {
    const part = await knex<PartRow>('job_parts').where({ id }).forUpdate().first();
    const job = part && (await knex<JobRow>('jobs').where({ id: part.job_id }).first('state', 'needs', 'browser'));
    if (!part || !job || part.state !== 'waiting' || !['waiting', 'running'].includes(job.state)) return undefined;
    return suits(job, facts) ? part : 'later';
  }

  private async lease(knex: Knex, part: PartRow, { id, name }: MachineRow, facts: MachineFacts): Promise<TakenPart> {
    const lease = randomUUID();
    await knex('job_parts')
      .where({ id: part.id })
      .update({
        ...{ state: 'running', lease, machine_id: id, heard_at: knex.fn.now() },
        ...{ done: 0, frames_per_second: 0 },
      });
    const others = await knex('job_parts').where({ job_id: part.job_id }).whereNot({ id: part.id }).first('id');
    const [job] = (await knex<JobRow>('jobs')
      .where({ id: part.job_id })
      .update({
        state: 'running',
        started_at: knex.raw('coalesce(started_at, now())'),
        ...(others && { browser: facts.browser ?? null }),
      })
      .returning('*')) as [JobRow];
    await logLine(knex, job.id, `Started: ${taskWords(part.task)}.`, name);
    const task = await this.wholeTask(knex, part);
    const order = job.document && 'form' in job.order ? { ...job.order, document: job.document } : undefined;
    const media = task.do === 'join' ? [] : await this.digests(knex, job);
    return { id: part.id, lease, file: job.file, task, media, ...(order && { order }) };
  }

  // What is read of each file that a job needs.
  private async digests(knex: Knex, { kind, media: needed }: JobRow): Promise<TakenPart['media']> {
    if (kind === 'convert') return needed.map((sha256) => ({ sha256, digest: sha256 }));
    const found: TakenPart['media'] = [];
    // One after the other: a transaction has one connection.
    for (const sha256 of needed) {
      const read = await this.options.media.readable(sha256, knex);
      found.push({ sha256, digest: read?.digest ?? sha256 });
    }
    return found;
  }

  // What joins others is told which.
  private async wholeTask(knex: Knex, part: PartRow): Promise<PartTask> {
    if (part.task.do !== 'join') return part.task;
    const parts = await knex<PartRow>('job_parts').where({ job_id: part.job_id }).orderBy('number');
    const sound = parts.find(({ task, nothing }) => task.do === 'sound' && !nothing);
    return {
      do: 'join',
      pictures: parts.filter(({ task }) => task.do === 'pictures').map(({ id }) => id),
      sound: sound?.id ?? null,
    };
  }

  /** A machine says how far it is. @returns what it is to do */
  async heard(machine: MachineRow, id: string, { lease, done, framesPerSecond }: PartHeard): Promise<PartWish> {
    const { knex, jobs } = this.options;
    const leased = await this.leased(knex, machine, id, lease).catch((error: unknown) => {
      if (error instanceof HttpProblem && error.status === 409) return undefined;
      throw error;
    });
    if (!leased || leased.part.state !== 'running' || !openStates.includes(leased.job.state)) return 'stop';
    await knex('job_parts')
      .where({ id, lease })
      .update({ heard_at: knex.fn.now(), done, frames_per_second: framesPerSecond });
    jobs.told(false);
    return leased.job.state === 'paused' ? 'pause' : 'on';
  }

  /** The part of a machine, and its job. Throws 404; 409 where it is another's by now. */
  async leased(knex: Knex, machine: MachineRow, id: string, lease: string, lock = false): Promise<Leased> {
    if (!uuid.test(id)) throw notFound('part');
    const query = knex<PartRow>('job_parts').where({ id }).first();
    const part = await (lock ? query.forUpdate() : query);
    const job = part && (await knex<JobRow>('jobs').where({ id: part.job_id }).first());
    if (!part || !job || part.lease !== lease || part.machine_id !== machine.id) throw stale();
    return { part, job };
  }

  /** A machine sent all of its part. Told again, because the answer was lost, it is done only once. */
  async done(machine: MachineRow, id: string, told: PartDone): Promise<void> {
    const { knex, files, queue, jobs, media } = this.options;
    const { part: before, job } = await this.leased(knex, machine, id, told.lease);
    if (before.state === 'done') return;
    if (!told.nothing) await files.keep(job.id, id, told.lease, told.bytes, told.sha256 ?? '');
    const conversion = job.kind === 'convert' ? (job.order as ConversionOrder) : undefined;
    // It is footage before it is said to be ready.
    if (conversion) await media.adoptConverted(files.original(job.id), files.part(job.id, id), conversion.from);
    const ended = await knex.transaction(async (transaction) => {
      const { part } = await this.leased(transaction, machine, id, told.lease, true);
      if (part.state !== 'running') return false;
      await queue.complete(job.kind, id, transaction);
      await transaction('job_parts')
        .where({ id })
        .update({ state: 'done', frames_per_second: 0, nothing: told.nothing === true });
      await transaction('machines')
        .where({ id: machine.id })
        .update({
          frames: transaction.raw('frames + ?', [told.frames]),
          seconds: transaction.raw('seconds + ?', [told.frames > 0 ? told.took : 0]),
        });
      await logLine(transaction, job.id, `Done: ${taskWords(part.task)}.`, machine.name);
      const join = await jobs.releaseJoin(transaction, job.id);
      if (join) await queue.put([{ id: join.id, kind: job.kind, priority: priorityOf(job, join) }], transaction);
      const left = await transaction<PartRow>('job_parts')
        .where({ job_id: job.id })
        .whereNot({ state: 'done' })
        .first();
      if (left) return false;
      const bytes = await files.finish(job.id, id);
      await transaction('jobs')
        .where({ id: job.id })
        .update({ state: 'done', bytes, ended_at: transaction.fn.now(), message: null });
      await logLine(transaction, job.id, 'The file is ready.');
      return true;
    });
    if (ended) await (conversion ? files.remove(job.id) : files.tidy(job.id));
    jobs.told();
  }

  /** A machine could not do its part. It is tried again, by any; or its job is given up. */
  async failed(machine: MachineRow, id: string, { lease, message, again }: PartFailed): Promise<void> {
    const { knex, files, jobs } = this.options;
    const jobId = await knex.transaction(async (transaction) => {
      const { part, job } = await this.leased(transaction, machine, id, lease, true);
      if (part.state !== 'running') return undefined;
      await logLine(transaction, job.id, `Failed: ${taskWords(part.task)}. ${message}`, machine.name);
      const failures = part.failures + 1;
      await transaction('job_parts').where({ id }).update({ failures });
      await this.letGo(transaction, { part, job }, again && failures < MOST_FAILURES ? undefined : message);
      return job.id;
    });
    if (jobId) await files.dropSent(jobId, id);
    jobs.told();
  }

  /** Gives parts to others whose machines said nothing for long. @param longest milliseconds */
  async giveUpLost(longest = LOST): Promise<void> {
    const { knex, files, jobs } = this.options;
    const lost = await knex<PartRow>('job_parts')
      .where({ state: 'running' })
      .where('heard_at', '<', knex.raw("now() - ? * interval '1 millisecond'", [longest]));
    for (const { id, job_id } of lost) {
      const gone = await knex.transaction(async (transaction) => {
        const part = await transaction<PartRow>('job_parts').where({ id }).forUpdate().first();
        const job = await transaction<JobRow>('jobs').where({ id: job_id }).first();
        const known = lost.find((one) => one.id === id)!;
        if (!part || !job || part.state !== 'running' || part.lease !== known.lease) return false;
        if (part.heard_at!.getTime() !== known.heard_at!.getTime()) return false;
        const machine = await transaction<MachineRow>('machines').where({ id: part.machine_id! }).first();
        await logLine(transaction, job_id, `Stopped answering: ${taskWords(part.task)} goes to another machine.`, machine?.name); // prettier-ignore
        const losses = part.losses + 1;
        await transaction('job_parts').where({ id }).update({ losses });
        const message = `Machines stopped answering ${losses} times while they worked on ${taskWords(part.task)}.`;
        await this.letGo(transaction, { part, job }, losses < MOST_LOSSES ? undefined : message);
        return true;
      });
      if (gone) await files.dropSent(job_id, id);
    }
    // Nobody takes a part of one meanwhile.
    const anew = await this.inTurn((transaction) => this.makeAnew(transaction));
    if (lost.length > 0 || anew) jobs.told();
  }

  // Where no machine is left that has the browser a job was begun with, others begin it again.
  private async makeAnew(knex: Knex): Promise<boolean> {
    const alone = await leftAlone(knex);
    for (const job of alone) {
      await makeAnew(knex, job);
      await logLine(knex, job.id, `No machine with ${job.browser} is left. Begun again with another browser, for two encode differently.`); // prettier-ignore
      await this.options.jobs.queueAnew(knex, job);
    }
    return alone.length > 0;
  }

  // Puts a part back; or gives its job up, with the reason.
  private async letGo(knex: Knex, { part, job }: Leased, message: string | undefined): Promise<void> {
    const { jobs } = this.options;
    const free = { lease: null, machine_id: null, done: 0, frames_per_second: 0 };
    const closed = !openStates.includes(job.state);
    await knex('job_parts')
      .where({ id: part.id })
      .update({ ...free, state: closed ? 'held' : 'waiting' });
    if (closed) return;
    const state = message === undefined ? job.state : 'failed';
    if (message !== undefined) {
      await knex('job_parts')
        .where({ job_id: job.id, state: 'running' })
        .update({ ...free, state: 'waiting' });
      await knex('jobs').where({ id: job.id }).update({ state, message, ended_at: knex.fn.now() });
      await logLine(knex, job.id, 'Given up.');
    }
    await jobs.queueAnew(knex, { ...job, state });
  }
}

/** What a part is, in words. */
function taskWords(task: PartRow['task']): string {
  switch (task.do) {
    case 'pictures':
      return `frames ${task.from} to ${task.to - 1}`;
    case 'sound':
      return 'sound';
    case 'join':
      return 'joining';
    case 'convert':
      return 'conversion';
    default:
      return 'all of it';
  }
}
