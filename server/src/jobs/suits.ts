import { MACHINE_GONE, type JobKind, type MachineFacts } from '@hastig/contract';
import type { Knex } from 'knex';
import type { JobRow, PartRow } from './rows';

/** What a machine says of itself, as far as it matters to which job suits it. */
type Able = Pick<MachineFacts, 'codecs' | 'browser'>;

/**
 * Whether a machine may work on a job: it encodes what is asked for, and by the same browser as the others do. Two versions of one may
 * code the same pictures differently, and a file has one way throughout.
 */
export const suits = ({ needs, browser }: Pick<JobRow, 'needs' | 'browser'>, able: Able): boolean =>
  (needs === null || able.codecs.includes(needs)) && (browser === null || browser === able.browser);

/** Whether anything waits that suits a machine: asked first, as the queue knows nothing of machines. */
export async function anySuits(knex: Knex, kind: JobKind, { codecs, browser }: Able): Promise<boolean> {
  const found = await knex('jobs')
    .where({ kind })
    .whereIn('state', ['waiting', 'running'])
    .where((needs) => needs.whereNull('needs').orWhereIn('needs', codecs))
    .where((by) => by.whereNull('browser').orWhere('browser', browser ?? ''))
    .whereExists(knex('job_parts').whereRaw('job_parts.job_id = jobs.id').where('job_parts.state', 'waiting'))
    .first('id');
  return found !== undefined;
}

/** Jobs whose browser is gone with the machines that had it, while others could make them anew. */
export async function leftAlone(knex: Knex): Promise<JobRow[]> {
  const rows = await knex<JobRow>('jobs')
    .whereNotNull('browser')
    .whereIn('state', ['waiting', 'running'])
    .whereNotExists(knex('job_parts').whereRaw('job_parts.job_id = jobs.id').where('job_parts.state', 'running'))
    .forUpdate();
  if (rows.length === 0) return [];
  const heard = (await knex('machines')
    .whereNull('out_at')
    .where('heard_at', '>', knex.raw("now() - ? * interval '1 second'", [MACHINE_GONE]))
    .whereRaw("'render' = any(scopes)")
    .pluck('facts')) as (MachineFacts | null)[];
  return rows.filter(
    (job) =>
      !heard.some((facts) => facts?.browser === job.browser) &&
      heard.some((facts) => facts?.can.includes('render') && suits({ ...job, browser: null }, facts)),
  );
}

/** Has all parts of a job made anew, by whichever browser comes first. */
export async function makeAnew(knex: Knex, { id }: Pick<JobRow, 'id'>): Promise<void> {
  await knex('jobs').where({ id }).update({ browser: null });
  await knex<PartRow>('job_parts')
    .where({ job_id: id })
    .update({
      ...{ lease: null, machine_id: null, done: 0, frames_per_second: 0, nothing: false },
      state: knex.raw(`case when task->>'do' = 'join' then 'held' else 'waiting' end`),
    });
}
