import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';
import { buildClient } from './build';
import { startDatabase, type RunningDatabase } from './database';
import { clientBuild, dataFolder } from './paths';
import { startServer, type ServerProcess } from './server-process';

/** Where Hastig is found unless the port is taken or `PORT` says otherwise. */
const DEFAULT_PORT = 4870;
const addressFile = join(dataFolder, 'address');

async function answers(address: string): Promise<boolean> {
  return fetch(`${address}/api/health`).then(
    (answer) => answer.ok,
    () => false,
  );
}

/** Takes the folder for this process. Where another start has it, waits for that one and says where it is. */
async function takeFolder(): Promise<() => Promise<void>> {
  for (;;) {
    try {
      return await lockfile.lock(dataFolder, { stale: 5000, update: 1000 });
    } catch {
      const address = existsSync(addressFile) ? readFileSync(addressFile, 'utf8') : undefined;
      if (address && (await answers(address))) {
        console.log(`Hastig is already running at ${address}`);
        process.exit(0);
      }
      console.error('Another start is under way; waiting for it …');
      await new Promise((resolve) => setTimeout(resolve, 1500));
    }
  }
}

async function listen(databaseUrl: string): Promise<ServerProcess> {
  const settings = { databaseUrl, dataFolder, clientFolder: clientBuild, demo: true };
  const wanted = process.env.PORT;
  if (wanted) return startServer({ ...settings, port: Number(wanted) });
  const taken = await answers(`http://127.0.0.1:${DEFAULT_PORT}`);
  return startServer({ ...settings, port: taken ? 0 : DEFAULT_PORT }).catch(() =>
    startServer({ ...settings, port: 0 }),
  );
}

mkdirSync(dataFolder, { recursive: true });
const release = await takeFolder();
let database: RunningDatabase | undefined;
let server: ServerProcess | undefined;
let stopping = false;

async function stop(status: number): Promise<void> {
  if (stopping) return;
  stopping = true;
  await server?.stop();
  database?.stop();
  rmSync(addressFile, { force: true });
  await release().catch(() => undefined);
  process.exit(status);
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stop(0));

try {
  const [started] = await Promise.all([
    process.env.DATABASE_URL ? undefined : startDatabase(join(dataFolder, 'database')),
    buildClient(),
  ]);
  database = started;
  server = await listen(process.env.DATABASE_URL ?? database!.url);
  writeFileSync(addressFile, server.address);
  console.log(`\nHastig is running at ${server.address}\nCtrl-C stops it.`);
  server.process.once('exit', (code) => {
    if (stopping) return;
    console.error(`The server ended unexpectedly (status ${code}).`);
    void stop(1);
  });
} catch (error) {
  console.error((error as Error).message);
  await stop(1);
}
