import { mkdir, rm } from 'node:fs/promises';
import { join } from 'node:path';
import type { MachineFacts, PartWish, TakenPart } from '@hastig/contract';
import { Connection, isFull, Refused } from './connection';
import { machineFacts } from './facts';
import { convertPart } from './converts';
import { MediaCache } from './media';
import { partFolder, tidyPartFolders } from './part-folders';
import { RenderPage, type RenderWish } from './render-page';
import { RenderFailed } from './failed';
import { heardOf, renderPart, type MadePart } from './renders';

/** Milliseconds between two tellings of how far a part is. */
const HEARD_EVERY = 2000;
/** Milliseconds of silence of the server after which a part is left: it has gone to another by then. */
const FORGOTTEN = 10 * 60_000;
/** Milliseconds to wait after something that may pass. */
const BREATH = 2000;

interface MachineSettings {
  server: string;
  key: string;
  /** Folder for what it fetches and makes. */
  folder: string;
  /** Media folder of a server on this machine. */
  media?: string;
  /** Milliseconds that each frame takes more than it does, for trying out slow machines. */
  slowness?: number;
  say(line: string): void;
  /** What this machine can do; asked again when its browser has become another. */
  facts?(): Promise<MachineFacts>;
}

/** Thrown within, where a part is another's by now, or was cancelled. */
class Left extends Error {}

/** A machine that helps a server: takes parts, one after the other, does them and sends what came of them. */
export class HelpingMachine {
  private readonly connection: Connection;
  private readonly cache: MediaCache;
  private readonly files = new Map<string, string>();
  private page: RenderPage | undefined;
  private facts!: MachineFacts;
  private progress = { done: 0, framesPerSecond: 0 };

  constructor(
    private readonly settings: MachineSettings,
    private readonly signal: AbortSignal,
  ) {
    const { server, key, folder, media } = settings;
    this.connection = new Connection(server.replace(/\/$/, ''), key, signal);
    this.cache = new MediaCache(join(folder, 'media'), media);
  }

  /** Works until it is ended. Throws Refused where its key is no longer good. */
  async work(): Promise<void> {
    const { say, folder } = this.settings;
    await mkdir(folder, { recursive: true });
    await tidyPartFolders(folder);
    await this.look();
    try {
      while (!this.signal.aborted) {
        try {
          const part = await this.connection.next(this.facts);
          if (part) await this.do(part);
        } catch (error) {
          if (this.signal.aborted) return;
          if (error instanceof Refused && error.status === 401) throw error;
          say((error as Error).message);
          await new Promise((resolve) => setTimeout(resolve, BREATH));
        }
      }
    } finally {
      await this.closePage();
    }
  }

  private async look(): Promise<void> {
    this.facts = await (this.settings.facts ?? machineFacts)();
    this.settings.say(factWords(this.facts));
  }

  private async do(part: TakenPart): Promise<void> {
    const { say, folder } = this.settings;
    const own = await partFolder(folder);
    say(`${part.file}: ${part.task.do}`);
    this.progress = { done: 0, framesPerSecond: 0 };
    const stop = new AbortController();
    const tell = this.tellOf(part, stop);
    try {
      // A machine that is switched off ends its part at once, too.
      const ended = AbortSignal.any([stop.signal, this.signal]);
      const made = await Promise.race([this.make(part, own, ended), aborted(ended)]);
      const { frames, took } = made;
      const connection = this.connection.within(ended);
      const sent = made.path === undefined ? { bytes: 0, nothing: true } : await connection.send(part, made.path);
      await this.connection.done(part.id, { lease: part.lease, frames, took, ...sent });
      say(`${part.file}: ${part.task.do} done, ${frames} frames in ${took.toFixed(1)} s`);
    } catch (error) {
      // A page that was left in the middle, or broke down, is not used again.
      await this.closePage();
      if (this.signal.aborted) return;
      if (stop.signal.aborted || (error instanceof Refused && error.status === 409)) return say(`${part.file}: left`);
      await this.failed(part, error as Error);
    } finally {
      tell.end();
      await rm(own, { recursive: true, force: true });
    }
  }

  private async make(part: TakenPart, folder: string, signal: AbortSignal): Promise<MadePart> {
    const connection = this.connection.within(signal);
    const media = await this.cache.get(connection, part, folder);
    if (part.task.do === 'convert') {
      const onProgress = (share: number): void => void (this.progress = { done: 100 * share, framesPerSecond: 0 });
      return convertPart(media.get(part.task.sha256)!, folder, { signal, onProgress });
    }
    for (const [sha256, path] of media) this.files.set(sha256, path);
    const slowness = this.settings.slowness ?? 0;
    const page = (this.page ??= await this.open());
    const { files } = this;
    const made = await renderPart(part, { connection, files, page, folder });
    if (slowness > 0) await new Promise((resolve) => setTimeout(resolve, made.frames * slowness));
    return made;
  }

  // All parts of a film are made by one version of a browser; it may have been updated since it was told.
  private async open(): Promise<RenderPage> {
    const page = await RenderPage.open(this.files, (progress) => void (this.progress = heardOf(progress)));
    const { browser } = this.facts;
    if (page.browser === browser) return page;
    await page.close();
    await this.look();
    throw new RenderFailed(`The browser of this machine was updated from ${browser ?? 'none'} to ${page.browser}.`);
  }

  private async failed(part: TakenPart, error: Error): Promise<void> {
    const message = isFull(error) ? 'The disk is full. Free some space, then start the job again.' : error.message;
    this.settings.say(`${part.file}: ${message}`);
    // What a file or project is will be the same next time; what broke down may not.
    const again = !/RefusedMedia|RangeError/.test((error as { kind?: string }).kind ?? '');
    await this.connection.failed(part.id, part.lease, message, again).catch((refused: Error) => {
      if (!(refused instanceof Refused)) throw refused;
    });
  }

  /** Tells the server how far a part is, and hears whether to go on. */
  private tellOf(part: TakenPart, stop: AbortController): { end(): void } {
    let last = Date.now();
    let wish: PartWish = 'on';
    let telling = false;
    const tell = async (): Promise<void> => {
      try {
        const told = await this.connection.heard(part.id, { lease: part.lease, ...this.progress });
        last = Date.now();
        // A render that begins later is to hear of a pause, too.
        if (told === wish && told !== 'pause') return;
        wish = told;
        if (told === 'stop') stop.abort(new Left());
        else await this.control(told === 'pause' ? 'pause' : 'resume');
      } catch (error) {
        if (error instanceof Refused && error.status === 401) stop.abort(error);
        // The server is away: it may come back.
        else if (Date.now() - last > FORGOTTEN) stop.abort(new Left());
      }
    };
    const timer = setInterval(() => {
      if (telling) return;
      telling = true;
      void tell().finally(() => (telling = false));
    }, HEARD_EVERY);
    return { end: () => clearInterval(timer) };
  }

  private async control(wish: RenderWish): Promise<void> {
    await this.page?.control(wish).catch(() => undefined);
  }

  private async closePage(): Promise<void> {
    const { page } = this;
    this.page = undefined;
    await page?.close().catch(() => undefined);
  }
}

const aborted = (signal: AbortSignal): Promise<never> =>
  new Promise((_, reject) => signal.addEventListener('abort', () => reject(signal.reason as Error), { once: true }));

function factWords({ cores, codecs, can, browser }: MachineFacts): string {
  const does = can.length > 0 ? can.join(' and ') : 'nothing: it has neither Chromium nor GStreamer';
  return [`This machine can ${does}`, `${cores} cores`, browser, codecs.join(', ')].filter(Boolean).join(' · ');
}
