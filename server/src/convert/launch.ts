import { spawn } from 'node:child_process';
import { once } from 'node:events';
import type { Writable } from 'node:stream';
import { bounded } from './bounded';
import { ConversionFailed, missing } from './failed';
import { environment, tools } from './framework';

/** Milliseconds in which a conversion must come on. */
const STALLED = 60_000;

export interface Converting {
  /** Share that is done, 0 to 1; undefined where the length is not known. */
  onProgress?(share: number | undefined): void;
  signal?: AbortSignal;
}

/** A line of the framework that tells how far it is: `hastig (00:00:03): 2 / 6 seconds (33.3 %)`. */
const PROGRESS = /^hastig \(.*\( ?([\d.]+) %\)/;

/** What the framework is given in pieces. */
interface Given {
  pieces: Iterable<Buffer> | AsyncIterable<Buffer>;
  /** Of all of them, or somewhat more. */
  bytes: number;
}

interface Launched extends Converting {
  given?: Given;
}

/** Gives pieces to the framework as fast as it takes them; ends with it. */
async function feed({ pieces, bytes }: Given, to: Writable, onProgress?: (share: number) => void): Promise<void> {
  // What it says itself tells more than a pipe that broke.
  to.on('error', () => undefined);
  const gone = new AbortController();
  to.once('close', () => gone.abort());
  let done = 0;
  for await (const piece of pieces) {
    // The next piece may be made in the same memory, while this one is not read yet.
    const taken = to.write(Buffer.from(piece));
    if (!taken) await once(to, 'drain', { signal: gone.signal }).catch(() => undefined);
    if (to.destroyed) return;
    done += piece.length;
    onProgress?.(Math.min(1, done / bytes));
  }
  to.end();
}

/**
 * Runs a pipeline to its end.
 *
 * @throws ConversionFailed with the framework's reason, or where nothing comes on for a minute; an aborted signal ends it too
 */
export function launch(args: readonly string[], { given, onProgress, signal }: Launched): Promise<void> {
  const [tool, all] = bounded(tools.launch, args);
  const child = spawn(tool, all, { env: environment, stdio: [given ? 'pipe' : 'ignore', 'pipe', 'pipe'] });
  const [told, said] = [child.stdout!, child.stderr!];
  let broken: Error | undefined;
  if (given)
    feed(given, child.stdin!, onProgress).catch((error: Error) => {
      broken = error;
      child.stdin!.end();
    });
  return new Promise((resolve, reject) => {
    let words = '';
    let stalled = false;
    const stop = (): void => void child.kill('SIGKILL');
    const giveUp = (): void => {
      stalled = true;
      stop();
    };
    let patience = setTimeout(giveUp, STALLED);
    signal?.addEventListener('abort', stop, { once: true });
    if (signal?.aborted) stop();
    const hear = (piece: Buffer): void => {
      clearTimeout(patience);
      patience = setTimeout(giveUp, STALLED);
      words = `${words}${piece.toString('utf8')}`.slice(-8192);
      for (const line of piece.toString('utf8').split('\n')) {
        const share = PROGRESS.exec(line)?.[1];
        if (line.startsWith('hastig (') && !given) onProgress?.(share === undefined ? undefined : Number(share) / 100);
      }
    };
    told.on('data', hear);
    said.on('data', hear);
    child.on('error', (error: NodeJS.ErrnoException) => {
      clearTimeout(patience);
      reject(error.code === 'ENOENT' ? missing() : error);
    });
    child.on('close', (code) => {
      clearTimeout(patience);
      signal?.removeEventListener('abort', stop);
      if (broken) reject(new ConversionFailed('The file is damaged.'));
      else if (code === 0) resolve();
      else
        reject(
          new ConversionFailed(
            stalled
              ? 'The conversion stopped making progress and was ended. Try again, or convert the file elsewhere.'
              : faultIn(words),
          ),
        );
    });
  });
}

/** Why the framework ended, in its words. */
function faultIn(said: string): string {
  if (/no space left/i.test(said)) return 'The disk is full.';
  const found = /^(?:ERROR|WARNING): (?:from element [^:]*: )?(.*)$/m.exec(said)?.[1];
  return found
    ? `The file is damaged or of an unknown kind: ${found}`
    : 'The conversion ended before it was done. Try again.';
}
