import type { Knex } from 'knex';

/**
 * Which media a project uses, from which revision on and up to which: `until` is the first revision without it. So what nobody uses is
 * found by an index, and no text is searched.
 */
export async function up(knex: Knex): Promise<void> {
  await knex.schema.createTable('uses', (table) => {
    table.uuid('project_id').notNullable().references('projects.id').onDelete('CASCADE');
    table.string('sha256', 64).notNullable();
    table.integer('since').notNullable();
    table.integer('until');
    table.primary(['project_id', 'sha256', 'since']);
    table.index(['sha256']);
  });
  // Of what there was before, any digest counts, wherever it stands: rather one file too many. The next change of a project's sources
  // ends what it does not use.
  await knex.raw(`
    insert into uses (project_id, sha256, since)
      select states.project_id, digest[1], min(states.revision)
      from (
        select project_id, revision, document::text as state from snapshots
        union all select project_id, revision, patch::text from revisions
      ) as states, regexp_matches(states.state, '[0-9a-f]{64}', 'g') as digest
      group by states.project_id, digest[1]`);
  // What is thinned out is found by its age.
  await knex.schema.alterTable('revisions', (table) => table.index(['created_at']));
}

export async function down(knex: Knex): Promise<void> {
  await knex.schema.alterTable('revisions', (table) => table.dropIndex(['created_at']));
  await knex.schema.dropTable('uses');
}
