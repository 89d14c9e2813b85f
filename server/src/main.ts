import type { AddressInfo } from 'node:net';
import { join } from 'node:path';
import { createApp } from './app';
import { openDatabase } from './db/database';
import { loadDemo } from './demo';
import { MediaStore } from './media/store';
import { ProjectStore } from './projects/store';

/** Settings come from the environment; `scripts/start.ts` sets them. */
function setting(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set`);
  return value;
}

const dataFolder = setting('HASTIG_DATA');
const knex = await openDatabase(setting('DATABASE_URL'));
const clientFolder = process.env.HASTIG_CLIENT;
const { express: app, sweep } = createApp({
  knex,
  dataFolder,
  ...(clientFolder ? { clientFolder } : {}),
  demo: loadDemo,
});

const projects = new ProjectStore(knex);
if (process.env.HASTIG_DEMO !== 'no' && (await projects.list()).length === 0) {
  await projects.create(await loadDemo(new MediaStore(knex, join(dataFolder, 'media'))));
}

sweep.start();

const server = app.listen(Number(process.env.PORT ?? 0), '127.0.0.1', (error) => {
  if (error) {
    console.error(`The server cannot listen: ${error.message}`);
    process.exit(1);
  }
  // Read by whoever started it.
  console.log(`listening http://127.0.0.1:${(server.address() as AddressInfo).port}`);
});

async function end(): Promise<void> {
  await sweep.stop();
  await knex.destroy();
  process.exit(0);
}

function stop(): void {
  server.close(() => void end());
  server.closeAllConnections();
}
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
