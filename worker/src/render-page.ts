import { open, rename, rm, type FileHandle } from 'node:fs/promises';
import { basename, dirname } from 'node:path';
import { fileURLToPath } from 'node:url';
import type { RenderJob, RenderProgress, RenderResult } from '@hastig/engine';
import { openHeadlessPage, type HeadlessPage } from '@hastig/headless';
import express from 'express';
import { RenderFailed } from './failed';
import { Watchdog } from './watchdog';

// What `page.evaluate` calls runs in the page, where these were put by `page/render-page.ts`.
declare const renderJob: (job: RenderJob) => Promise<RenderResult>;
declare const controlRender: (wish: RenderWish) => void;

/** What a render that is under way is told. */
export type RenderWish = 'pause' | 'resume' | 'cancel';

/** Milliseconds between two words of a render's progress: the largest pictures, made from many, take seconds. */
const STALLED = 10 * 60_000;

const engineWorker = fileURLToPath(import.meta.resolve('@hastig/engine/worker'));

/** A page of headless Chromium in which the engine renders. It reads files in ranges and sends back what it makes in pieces. */
export class RenderPage {
  private readonly outs = new Map<string, FileHandle>();
  private headless!: HeadlessPage;
  private made = 0;
  private watchdog: Watchdog | undefined;

  private constructor(private readonly files: ReadonlyMap<string, string>) {}

  /**
   * @param files paths by the names that sources have in a program
   * @throws RenderFailed where there is no browser
   */
  static async open(
    files: ReadonlyMap<string, string>,
    onProgress: (progress: RenderProgress) => void,
  ): Promise<RenderPage> {
    const page = new RenderPage(files);
    page.headless = await openHeadlessPage({
      entry: fileURLToPath(new URL('./page/render-page.ts', import.meta.url)),
      bundles: { '/engine/engine.worker.js': engineWorker },
      routes: (app) => page.routes(app),
    }).catch((error: Error) => {
      throw new RenderFailed(error.message);
    });
    await page.headless.page.exposeFunction('onRenderProgress', (progress: RenderProgress) => {
      page.watchdog?.reset();
      onProgress(progress);
    });
    return page;
  }

  private routes(app: express.Express): void {
    app.get('/media/:name', ({ params }, response) => {
      const path = this.files.get(params.name);
      if (path) response.sendFile(path, { dotfiles: 'allow' });
      else response.status(404).end();
    });
    app.put('/out/:number', express.raw({ type: () => true, limit: '64mb' }), async (request, response) => {
      const file = this.outs.get(String(request.params.number));
      await file!.write(request.body as Buffer, 0, undefined, Number(request.query.position));
      response.end();
    });
    app.post('/out/:number', (_request, response) => void response.end());
    app.delete('/out/:number', (_request, response) => void response.end());
  }

  /** The name and version of the browser that renders. */
  get browser(): string {
    return this.headless.browser;
  }

  /** The address of a source's file. */
  address(name: string): string {
    return `${this.headless.address}/media/${encodeURIComponent(name)}`;
  }

  /**
   * Renders a file, which gets its name when it is complete.
   *
   * @param name what pictures in it are called
   * @throws RenderFailed for a source that cannot be read or decoded, a place that cannot be written to, or no progress for long; the
   *   page is of no more use then
   */
  async render(job: Omit<RenderJob, 'target'>, out: string, name = basename(out)): Promise<RenderResult> {
    const part = `${out}.part`;
    const file = await open(part, 'w').catch((error: NodeJS.ErrnoException) => {
      throw new RenderFailed(error.code === 'ENOENT' ? `${dirname(out)}: folder not found` : error.message);
    });
    const number = String(++this.made);
    this.outs.set(number, file);
    try {
      const target = { to: 'address', url: `${this.headless.address}/out/${number}`, name } as const;
      const ended = new RenderFailed('The render stopped making progress and was ended. Start it again.', 'Stalled');
      const watchdog = (this.watchdog = new Watchdog(STALLED, ended));
      const rendered = this.headless.page.evaluate((order) => renderJob(order), { ...job, target });
      const result = await Promise.race([rendered, watchdog.expired]).finally(() => watchdog.stop());
      await file.sync();
      await file.close();
      await rename(part, out);
      return result;
    } catch (error) {
      await file.close().catch(() => undefined);
      await rm(part, { force: true });
      if (error instanceof RenderFailed) throw error;
      const [, kind, words] = /^(?:page\.evaluate: )?(?:([A-Z]\w+): )?(.*)/.exec((error as Error).message)!;
      throw new RenderFailed(words!, kind);
    } finally {
      this.watchdog = undefined;
      this.outs.delete(number);
    }
  }

  /** Has the render that is under way wait, go on, or end; it is refused then. */
  async control(wish: RenderWish): Promise<void> {
    if (wish === 'pause') this.watchdog?.stop();
    else if (wish === 'resume') this.watchdog?.reset();
    await this.headless.page.evaluate((told) => controlRender(told), wish);
  }

  close(): Promise<void> {
    return this.headless.close();
  }
}
