import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import lockfile from 'proper-lockfile';
import { buildClient } from './build';
import { startDatabase, type RunningDatabase } from './database';
import { hasFramework, installFrameworkBeside } from './framework';
import { clientBuild, dataFolder } from './paths';
import { startServer, type ServerProcess } from './server-process';
import { startWorker, type WorkerProcess } from './worker-process';

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
      console.error('Another start is in progress. Waiting for it…');
      await new Promise((resolve) => setTimeout(resolve, 1500));
    }
  }
}

const settingsOf = (url: string) => ({ databaseUrl: url, dataFolder, clientFolder: clientBuild, demo: true });

async function listen(url: string): Promise<ServerProcess> {
  const settings = settingsOf(url);
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
let worker: WorkerProcess | undefined;
let stopping = false;

const databaseUrl = (): string => process.env.DATABASE_URL ?? database!.url;

async function stop(status: number): Promise<void> {
  if (stopping) return;
  stopping = true;
  await worker?.stop();
  await server?.stop();
  database?.stop();
  rmSync(addressFile, { force: true });
  await release().catch(() => undefined);
  process.exit(status);
}

/** A server that dies this often in so many milliseconds will not live: then it is given up. */
const MOST_DEATHS = { times: 5, within: 60_000 };
const deaths: number[] = [];

/** Starts the server again, at the same address, whenever it ends by itself. */
function keepRunning({ process: running, address }: ServerProcess): void {
  running.once('exit', (code, signal) => {
    if (stopping) return;
    console.error(`The server ended unexpectedly (${signal ?? `status ${code}`}); it is restarting…`);
    void startAgain(Number(new URL(address).port));
  });
}

async function startAgain(port: number): Promise<void> {
  const now = Date.now();
  deaths.push(now);
  if (deaths.filter((at) => now - at < MOST_DEATHS.within).length >= MOST_DEATHS.times) {
    console.error('It stopped too often in the last minute. See its output above.');
    return stop(1);
  }
  try {
    server = await startServer({ ...settingsOf(databaseUrl()), port });
    if (stopping) return void (await server.stop());
    console.log(`Hastig is running again at ${server.address}`);
    keepRunning(server);
  } catch {
    return startAgain(port);
  }
}

/** Starts a worker on this machine, again where it ends by itself, unless it does so time and again. */
async function keepWorking(address: string, left = MOST_DEATHS.times): Promise<void> {
  try {
    worker = await startWorker({ address, dataFolder, name: 'This computer' });
  } catch (error) {
    return console.error((error as Error).message);
  }
  const begun = Date.now();
  worker.process.once('exit', () => {
    if (stopping) return;
    const tries = Date.now() - begun > MOST_DEATHS.within ? MOST_DEATHS.times : left - 1;
    if (tries > 0) setTimeout(() => void keepWorking(address, tries), 5000);
    else console.error('The worker of this computer stopped too often: server jobs wait. See its output above, then restart Hastig.'); // prettier-ignore
  });
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void stop(0));

try {
  const [started] = await Promise.all([
    process.env.DATABASE_URL ? undefined : startDatabase(join(dataFolder, 'database')),
    buildClient(),
  ]);
  database = started;
  server = await listen(databaseUrl());
  writeFileSync(addressFile, server.address);
  console.log(`\nHastig is running at ${server.address}\nCtrl-C stops it.`);
  keepRunning(server);
  await keepWorking(server.address);
  // What converts files comes after all that one waits for; the worker finds it when it is started anew.
  if (!hasFramework() && (await installFrameworkBeside())) worker?.process.kill('SIGTERM');
} catch (error) {
  console.error((error as Error).message);
  await stop(1);
}
