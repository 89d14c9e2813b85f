import type { Knex } from 'knex';
import { dropLostUses } from './uses';
import { versionNames } from './version-names';

const HOUR = 3_600_000;
const DAY = 24 * HOUR;

/** Within so long every state is kept; then one an hour, and after a month one a day. */
const KEPT = { all: DAY, hourly: 30 * DAY };

interface State {
  revision: number;
  at: Date;
}

/**
 * Which of some states go: of each hour, or day, that lies far enough back, all but the last and those that have a name.
 *
 * @param states in order, the earliest first
 * @param now milliseconds since 1970
 * @param named revisions with a name
 */
export function thinned(states: readonly State[], now: number, named: ReadonlyMap<number, string>): number[] {
  const slotOf = ({ at }: State): string | undefined => {
    const age = now - at.getTime();
    if (age < KEPT.all) return undefined;
    return age < KEPT.hourly ? `h${Math.floor(at.getTime() / HOUR)}` : `d${Math.floor(at.getTime() / DAY)}`;
  };
  return states
    .filter((state, place) => {
      const slot = slotOf(state);
      const next = states[place + 1];
      return slot !== undefined && next !== undefined && slotOf(next) === slot && !named.has(state.revision);
    })
    .map(({ revision }) => revision);
}

/**
 * Thins out what a project can be taken back to, in small steps: each state that stays becomes a whole one before the changes that led
 * to it go, and each step is one transaction.
 *
 * @param keep makes a revision a whole state, if it is none
 */
export async function thinProject(
  knex: Knex,
  projectId: string,
  keep: (revision: number) => Promise<void>,
  now: number,
): Promise<void> {
  const states = (await knex
    .union([
      knex('revisions').select('revision', 'created_at as at').where({ project_id: projectId }),
      knex('snapshots').select('revision', 'created_at as at').where({ project_id: projectId }),
    ])
    .orderBy('revision')) as State[];
  const byRevision = [...new Map(states.map((state) => [state.revision, state])).values()];
  const go = new Set(thinned(byRevision, now, await versionNames(knex, projectId)));
  if (go.size === 0) return;
  // From one state that stays to the next: first that becomes whole, then what lies between goes.
  let run: number[] = [];
  for (const { revision } of byRevision) {
    if (go.has(revision)) {
      run.push(revision);
      continue;
    }
    if (run.length === 0) continue;
    await keep(revision);
    const gone = [...run, revision];
    await knex.transaction(async (transaction) => {
      const mine = { project_id: projectId };
      await transaction('projects').where({ id: projectId }).forUpdate().first('id');
      // Named since this began: what leads to it stays until the next time.
      const named = await versionNames(transaction, projectId);
      if (run.some((one) => named.has(one))) return;
      await transaction('revisions').where(mine).whereIn('revision', gone).delete();
      await transaction('snapshots').where(mine).whereIn('revision', run).delete();
    });
    run = [];
  }
  await dropLostUses(knex, projectId);
}
