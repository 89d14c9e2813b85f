import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { buildClient } from './build';
import { startDatabase } from './database';
import { clientBuild, dataFolder } from './paths';
import { startServer } from './server-process';

/** The whole application with the demo in it, for as long as something looks at it. */
export interface ThrowawayApp {
  address: string;
  /** Ends it and takes away all it stored. */
  stop(): Promise<void>;
}

/** @param name of what it is for; its database server keeps its folder, its database does not outlive it */
export async function startThrowaway(name: string): Promise<ThrowawayApp> {
  const media = await mkdtemp(join(tmpdir(), `hastig-${name}-`));
  const [database] = await Promise.all([
    startDatabase(join(dataFolder, `${name}-database`), `${name}${process.pid}`),
    buildClient(),
  ]);
  const server = await startServer({
    databaseUrl: database.url,
    dataFolder: media,
    clientFolder: clientBuild,
    port: 0,
    demo: true,
  });
  return {
    address: server.address,
    stop: async () => {
      await server.stop();
      database.stop();
      await rm(media, { recursive: true, force: true });
    },
  };
}
