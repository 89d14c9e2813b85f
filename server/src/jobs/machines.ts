import { createHash, randomBytes, randomUUID, timingSafeEqual } from 'node:crypto';
import { jobKinds, type JobKind, type Machine, type MachineFacts, type NewMachineKey } from '@hastig/contract';
import type { Knex } from 'knex';
import { uuid } from '../http/checked';
import { HttpProblem, notFound } from '../http/problem';
import type { MachineRow } from './rows';

/** Bytes of a key that nobody guesses. */
const SECRET = 32;
const keyPattern = /^([0-9a-f]{8}(?:-[0-9a-f]{4}){3}-[0-9a-f]{12})\.([\w-]{43})$/;

const hashOf = (secret: string): string => createHash('sha256').update(secret).digest('hex');

/** Nothing more is told to who has no key, or one that is no longer good. */
const refused = (): HttpProblem =>
  new HttpProblem(401, 'The key isn’t valid.', {}, { 'WWW-Authenticate': 'Bearer realm="hastig"' });

/** Machines that were let in to help, known by keys of which only a digest is kept. */
export class Machines {
  constructor(private readonly knex: Knex) {}

  /**
   * Lets one in.
   *
   * @param own whether it is this server's own: it takes the place of the one before
   */
  async letIn(name: string, scopes: readonly JobKind[] = jobKinds, own = false): Promise<NewMachineKey> {
    const secret = randomBytes(SECRET).toString('base64url');
    const id = randomUUID();
    await this.knex.transaction(async (transaction) => {
      const known = own
        ? await transaction<MachineRow>('machines').where({ name }).whereNull('out_at').first()
        : undefined;
      if (known) await transaction('machines').where({ id: known.id }).update({ out_at: transaction.fn.now() });
      await transaction('machines').insert({
        ...{ id, name, key_hash: hashOf(secret), scopes },
        ...(known && { frames: known.frames, seconds: known.seconds }),
      });
    });
    return { machine: (await this.list()).find((machine) => machine.id === id)!, key: `${id}.${secret}` };
  }

  /** Puts one out: its key is no longer good. Throws 404. */
  async putOut(id: string): Promise<void> {
    if (!uuid.test(id)) throw notFound('machine');
    const gone = await this.knex('machines').where({ id }).whereNull('out_at').update({ out_at: this.knex.fn.now() });
    if (gone === 0) throw notFound('machine');
  }

  async list(): Promise<Machine[]> {
    const rows = await this.knex<MachineRow>('machines').whereNull('out_at').orderBy(['made_at', 'id']);
    const busy = (await this.knex('job_parts')
      .join('jobs', 'jobs.id', 'job_parts.job_id')
      .where('job_parts.state', 'running')
      .select('job_parts.machine_id', 'jobs.file')) as { machine_id: string; file: string }[];
    return rows.map(({ id, name, scopes, made_at, heard_at, facts, frames, seconds }) => ({
      ...{ id, name, scopes, facts, madeAt: made_at.toISOString(), heardAt: heard_at?.toISOString() ?? null },
      framesPerSecond: seconds > 0 ? Number(frames) / seconds : null,
      file: busy.find(({ machine_id }) => machine_id === id)?.file ?? null,
    }));
  }

  /**
   * Whose key it is, and what it is good for.
   *
   * @param authorization header of a request (RFC 6750, 2.1)
   * @throws 401 for a key that is wrong, or of a machine that was put out
   */
  async known(authorization: string | undefined): Promise<MachineRow> {
    const [, id, secret] = keyPattern.exec(/^Bearer (\S+)$/i.exec(authorization ?? '')?.[1] ?? '') ?? [];
    if (!id || !secret) throw refused();
    const row = await this.knex<MachineRow>('machines').where({ id }).whereNull('out_at').first();
    if (!row || !timingSafeEqual(Buffer.from(row.key_hash), Buffer.from(hashOf(secret)))) throw refused();
    return row;
  }

  /** One was heard, and said what it can. */
  async heard(id: string, facts?: MachineFacts): Promise<void> {
    await this.knex('machines')
      .where({ id })
      .update({ heard_at: this.knex.fn.now(), ...(facts && { facts: JSON.stringify(facts) }) });
  }
}
