import type { Knex } from 'knex';

/** What the list of projects tells of each, of the revision it was found at; and when one was removed that can still come back. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('projects', (table) => {
    table.double('seconds');
    table.jsonb('picture');
    table.integer('told_revision');
    table.timestamp('removed_at');
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('projects', (table) => {
    table.dropColumns('seconds', 'picture', 'told_revision', 'removed_at');
  });
}
