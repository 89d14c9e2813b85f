import type { AddressInfo } from 'node:net';
import { fileURLToPath } from 'node:url';
import { bundled } from '@hastig/launch';
import { createApp } from './app';
import { alone, openDatabase } from './db/database';
import { loadDemo } from './demo';
import { serverOf } from './http/listen';
import { logFault } from './http/log';

/** Settings come from the environment; `scripts/start.ts` sets them. */
function setting(name: string): string {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set`);
  return value;
}

// Whatever is forgotten in one request is no reason to end all others.
process.on('unhandledRejection', (reason) => logFault('Unhandled rejection', reason));

const dataFolder = setting('HASTIG_DATA');
const knex = await openDatabase(setting('DATABASE_URL'));
const clientFolder = process.env.HASTIG_CLIENT;
const app = createApp({
  knex,
  dataFolder,
  ...(clientFolder ? { clientFolder } : {}),
  demo: loadDemo,
  worker: await bundled(fileURLToPath(new URL('./work/worker.ts', import.meta.url))),
});

if (process.env.HASTIG_DEMO !== 'no') {
  // Of two servers that start at once, one brings it in.
  await alone(knex, async () => {
    if ((await app.projects.list()).length > 0) return;
    // The film last, so that it is the first in the list.
    for (const name of ['beats', 'film'] as const) await app.projects.create(await loadDemo(app.media, name));
  });
}

app.sweep.start();
app.jobs.start();

const server = serverOf(app.express);
server.once('error', (error) => {
  console.error(`The server can’t listen: ${error.message}`);
  process.exit(1);
});
server.listen(Number(process.env.PORT ?? 0), '127.0.0.1', () => {
  // Read by whoever started it.
  console.log(`listening http://127.0.0.1:${(server.address() as AddressInfo).port}`);
});

// Machines beyond this one are heard only where that is wished: `HASTIG_WORKERS=0.0.0.0:4871`.
const beyond = process.env.HASTIG_WORKERS;
const forWorkers = beyond ? serverOf(app.workers) : undefined;
if (beyond && forWorkers) {
  const [, host, port] = /^(.+):(\d+)$/.exec(beyond) ?? [];
  if (!host) throw new Error('HASTIG_WORKERS must be an address and a port, such as 0.0.0.0:4871');
  forWorkers.once('error', (error) => console.error(`Other machines can’t reach the server: ${error.message}`));
  forWorkers.listen(Number(port), host, () => console.log(`Machines that help reach the server at ${beyond}.`));
}

async function end(): Promise<void> {
  await app.stop();
  await knex.destroy();
  process.exit(0);
}

function stop(): void {
  server.close(() => void end());
  server.closeAllConnections();
  forWorkers?.close();
  forWorkers?.closeAllConnections();
}
process.once('SIGTERM', stop);
process.once('SIGINT', stop);
