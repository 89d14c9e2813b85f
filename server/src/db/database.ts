import knex, { type Knex } from 'knex';
import { migrations } from './migrations';

/** Connects to PostgreSQL and brings its tables to the current version. */
export async function openDatabase(url: string): Promise<Knex> {
  const database = knex({ client: 'pg', connection: url, pool: { min: 0, max: 10 } });
  try {
    await database.migrate.latest({ migrationSource: migrations });
  } catch (error) {
    await database.destroy();
    throw error;
  }
  return database;
}
