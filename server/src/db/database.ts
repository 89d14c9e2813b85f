import knex, { type Knex } from 'knex';
import { logFault } from '../http/log';
import { migrations } from './migrations';

/** Milliseconds that a request waits for a connection before it is told that there is none. */
const WAIT = 5000;

/** Connections to PostgreSQL, made when they are first needed. */
export function connect(url: string): Knex {
  const told = (message: unknown): void => logFault('The database', message);
  return knex({
    client: 'pg',
    connection: url,
    pool: { min: 0, max: 10 },
    acquireConnectionTimeout: WAIT,
    log: { warn: told, error: told, deprecate: told, debug: () => undefined },
  });
}

/** Connects to PostgreSQL and brings its tables to the current version. */
export async function openDatabase(url: string): Promise<Knex> {
  const database = connect(url);
  try {
    await database.migrate.latest({ migrationSource: migrations });
  } catch (error) {
    await database.destroy();
    throw error;
  }
  return database;
}
