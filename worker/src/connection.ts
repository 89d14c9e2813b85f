import { createReadStream, createWriteStream } from 'node:fs';
import { open, rename, rm, stat } from 'node:fs/promises';
import { createHash } from 'node:crypto';
import { Readable } from 'node:stream';
import { pipeline } from 'node:stream/promises';
import { setTimeout as sleep } from 'node:timers/promises';
import type { MachineFacts, PartDone, PartHeard, PartWish, TakenPart } from '@hastig/contract';

/** Bytes that are sent at a time. */
const PIECE = 8 * 2 ** 20;
/** Milliseconds of the first wait for a server that is away, the longest, and after which it is given up. */
const WAITS = { first: 500, longest: 10_000, all: 15 * 60_000 };

/** Why the server said no. What will not go well again is not tried again. */
export class Refused extends Error {
  override readonly name = 'Refused';

  constructor(
    readonly status: number,
    message: string,
  ) {
    super(message);
  }
}

const words = async (answer: Response): Promise<string> => {
  const problem = (await answer.json().catch(() => ({}))) as { title?: string; detail?: string };
  return [problem.title ?? `The server answered ${answer.status}.`, problem.detail].filter(Boolean).join(' ');
};

/** The server as a machine that helps knows it. What is asked while it is away is asked again until it is back. */
export class Connection {
  constructor(
    private readonly server: string,
    private readonly key: string,
    private readonly signal: AbortSignal,
  ) {}

  /** The same server for as long as something goes on: what it is asked for that ends with it. */
  within(signal: AbortSignal): Connection {
    return new Connection(this.server, this.key, AbortSignal.any([this.signal, signal]));
  }

  /** The next part to do; undefined where there is none now. */
  async next(facts: MachineFacts): Promise<TakenPart | undefined> {
    const answer = await this.ask('POST', '/next', JSON.stringify(facts));
    return answer.status === 204 ? undefined : ((await answer.json()) as TakenPart);
  }

  async heard(id: string, heard: PartHeard): Promise<PartWish> {
    const answer = await this.ask('POST', `/parts/${id}/heard`, JSON.stringify(heard), { tries: 1 });
    return ((await answer.json()) as { wish: PartWish }).wish;
  }

  async done(id: string, done: PartDone): Promise<void> {
    await this.ask('POST', `/parts/${id}/done`, JSON.stringify(done));
  }

  async failed(id: string, lease: string, message: string, again: boolean): Promise<void> {
    await this.ask('POST', `/parts/${id}/failed`, JSON.stringify({ lease, message: message.slice(0, 2000), again }));
  }

  /** Sends a file, in pieces. @returns its digest and bytes */
  async send({ id, lease }: TakenPart, path: string): Promise<{ bytes: number; sha256: string }> {
    const hash = createHash('sha256');
    const file = await open(path, 'r');
    let position = 0;
    try {
      for (;;) {
        const piece = Buffer.alloc(PIECE);
        const { bytesRead } = await file.read(piece, 0, PIECE, position);
        if (bytesRead === 0 && position > 0) break;
        const content = piece.subarray(0, bytesRead);
        hash.update(content);
        await this.ask('PUT', `/parts/${id}/file?lease=${lease}&position=${position}`, content);
        position += bytesRead;
        if (bytesRead < PIECE) break;
      }
    } finally {
      await file.close();
    }
    return { bytes: position, sha256: hash.digest('hex') };
  }

  /**
   * Fetches a file, beginning where an earlier try ended.
   *
   * @param address within what the part may see
   * @param sha256 what it must be, where that is known
   */
  async fetchTo({ id, lease }: TakenPart, address: string, path: string, sha256?: string): Promise<void> {
    // Another worker on this machine may fetch the same.
    const part = `${path}.${process.pid}.part`;
    for (let time = 0; ; time++) {
      const from = await stat(part).then(({ size }) => size, () => 0); // prettier-ignore
      const answer = await this.ask('GET', `/parts/${id}/${address}?lease=${lease}`, undefined, {
        headers: from > 0 ? { Range: `bytes=${from}-` } : {},
        also: [416],
      });
      const flags = answer.status === 206 ? 'a' : 'w';
      try {
        if (answer.status !== 416) await pipeline(Readable.fromWeb(answer.body as import('node:stream/web').ReadableStream), createWriteStream(part, { flags })); // prettier-ignore
        if (sha256 === undefined || (await digest(part)) === sha256) break;
        await rm(part, { force: true });
        if (time > 2) throw new Refused(409, 'What was fetched isn’t what it should be.');
      } catch (error) {
        if (error instanceof Refused || isFull(error) || this.signal.aborted || time > 20) throw error;
      }
    }
    await rename(part, path);
  }

  private async ask(
    method: string,
    path: string,
    body?: string | Buffer,
    { tries = Infinity, headers = {}, also = [] as number[] } = {},
  ): Promise<Response> {
    const begun = Date.now();
    for (let [time, wait] = [1, WAITS.first]; ; time++, wait = Math.min(2 * wait, WAITS.longest)) {
      const answer = await fetch(`${this.server}/api/worker${path}`, {
        method,
        signal: this.signal,
        headers: {
          Authorization: `Bearer ${this.key}`,
          ...(typeof body === 'string' && { 'Content-Type': 'application/json' }),
          ...headers,
        },
        ...(body !== undefined && { body: body as BodyInit }),
      }).then(
        (given) => ({ given, error: undefined }),
        (error: unknown) => ({ given: undefined, error: error as Error }),
      );
      const { given, error } = answer;
      if (given && (given.ok || also.includes(given.status))) return given;
      const away = !given || (given.status >= 500 && given.status !== 507);
      if (!away) throw new Refused(given.status, await words(given));
      this.signal.throwIfAborted();
      if (time >= tries || Date.now() - begun > WAITS.all)
        throw given ? new Refused(given.status, await words(given)) : error;
      await sleep(wait, undefined, { signal: this.signal }).catch(() => this.signal.throwIfAborted());
    }
  }
}

export const isFull = (error: unknown): boolean =>
  ['ENOSPC', 'EDQUOT'].includes((error as NodeJS.ErrnoException).code ?? '') ||
  (error instanceof Refused && error.status === 507);

async function digest(path: string): Promise<string> {
  const hash = createHash('sha256');
  await pipeline(createReadStream(path), hash);
  return hash.digest('hex');
}
