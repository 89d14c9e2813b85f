import type { Knex } from 'knex';

/** Names that people gave to versions; what has one is kept however old it becomes. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('version_names', (table) => {
    table.uuid('project_id').notNullable().references('projects.id').onDelete('CASCADE');
    table.integer('revision').notNullable();
    table.text('name').notNullable();
    table.primary(['project_id', 'revision']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('version_names');
}
