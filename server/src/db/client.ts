import type { Knex } from 'knex';
// @ts-expect-error Knex has no types for the classes of its clients.
import UntypedClient from 'knex/lib/dialects/postgres/index.js';

/** As much of its client as is changed here. */
const PostgresClient = UntypedClient as new () => {
  _query(connection: unknown, query: unknown): Promise<unknown>;
};

/** SQLSTATE of a connection that failed (PostgreSQL, appendix A: class 08). */
const CONNECTION_FAILURE = '08006';

/**
 * Knex's client for PostgreSQL, whose every fault has a code: what the server says has one of its own (SQLSTATE), what the system says
 * has an errno, and what is left are connections that broke off, of which the driver has only words.
 */
class CodedClient extends PostgresClient {
  override async _query(connection: unknown, query: unknown): Promise<unknown> {
    try {
      return await super._query(connection, query);
    } catch (error) {
      if (typeof error === 'object' && error && !('code' in error && error.code))
        Object.assign(error, { code: CONNECTION_FAILURE });
      throw error;
    }
  }
}

/** As Knex takes it in its settings. */
export const codedClient = CodedClient as unknown as typeof Knex.Client;
