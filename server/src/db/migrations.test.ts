import { randomBytes } from 'node:crypto';
import knex, { type Knex } from 'knex';
import { openDatabase } from './database';
import { migrations } from './migrations';

let schema: string;
let database: Knex;

beforeEach(async () => {
  schema = `test_${randomBytes(6).toString('hex')}`;
  const url = process.env.TEST_DATABASE_URL!;
  const setup = knex({ client: 'pg', connection: url });
  await setup.raw(`create schema ${schema}`);
  await setup.destroy();
  database = knex({
    client: 'pg',
    connection: `${url}?options=-c%20search_path%3D${schema}`,
    migrations: { migrationSource: migrations },
  });
});
afterEach(async () => {
  await database.raw(`drop schema ${schema} cascade`);
  await database.destroy();
});

const tables = async (): Promise<string[]> => {
  const { rows } = await database.raw<{ rows: { name: string }[] }>(
    `select table_name as name from information_schema.tables where table_schema = '${schema}' and table_name not like 'knex%' order by 1`,
  );
  return rows.map(({ name }) => name);
};

describe('the database’s changes', () => {
  it('keep what an earlier version stored', async () => {
    await database.migrate.up();
    const at = new Date('2026-01-02T03:04:05Z');
    const sha256 = 'a'.repeat(64);
    const project = { id: '00000000-0000-4000-8000-000000000000', revision: 7 };
    await database('media').insert({ sha256, bytes: 5, facts: '{}', created_at: at });
    await database('projects').insert({ ...project, document: '{"name":"Film"}' });
    await database.migrate.latest();
    expect(await database('media')).toMatchObject([{ sha256, bytes: '5', imported_at: at }]);
    expect(await database('projects')).toMatchObject([{ ...project, name: 'Film', sources: 0, clips: 0 }]);
    // A first whole document, from which earlier states are made.
    expect(await database('snapshots')).toMatchObject([
      { project_id: project.id, revision: 7, document: { name: 'Film' } },
    ]);
  });

  it('are made by several servers at once, also after a start that was ended in the middle', async () => {
    const url = `${process.env.TEST_DATABASE_URL!}?options=-c%20search_path%3D${schema}`;
    for (const opened of await Promise.all([openDatabase(url), openDatabase(url), openDatabase(url)]))
      await opened.destroy();
    await database('knex_migrations_lock').update({ is_locked: 1 });
    await (await openDatabase(url)).destroy();
    expect(await tables()).toContain('uses');
  });

  it('lead back to a state that can be changed on', async () => {
    await database.migrate.latest();
    const id = '00000000-0000-4000-8000-000000000001';
    await database('projects').insert({ id, revision: 3, name: 'Film' });
    await database('snapshots').insert({ project_id: id, revision: 1, document: '{"name":"Film"}' });
    await database('revisions').insert([2, 3].map((revision) => ({ project_id: id, revision, patch: '[]' })));
    for (let step = 0; step < 7; step++) await database.migrate.down();
    expect(await database('projects')).toMatchObject([{ revision: 1, document: { name: 'Film' } }]);
    await database('revisions').insert({ project_id: id, revision: 2, patch: '[]' });
  });

  it('know what each project uses, of what was stored before', async () => {
    for (let step = 0; step < 5; step++) await database.migrate.up();
    const id = '00000000-0000-4000-8000-000000000002';
    const [used, added] = ['a', 'b'].map((sign) => sign.repeat(64));
    await database('projects').insert({ id, revision: 2, name: 'Film' });
    await database('snapshots').insert({ project_id: id, revision: 1, document: `{"sources":[{"sha256":"${used}"}]}` });
    await database('revisions').insert({ project_id: id, revision: 2, patch: `[{"value":"${added}"}]` });
    await database.migrate.up();
    expect(await database('uses').orderBy('sha256')).toMatchObject([
      { sha256: used, since: 1, until: null },
      { sha256: added, since: 2, until: null },
    ]);
  });

  it('are all taken back, one after the other', async () => {
    await database.migrate.latest();
    expect(await tables()).toEqual([
      ...['job_log', 'job_parts', 'job_settings', 'jobs', 'machines'],
      ...['media', 'projects', 'revisions', 'snapshots', 'uploads', 'uses'],
      'version_names',
    ]);
    await database.migrate.rollback(undefined, true);
    expect(await tables()).toEqual([]);
  });
});
