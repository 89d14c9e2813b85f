import { randomBytes } from 'node:crypto';
import { mkdtemp, rm } from 'node:fs/promises';
import type { AddressInfo } from 'node:net';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { bundled } from '@hastig/launch';
import type { Knex } from 'knex';
import { Upload } from 'tus-js-client';
import { serverOf } from '../src/http/listen';
import { createApp, openDatabase, type AppOptions, type Sweep } from '../src';

/** A server on a port of its own, with a schema of its own in the tests' real database. */
export interface TestServer {
  address: string;
  dataFolder: string;
  knex: Knex;
  sweep: Sweep;
  /** Waits until what is kept in the background is kept. */
  settled(): Promise<void>;
  close(): Promise<void>;
}

let worker: Promise<string> | undefined;

export async function startTestServer(options: Partial<AppOptions> = {}): Promise<TestServer> {
  const main = process.env.TEST_DATABASE_URL;
  if (!main) throw new Error('TEST_DATABASE_URL is not set: run the tests with npm test, which starts a database');
  const schema = `test_${randomBytes(6).toString('hex')}`;
  const setup = await import('knex').then(({ default: knex }) => knex({ client: 'pg', connection: main }));
  await setup.raw(`create schema ${schema}`);
  const knex = await openDatabase(`${main}?options=-c%20search_path%3D${schema}`);
  const dataFolder = await mkdtemp(join(tmpdir(), 'hastig-server-'));
  const app = createApp({
    knex,
    dataFolder,
    worker: await (worker ??= bundled(join(__dirname, '../src/work/worker.ts'))),
    ...options,
  });
  const { express, sweep } = app;
  const server = serverOf(express).listen(0, '127.0.0.1');
  await new Promise((resolve) => server.once('listening', resolve));
  return {
    address: `http://127.0.0.1:${(server.address() as AddressInfo).port}`,
    dataFolder,
    knex,
    sweep,
    settled: () => app.projects.settled(),
    close: async () => {
      server.closeAllConnections();
      await new Promise((resolve) => server.close(resolve));
      await app.stop();
      await knex.destroy();
      await setup.raw(`drop schema ${schema} cascade`);
      await setup.destroy();
      await rm(dataFolder, { recursive: true, force: true });
    },
  };
}

export const fixture = (name: string): string => join(__dirname, '../../e2e/fixtures', name);

/** Uploads by the protocol's own client; gives the upload's id. */
export function upload(address: string, content: Buffer, chunkSize = Infinity): Promise<string> {
  return new Promise((resolve, reject) => {
    const sent: Upload = new Upload(content, {
      endpoint: `${address}/api/uploads`,
      chunkSize,
      retryDelays: [],
      onError: reject,
      onSuccess: () => resolve(sent.url!.split('/').at(-1)!),
    });
    sent.start();
  });
}
