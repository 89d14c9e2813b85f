import { existsSync } from 'node:fs';
import { chromium, type Browser } from 'playwright-core';

// The shell has no windows, tabs and bars to draw nowhere: it starts sooner and takes half the work.
const places = [
  '/usr/bin/chromium-headless-shell',
  '/usr/bin/chromium',
  '/usr/bin/chromium-browser',
  '/usr/bin/google-chrome',
];

/** Flags for a browser without monitor and network. */
export const browserFlags = [
  '--no-sandbox',
  '--disable-quic',
  '--no-first-run',
  '--disable-background-networking',
  '--disable-component-update',
  '--disable-sync',
  '--autoplay-policy=no-user-gesture-required',
  '--disable-background-timer-throttling',
  '--disable-renderer-backgrounding',
  '--disable-backgrounding-occluded-windows',
];

/** Path of the Chromium to use: `CHROMIUM`, or Debian's. Throws with what to install where there is none. */
export function findChromium(): string {
  const found = process.env.CHROMIUM ?? places.find((place) => existsSync(place));
  if (!found)
    throw new Error(
      'Chromium is missing. Install Debian’s package "chromium-headless-shell" or "chromium", or set CHROMIUM to its path.',
    );
  return found;
}

/** What a browser is called, with its version. */
export const browserName = (browser: Browser): string => `Chromium ${browser.version()}`;

export function launchBrowser(): Promise<Browser> {
  return chromium.launch({ executablePath: findChromium(), args: browserFlags });
}
