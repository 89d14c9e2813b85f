import type { ServerJob } from '@hastig/contract';
import type { Knex } from 'knex';
import { openStates, type JobRow } from './rows';

/** Jobs that are told at most beside those that are still to be done: the last ones. */
const MOST_ENDED = 200;

/** As much of a job as is listed: its document is large. */
type ListedRow = Omit<JobRow, 'number' | 'order' | 'document' | 'media' | 'browser'> & Pick<ServerJob, 'form'>;

const listed = ['id', 'kind', 'state', 'priority', 'file', 'project_id', 'project', 'total', 'needs', 'message', 'bytes', 'made_at', 'started_at', 'ended_at']; // prettier-ignore

/** Jobs as they are told, newest first: one; or those that are still to be done and the last that ended. */
export async function listJobs(knex: Knex, id?: string): Promise<ServerJob[]> {
  const jobs = knex('jobs')
    .select<ListedRow[]>(...listed, knex.raw(`"order"->'form' as form`))
    .orderBy('number', 'desc');
  if (id !== undefined) void jobs.where({ id });
  else {
    const ended = knex('jobs').select('id').whereNotIn('state', openStates).orderBy('number', 'desc').limit(MOST_ENDED);
    void jobs.where((either) => either.whereIn('state', openStates).orWhereIn('id', ended));
  }
  const rows = await jobs;
  const sums = await sumsOf(knex, rows.filter(({ state }) => state !== 'done').map((row) => row.id)); // prettier-ignore
  return rows.map((row) => told(row, sums.get(row.id)));
}

/** What the parts of a job come to. */
interface PartSums {
  job_id: string;
  all: number;
  done: number;
  frames: number;
  speed: number;
  machines: string[];
}

// Added up where they lie: a film of hours has hundreds. What joins and sounds is quick beside the pictures, whose frames are counted.
async function sumsOf(knex: Knex, ids: string[]): Promise<Map<string, PartSums>> {
  const { rows } = await knex.raw<{ rows: PartSums[] }>(
    `select job_id, count(*)::int as all, (count(*) filter (where part.state = 'done'))::int as done,
            coalesce(sum(case when part.state = 'done' then whole else least(whole, part.done) end) filter (where counted), 0) as frames,
            coalesce(sum(part.frames_per_second) filter (where counted), 0) as speed,
            coalesce(array_agg(distinct machines.name) filter (where part.state = 'running'), '{}') as machines
       from job_parts as part
       join jobs on jobs.id = part.job_id
       left join machines on machines.id = part.machine_id
      cross join lateral (
            select part.task->>'do' not in ('sound', 'join') as counted,
                   case part.task->>'do'
                     when 'pictures' then (part.task->>'to')::float - (part.task->>'from')::float
                     else jobs.total end as whole) as about
      where job_id = any(?)
      group by job_id`,
    [ids],
  );
  return new Map(rows.map((row) => [row.job_id, row]));
}

function told(row: ListedRow, sums: PartSums | undefined): ServerJob {
  const { id, kind, state, priority, file, project, total, needs, message, form } = row;
  return {
    ...{ id, kind, state, priority, file, project, total, needs, message, form: form ?? null },
    projectId: row.project_id,
    bytes: row.bytes === null ? null : Number(row.bytes),
    madeAt: row.made_at.toISOString(),
    startedAt: row.started_at?.toISOString() ?? null,
    endedAt: row.ended_at?.toISOString() ?? null,
    done: sums ? sums.frames : total,
    framesPerSecond: sums?.speed ?? 0,
    parts: sums ? { done: sums.done, all: sums.all } : null,
    machines: sums?.machines ?? [],
  };
}
