import type { Knex } from 'knex';

// A file may be brought in again: then it counts as new, and is not taken away as one that nobody uses.
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('media', (table) => table.renameColumn('created_at', 'brought_in_at'));
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('media', (table) => table.renameColumn('brought_in_at', 'created_at'));
}
