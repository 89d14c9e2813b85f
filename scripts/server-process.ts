import { spawn, type ChildProcess } from 'node:child_process';
import { createInterface } from 'node:readline';
import { bundled } from '@hastig/launch';
import { rootFolder, serverMain } from './paths';

/** A server running in a process of its own. */
export interface ServerProcess {
  address: string;
  process: ChildProcess;
  /** Asks it to end and waits until it has. */
  stop(): Promise<void>;
  /** Ends it at once, as a crash would. */
  kill(): Promise<void>;
}

interface ServerSettings {
  databaseUrl: string;
  dataFolder: string;
  clientFolder?: string;
  /** 0 for any free one. */
  port: number;
  demo: boolean;
}

/** Starts the server and waits until it listens. */
export async function startServer(settings: ServerSettings): Promise<ServerProcess> {
  const child = spawn(process.execPath, ['--enable-source-maps', await bundled(serverMain)], {
    cwd: rootFolder,
    stdio: ['ignore', 'pipe', 'inherit'],
    env: {
      ...process.env,
      DATABASE_URL: settings.databaseUrl,
      HASTIG_DATA: settings.dataFolder,
      HASTIG_CLIENT: settings.clientFolder ?? '',
      HASTIG_DEMO: settings.demo ? 'yes' : 'no',
      PORT: String(settings.port),
    },
  });
  const ended = new Promise<void>((resolve) => child.once('exit', () => resolve()));
  const end = async (signal: NodeJS.Signals): Promise<void> => {
    if (child.exitCode === null && child.signalCode === null) child.kill(signal);
    await ended;
  };
  return new Promise((resolve, reject) => {
    child.once('exit', (code) => reject(new Error(`the server ended with status ${code}`)));
    createInterface({ input: child.stdout }).on('line', (line) => {
      const address = /^listening (\S+)$/.exec(line)?.[1];
      if (address) resolve({ address, process: child, stop: () => end('SIGTERM'), kill: () => end('SIGKILL') });
      else console.log(line);
    });
  });
}
