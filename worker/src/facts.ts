import { availableParallelism } from 'node:os';
import { browserName, findChromium, launchBrowser } from '@hastig/headless';
import type { JobKind, MachineFacts, PictureCoding } from '@hastig/contract';
import { pictureCodingNames } from '@hastig/core';
import { canConvert } from '@hastig/server';

/** What is asked of a browser: whether it encodes a coding of pictures, by its name in WebCodecs. */
const asked: Readonly<Record<PictureCoding, string>> = {
  avc: 'avc1.640028',
  vp9: 'vp09.00.40.08',
  av1: 'av01.0.08M.08',
};

/** What this machine can do. Without a browser it renders nothing, without the framework it converts nothing. */
export async function machineFacts(): Promise<MachineFacts> {
  const can: JobKind[] = [];
  const [browser, converts] = [await browserFacts(), await canConvert()];
  if (browser) can.push('render');
  if (converts) can.push('convert');
  return {
    cores: availableParallelism(),
    codecs: browser?.codecs ?? [],
    ...(browser && { browser: browser.version }),
    can,
  };
}

async function browserFacts(): Promise<{ version: string; codecs: string[] } | undefined> {
  try {
    findChromium();
  } catch {
    return undefined;
  }
  const browser = await launchBrowser();
  try {
    const page = await browser.newPage();
    // What encodes is only there where a page is trusted, as one of this machine is.
    await page.route('**/*', (route) => route.fulfill({ contentType: 'text/html', body: '<!doctype html>' }));
    await page.goto('http://localhost/');
    const codecs = await page.evaluate(async (names) => {
      const found: PictureCoding[] = [];
      for (const [coding, codec] of Object.entries(names)) {
        const config = { codec, width: 1280, height: 720 };
        const { supported } = await VideoEncoder.isConfigSupported(config).catch(() => ({ supported: false }));
        if (supported) found.push(coding as PictureCoding);
      }
      return found;
    }, asked);
    return { version: browserName(browser), codecs: codecs.map((coding) => pictureCodingNames[coding]) };
  } finally {
    await browser.close();
  }
}
