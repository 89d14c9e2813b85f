import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildClient } from './build';
import { startDatabase } from './database';
import { clientBuild, dataFolder } from './paths';
import { startServer, type ServerProcess } from './server-process';

/** The whole application with the demo in it, for as long as something looks at it. */
export interface ThrowawayApp {
  address: string;
  databaseUrl: string;
  /** Ends the server as a crash would. */
  kill(): Promise<void>;
  /** Starts it again at its address. */
  restart(): Promise<void>;
  /** Ends it and takes away all it stored. */
  stop(): Promise<void>;
}

/**
 * @param name of what it is for; its database server keeps its folder, its database does not outlive it
 * @param folder for its media; one of its own otherwise
 */
export async function startThrowaway(name: string, folder?: string): Promise<ThrowawayApp> {
  const media = folder ?? (await mkdtemp(join(tmpdir(), `hastig-${name}-`)));
  const [database] = await Promise.all([
    startDatabase(join(dataFolder, `${name}-database`), `${name}${process.pid}`),
    buildClient(),
  ]);
  const start = (port: number): Promise<ServerProcess> =>
    startServer({ databaseUrl: database.url, dataFolder: media, clientFolder: clientBuild, port, demo: true });
  let server = await start(0);
  const { address } = server;
  return {
    address,
    databaseUrl: database.url,
    kill: () => server.kill(),
    restart: async () => {
      server = await start(Number(new URL(address).port));
    },
    stop: async () => {
      await server.stop();
      database.stop();
      if (!folder) await rm(media, { recursive: true, force: true });
    },
  };
}
