import type { Knex } from 'knex';
import { notFound } from '../http/problem';

interface NameRow {
  project_id: string;
  revision: number;
  name: string;
}

/** Names of a project's versions, by their revisions. */
export async function versionNames(knex: Knex, projectId: string): Promise<Map<number, string>> {
  const rows = (await knex<NameRow>('version_names').where({ project_id: projectId })) as NameRow[];
  return new Map(rows.map(({ revision, name }) => [revision, name]));
}

/**
 * Gives a version a name, or takes its name away. The project's row is held meanwhile, so that no version is thinned out while it
 * gets its name.
 *
 * @param name '' for none
 * @throws HttpProblem 404 where there is no such project or version (any more)
 */
export async function nameVersion(knex: Knex, projectId: string, revision: number, name: string): Promise<void> {
  const version = { project_id: projectId, revision };
  await knex.transaction(async (transaction) => {
    if (!(await transaction('projects').where({ id: projectId }).forUpdate().first('id'))) throw notFound('project');
    const states = await Promise.all(
      ['revisions', 'snapshots'].map((table) => transaction(table).where(version).first('revision')),
    );
    if (!states.some(Boolean)) throw notFound('revision');
    if (name === '') await transaction<NameRow>('version_names').where(version).delete();
    else
      await transaction<NameRow>('version_names')
        .insert({ ...version, name })
        .onConflict(['project_id', 'revision'])
        .merge(['name']);
  });
}
