import knex, { type Knex } from 'knex';
import { logFault } from '../http/log';
import { codedClient } from './client';
import { migrations } from './migrations';

/** Milliseconds that a request waits for a connection before it is told that there is none. */
const WAIT = 5000;

/** Connections to PostgreSQL, made when they are first needed. */
export function connect(url: string): Knex {
  const told = (message: unknown): void => logFault('The database', message);
  return knex({
    client: codedClient,
    connection: url,
    pool: { min: 0, max: 10 },
    acquireConnectionTimeout: WAIT,
    log: { warn: told, error: told, deprecate: told, debug: () => undefined },
  });
}

/**
 * Does something that only one server at this database does at a time. The lock is one of the database's own (PostgreSQL, 13.3.5): it
 * ends with the connection that holds it, however that comes to its end.
 */
export async function alone<T>(database: Knex, task: () => Promise<T>): Promise<T> {
  return database.transaction(async (transaction) => {
    await transaction.raw("select pg_advisory_xact_lock(hashtext('hastig ' || current_schema()))");
    return task();
  });
}

/** Connects to PostgreSQL and brings its tables to the current version. */
export async function openDatabase(url: string): Promise<Knex> {
  const database = connect(url);
  const config = { migrationSource: migrations };
  try {
    await alone(database, async () => {
      // Nobody else migrates now: what Knex marks as locked was left by a start that was ended.
      await database.migrate.forceFreeMigrationsLock(config);
      await database.migrate.latest(config);
    });
  } catch (error) {
    await database.destroy();
    throw error;
  }
  return database;
}
