import type { Knex } from 'knex';

/** Which job came first; what a machine must encode for it; and the browser that its parts are made by, for each encodes in its own way. */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('jobs', (table) => {
    table.integer('number');
    table.text('needs');
    table.text('browser');
  });
  await knex.raw(`create sequence jobs_number as integer owned by jobs.number`);
  await knex.raw(
    `update jobs set number = ordered.number
       from (select id, row_number() over (order by made_at, id) as number from jobs) as ordered
      where ordered.id = jobs.id`,
  );
  await knex.raw(`select setval('jobs_number', (select coalesce(max(number), 0) + 1 from jobs), false)`);
  await knex.raw(`alter table jobs alter column number set default nextval('jobs_number'), alter column number set not null`); // prettier-ignore
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('jobs', (table) => table.dropColumns('number', 'needs', 'browser'));
}
