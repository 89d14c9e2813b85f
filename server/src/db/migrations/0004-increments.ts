import type { Knex } from 'knex';

/**
 * A project's document is the last snapshot of it and the patches since: a change adds to what is there and rewrites
 * nothing. What the list of projects shows has columns of its own.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.alterTable('projects', (table) => {
    table.text('name').notNullable().defaultTo('');
    table.integer('sources').notNullable().defaultTo(0);
    table.integer('clips').notNullable().defaultTo(0);
  });
  await knex.raw(`
    update projects set
      name = coalesce(document->>'name', ''),
      sources = coalesce(jsonb_array_length(document->'sources'), 0),
      clips = coalesce(jsonb_array_length(document->'clips'), 0)`);
  await knex.raw(`
    insert into snapshots (project_id, revision, document, created_at)
      select id, revision, document, updated_at from projects
      on conflict (project_id, revision) do update set document = excluded.document`);
  await knex.schema.alterTable('projects', (table) => table.dropColumn('document'));
  // A change whose answer was lost is sent again under the same name, and found to be made.
  await knex.schema.alterTable('revisions', (table) => {
    table.string('batch', 64);
    table.unique(['project_id', 'batch']);
  });
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('revisions', (table) => table.dropColumn('batch'));
  await knex.schema.alterTable('projects', (table) => {
    table.jsonb('document');
    for (const column of ['name', 'sources', 'clips']) table.dropColumn(column);
  });
  // As of the last snapshot: what came since cannot be applied here.
  await knex.raw(`
    update projects set document = latest.document, revision = latest.revision
      from (select distinct on (project_id) * from snapshots order by project_id, revision desc) as latest
      where latest.project_id = projects.id`);
  // Those changes would stand in the way of the ones that follow.
  await knex.raw(
    'delete from revisions using projects where projects.id = revisions.project_id and revisions.revision > projects.revision',
  );
  await knex.raw('alter table projects alter column document set not null');
}
