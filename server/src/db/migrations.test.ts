import { randomBytes } from 'node:crypto';
import knex, { type Knex } from 'knex';
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

  it('are all taken back, one after the other', async () => {
    await database.migrate.latest();
    expect(await tables()).toEqual(['media', 'projects', 'revisions', 'snapshots', 'uploads']);
    await database.migrate.rollback(undefined, true);
    expect(await tables()).toEqual([]);
  });
});
