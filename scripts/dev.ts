import { watch } from 'node:fs';
import { join } from 'node:path';
import { buildClient } from './build';
import { startDatabase } from './database';
import { clientBuild, dataFolder, rootFolder } from './paths';
import { startServer, type ServerProcess } from './server-process';

/** Serves Hastig for its makers: what changes is built anew, and the server started again. Reload the page to see it. */

const GATHER = 400;
const watched = [
  'client/app',
  'client/src',
  'client/global.css',
  'engine/src',
  'core/src',
  'contract/src',
  'probe/src',
  'server/src',
];

const database = process.env.DATABASE_URL ? undefined : await startDatabase(join(dataFolder, 'database'));
const databaseUrl = process.env.DATABASE_URL ?? database!.url;
let server: ServerProcess | undefined;
let queue: Promise<void> = Promise.resolve();

async function serve(): Promise<void> {
  try {
    await buildClient();
    await server?.stop();
    server = await startServer({
      databaseUrl,
      dataFolder,
      clientFolder: clientBuild,
      port: Number(process.env.PORT ?? 4871),
      demo: true,
    });
    console.log(`Hastig development server: ${server.address}`);
  } catch (error) {
    console.error((error as Error).message);
  }
}

let timer: NodeJS.Timeout | undefined;
for (const path of watched) {
  watch(join(rootFolder, path), { recursive: true }, () => {
    clearTimeout(timer);
    timer = setTimeout(() => (queue = queue.then(serve)), GATHER);
  });
}
process.once('SIGINT', () => {
  void server?.stop().then(() => {
    database?.stop();
    process.exit(0);
  });
});
await serve();
