import { homedir } from 'node:os';
import { join } from 'node:path';
import { Command } from 'commander';
import { Refused } from './connection';
import { HelpingMachine } from './machine';

interface Flags {
  server: string;
  key?: string;
  folder: string;
  media?: string;
  slowness?: string;
}

const stop = new AbortController();
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => stop.abort());

new Command('worker')
  .description('help a server: render and convert for it on this machine')
  .requiredOption('--server <address>', 'the server, such as http://192.168.1.20:4871')
  .option('--key <key>', 'what “Add machine” in Output gave; HASTIG_KEY in the environment does as well')
  .option('--folder <folder>', 'where it keeps what it fetches and makes', join(homedir(), '.cache', 'hastig'))
  .option('--media <folder>', 'media of a server on this machine, read where they are')
  .option('--slowness <ms>', 'milliseconds that each frame takes longer, to try out slow machines')
  .action(async ({ server, key = process.env.HASTIG_KEY, folder, media, slowness }: Flags) => {
    if (!key) throw new Refused(401, 'There is no key. Add this machine in Output and give its key (--key).');
    const machine = new HelpingMachine(
      {
        ...{ server, key, folder, say: (line) => console.log(line) },
        ...(media !== undefined && { media }),
        ...(slowness !== undefined && { slowness: Number(slowness) }),
      },
      stop.signal,
    );
    await machine.work();
  })
  .parseAsync()
  .then(
    () => process.exit(0),
    (error: Error) => {
      console.error(`worker: ${error.message}`);
      process.exit(1);
    },
  );
