import type { Knex } from 'knex';

/**
 * Has every transaction that writes to a table fail when it is committed, as one does whose database is shut down: until the returned
 * function is called.
 *
 * @param state SQLSTATE of the fault; `57P01` is `admin_shutdown`
 */
export async function failCommits(knex: Knex, table: string, state = '57P01'): Promise<() => Promise<void>> {
  await knex.raw(`create or replace function fail_commit() returns trigger language plpgsql as
    $$ begin raise exception 'insert into secret_table' using errcode = '${state}'; end $$`);
  await knex.raw(`create constraint trigger fail_commit after insert or update on ${table}
    deferrable initially deferred for each row execute function fail_commit()`);
  return async () => {
    await knex.raw(`drop trigger fail_commit on ${table}`);
  };
}
