import type { AddressInfo } from 'node:net';
import { kernelsPlugin } from '@hastig/kernels/plugin';
import { build } from 'esbuild';
import express, { type Express } from 'express';
import type { Page } from 'playwright-core';
import { browserName, launchBrowser } from './browser';

/** What a page without interface needs. */
interface PageOptions {
  /** TypeScript file that runs in the page; bundled on the spot. */
  entry: string;
  /** Further bundles by address, e.g. a worker. */
  bundles?: Record<string, string>;
  /** Adds routes of the caller's own: files to read, places to write to. */
  routes?: (app: Express) => void;
}

export interface HeadlessPage {
  page: Page;
  address: string;
  /** The browser's name and version. */
  browser: string;
  close(): Promise<void>;
}

const bundled = new Map<string, Promise<string>>();

// What was bundled once is the same for as long as the process lives.
function bundle(entry: string): Promise<string> {
  let text = bundled.get(entry);
  if (!text) bundled.set(entry, (text = bundleNow(entry)));
  return text;
}

async function bundleNow(entry: string): Promise<string> {
  const { outputFiles } = await build({
    entryPoints: [entry],
    bundle: true,
    format: 'iife',
    target: 'es2022',
    plugins: [kernelsPlugin],
    write: false,
    logLevel: 'silent',
  });
  return outputFiles[0]!.text;
}

/**
 * Opens a page in headless Chromium with a script of ours in it, served on loopback on a free port. Whoever
 * opens it closes it.
 */
export async function openHeadlessPage({ entry, bundles = {}, routes }: PageOptions): Promise<HeadlessPage> {
  const app = express();
  app.use((_request, response, next) => {
    response.set({ 'Cross-Origin-Opener-Policy': 'same-origin', 'Cross-Origin-Embedder-Policy': 'require-corp' });
    next();
  });
  routes?.(app);
  const scripts = await Promise.all(
    Object.entries({ '/page.js': entry, ...bundles }).map(
      async ([address, file]) => [address, await bundle(file)] as const,
    ),
  );
  for (const [address, text] of scripts) app.get(address, (_request, response) => void response.type('js').send(text));
  app.get(
    '/',
    (_request, response) =>
      void response.type('html').send('<!doctype html><title>Hastig</title><script src="/page.js"></script>'),
  );
  const server = await new Promise<ReturnType<Express['listen']>>((resolve, reject) => {
    const listening = app.listen(0, '127.0.0.1', (error) => (error ? reject(error) : resolve(listening)));
  });
  const address = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  const browser = await launchBrowser().catch((error: unknown) => {
    server.close();
    throw error;
  });
  const page = await browser.newPage();
  await page.goto(address);
  return {
    page,
    address,
    browser: browserName(browser),
    close: async () => {
      await browser.close();
      server.closeAllConnections();
      server.close();
    },
  };
}
