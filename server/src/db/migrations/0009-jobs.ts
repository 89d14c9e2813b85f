import type { Knex } from 'knex';

/** What is rendered and converted here and on machines that help, in parts; what was heard of it; and those machines. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('media', (table) => {
    // Of a file that browsers don't decode: what was made of it.
    table.string('converted_sha256', 64);
    table.bigInteger('converted_bytes');
  });
  await knex.schema.createTable('machines', (table) => {
    table.uuid('id').primary();
    table.text('name').notNullable();
    table.string('key_hash', 64).notNullable();
    table.specificType('scopes', 'text[]').notNullable();
    table.timestamp('made_at').notNullable().defaultTo(knex.fn.now());
    table.timestamp('heard_at');
    table.timestamp('out_at');
    table.jsonb('facts');
    // What it made so far, and in how many seconds.
    table.bigInteger('frames').notNullable().defaultTo(0);
    table.double('seconds').notNullable().defaultTo(0);
  });
  await knex.schema.createTable('jobs', (table) => {
    table.uuid('id').primary();
    table.text('kind').notNullable();
    table.text('state').notNullable().defaultTo('waiting');
    table.integer('priority').notNullable().defaultTo(0);
    table.text('file').notNullable();
    // No reference: a project may go while its film is made.
    table.text('project_id');
    table.text('project').notNullable();
    table.jsonb('order').notNullable();
    table.jsonb('document');
    table.specificType('media', 'text[]').notNullable();
    table.double('total').notNullable();
    table.text('message');
    table.bigInteger('bytes');
    table.timestamp('made_at').notNullable().defaultTo(knex.fn.now());
    table.timestamp('started_at');
    table.timestamp('ended_at');
  });
  await knex.schema.createTable('job_parts', (table) => {
    table.uuid('id').primary();
    table.uuid('job_id').notNullable().references('jobs.id').onDelete('CASCADE');
    table.integer('number').notNullable();
    table.jsonb('task').notNullable();
    table.text('state').notNullable();
    table.uuid('lease');
    table.uuid('machine_id');
    table.timestamp('heard_at');
    table.double('done').notNullable().defaultTo(0);
    table.double('frames_per_second').notNullable().defaultTo(0);
    table.integer('failures').notNullable().defaultTo(0);
    table.integer('losses').notNullable().defaultTo(0);
    table.boolean('nothing').notNullable().defaultTo(false);
    table.index(['job_id']);
    table.index(['state']);
  });
  await knex.schema.createTable('job_log', (table) => {
    table.bigIncrements('id');
    table.uuid('job_id').notNullable().references('jobs.id').onDelete('CASCADE');
    table.timestamp('at').notNullable().defaultTo(knex.fn.now());
    table.text('machine');
    table.text('text').notNullable();
    table.index(['job_id']);
  });
  await knex.schema.createTable('job_settings', (table) => {
    table.integer('id').primary();
    table.integer('at_once').notNullable();
  });
  await knex('job_settings').insert({ id: 1, at_once: 16 });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('media', (table) => table.dropColumns('converted_sha256', 'converted_bytes'));
  for (const table of ['job_settings', 'job_log', 'job_parts', 'jobs', 'machines']) await knex.schema.dropTable(table);
}
