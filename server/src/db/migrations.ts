import type { Knex } from 'knex';
import * as first from './migrations/0001-projects-and-media';
import * as second from './migrations/0002-snapshots';
import * as third from './migrations/0003-media-brought-in';
import * as fourth from './migrations/0004-increments';
import * as fifth from './migrations/0005-media-imported-at';
import * as sixth from './migrations/0006-uses';
import * as seventh from './migrations/0007-version-names';
import * as eighth from './migrations/0008-project-summaries';
import * as ninth from './migrations/0009-jobs';
import * as tenth from './migrations/0010-jobs-in-order';

const steps: Record<string, Knex.Migration> = {
  '0001-projects-and-media': first,
  '0002-snapshots': second,
  '0003-media-brought-in': third,
  '0004-increments': fourth,
  '0005-media-imported-at': fifth,
  '0006-uses': sixth,
  '0007-version-names': seventh,
  '0008-project-summaries': eighth,
  '0009-jobs': ninth,
  '0010-jobs-in-order': tenth,
};

/** The migrations in order, as modules, so that a bundled server has them too. */
export const migrations: Knex.MigrationSource<string> = {
  getMigrations: () => Promise.resolve(Object.keys(steps)),
  getMigrationName: (name) => name,
  getMigration: (name) => Promise.resolve(steps[name]!),
};
