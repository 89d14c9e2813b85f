import type { Knex } from 'knex';

export async function up(knex: Knex): Promise<void> {
  // Whole documents from time to time: an earlier state is the snapshot before it and the patches since.
  await knex.schema.createTable('snapshots', (table) => {
    table.uuid('project_id').notNullable().references('projects.id').onDelete('CASCADE');
    table.integer('revision').notNullable();
    table.jsonb('document').notNullable();
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(knex.fn.now());
    table.primary(['project_id', 'revision']);
  });
  await knex.raw(
    'insert into snapshots (project_id, revision, document, created_at) select id, revision, document, updated_at from projects',
  );
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.dropTable('snapshots');
}
