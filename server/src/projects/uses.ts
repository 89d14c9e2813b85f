import type { Knex } from 'knex';

interface UseRow {
  project_id: string;
  sha256: string;
  since: number;
  until: number | null;
}

/**
 * Keeps which media a project uses from a revision on; inside the transaction that makes the revision. The files' rows are held until
 * it ends, so that a sweep that looks meanwhile waits, and then sees that they are used.
 *
 * @param digests of all its sources, each once
 */
export async function keepUses(
  transaction: Knex,
  projectId: string,
  revision: number,
  digests: readonly string[],
): Promise<void> {
  const open = (await transaction<UseRow>('uses').where({ project_id: projectId }).whereNull('until')).map(
    ({ sha256 }) => sha256,
  );
  const [before, now] = [new Set(open), new Set(digests)];
  const gone = open.filter((sha256) => !now.has(sha256));
  const come = [...now].filter((sha256) => !before.has(sha256));
  if (gone.length > 0)
    await transaction<UseRow>('uses')
      .where({ project_id: projectId })
      .whereNull('until')
      .whereIn('sha256', gone)
      .update({ until: revision });
  if (come.length === 0) return;
  await transaction('media').whereIn('sha256', come).orderBy('sha256').forKeyShare().select('sha256');
  await transaction<UseRow>('uses').insert(
    come.map((sha256) => ({ project_id: projectId, sha256, since: revision, until: null })),
  );
}

/** Forgets uses of which no state is left that one can go back to. */
export async function dropLostUses(knex: Knex, projectId: string): Promise<void> {
  await knex.raw(
    `delete from uses where project_id = ? and until is not null
       and not exists (select from snapshots as s where s.project_id = uses.project_id and s.revision >= uses.since and s.revision < uses.until)
       and not exists (select from revisions as r where r.project_id = uses.project_id and r.revision >= uses.since and r.revision < uses.until)`,
    [projectId],
  );
}
