import type { Knex } from 'knex';

export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('media', (table) => table.renameColumn('brought_in_at', 'imported_at'));
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('media', (table) => table.renameColumn('imported_at', 'brought_in_at'));
}
