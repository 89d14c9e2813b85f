import type { Knex } from 'knex';
import * as first from './migrations/0001-projects-and-media';

const steps: Record<string, Knex.Migration> = { '0001-projects-and-media': first };

/** The migrations in order, as modules, so that a bundled server has them too. */
export const migrations: Knex.MigrationSource<string> = {
  getMigrations: () => Promise.resolve(Object.keys(steps)),
  getMigrationName: (name) => name,
  getMigration: (name) => Promise.resolve(steps[name]!),
};
