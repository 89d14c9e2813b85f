import type { Knex } from 'knex';

export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('media', (table) => {
    table.string('sha256', 64).primary();
    table.bigInteger('bytes').notNullable();
    table.jsonb('facts').notNullable();
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(knex.fn.now());
  });
  await knex.schema.createTable('uploads', (table) => {
    table.string('id', 64).primary();
    table.string('sha256', 64).notNullable().references('media.sha256');
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(knex.fn.now());
  });
  await knex.schema.createTable('projects', (table) => {
    table.uuid('id').primary();
    table.jsonb('document').notNullable();
    table.integer('revision').notNullable();
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(knex.fn.now());
    table.timestamp('updated_at', { useTz: true }).notNullable().defaultTo(knex.fn.now());
  });
  // What led from one revision to the next, so that a project can be taken back.
  await knex.schema.createTable('revisions', (table) => {
    table.uuid('project_id').notNullable().references('projects.id').onDelete('CASCADE');
    table.integer('revision').notNullable();
    table.jsonb('patch').notNullable();
    table.timestamp('created_at', { useTz: true }).notNullable().defaultTo(knex.fn.now());
    table.primary(['project_id', 'revision']);
  });
}

export async function down(knex: Knex): Promise<void> {
  for (const table of ['revisions', 'projects', 'uploads', 'media']) await knex.schema.dropTable(table);
}
