import workerpool, { type Pool } from 'workerpool';
import { problemTypes } from '@hastig/contract';
import { HttpProblem } from '../http/problem';
import type { DocumentKind, ReadOutcome } from './read-document';
import type { FileOutcome } from './read-project-file';
import { readDocument } from './read-document';
import { TIME_IS_UP } from './limits';
import type { ProbeOutcome } from './probe-file';

/** Processes at work at once. */
const MOST = 2;
/** Milliseconds of a core that reading a file may take, whatever its size, and for each byte of it on top. */
const PROBE_TIME = { base: 4000, perByte: 1 / 50_000 };
/** Milliseconds by the clock, also where a process stands still. */
const MOST_TIME = 60_000;
/** Milliseconds that checking a document may take. */
const CHECK_TIME = 30_000;
/** Characters of a text that is checked where it is: less work than handing it over. */
const SMALL = 64 * 1024;

const exhausted = (what: string): ProbeOutcome => ({
  refused: `The file is damaged or malformed: reading it ${what}. Export it again from a program that plays it.`,
});

/**
 * Runs what may take long or much memory in processes of their own, so that nobody else waits and nothing ends with it. They
 * are started when they are first needed.
 */
export class WorkPool {
  private readonly pool: Pool;
  private reading: Promise<unknown> = Promise.resolve();

  /** @param script the module `worker.ts`, as Node runs it */
  constructor(script: string) {
    this.pool = workerpool.pool(script, {
      workerType: 'process',
      maxWorkers: MOST,
      forkOpts: { execArgv: ['--max-old-space-size=450'], serialization: 'advanced' },
    });
  }

  /** Reads what a media file is, within limits of time and memory. */
  async probe(path: string, bytes: number): Promise<ProbeOutcome> {
    try {
      const time = PROBE_TIME.base + bytes * PROBE_TIME.perByte;
      const work = this.pool.exec('probeFile', [path, bytes, time]).timeout(time + MOST_TIME);
      return (await work) as ProbeOutcome;
    } catch (error) {
      if (!isTimeUp(error) && !isEnd(error)) throw error;
      this.warm();
      return exhausted(isTimeUp(error) ? 'takes too long' : 'takes too much memory');
    }
  }

  /**
   * Reads a project from text.
   *
   * @throws HttpProblem 413 where that takes more time or memory than there is
   */
  async readDocument(text: string, kind: DocumentKind): Promise<ReadOutcome> {
    if (text.length <= SMALL) return readDocument(text, kind);
    return this.checked('readDocument', [text, kind]);
  }

  /**
   * Reads the project of a file: one file at a time, for each may take all the memory there is.
   *
   * @throws HttpProblem 413 where that takes more time or memory than there is
   */
  readProjectFile(path: string): Promise<FileOutcome> {
    const turn = this.reading.then(() => this.checked<FileOutcome>('readProjectFile', [path]));
    this.reading = turn.catch(() => undefined);
    return turn;
  }

  private async checked<Outcome>(task: string, parameters: unknown[]): Promise<Outcome> {
    try {
      return (await this.pool.exec(task, parameters).timeout(CHECK_TIME)) as Outcome;
    } catch (error) {
      if (!(error instanceof workerpool.Promise.TimeoutError) && !isEnd(error)) throw error;
      this.warm();
      throw new HttpProblem(413, 'The project is too large.', {
        type: problemTypes.invalid,
        detail: 'Reading it takes more time or memory than a project may.',
      });
    }
  }

  // A process that was ended is replaced now, not when the next file comes and waits for its start.
  private warm(): void {
    void this.pool.exec('ready', []).catch(() => undefined);
  }

  /** Ends the processes, whatever they do. */
  async stop(): Promise<void> {
    await this.pool.terminate(true);
  }
}

const isTimeUp = (error: unknown): boolean =>
  error instanceof workerpool.Promise.TimeoutError || (error instanceof Error && error.message.includes(TIME_IS_UP));

// How the package tells that a process ended under its work.
function isEnd(error: unknown): boolean {
  return error instanceof Error && /terminated|exit|crash/i.test(error.message);
}
