import { defineConfig } from '@playwright/test';
import { browserFlags, findChromium } from '@hastig/headless';
import { devices } from './support/devices';

export default defineConfig({
  testDir: './tests',
  outputDir: '../test-results',
  // Each has a server and a database of its own. Nothing is measured against the clock here; that is the bench's.
  workers: 2,
  timeout: 180_000,
  // Proofs that take their time, of which a smaller one runs every time: `npm test -- --long`.
  ...(process.env.HASTIG_LONG ? {} : { grepInvert: /@long/ }),
  // What a busy machine upset once is tried again, and told to be flaky where it passes then.
  retries: 1,
  // Something is broken for all then; the rest would only take its time.
  maxFailures: 15,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  // One project for all sizes: each further one would start its browsers and servers anew.
  use: {
    ...devices.phone,
    launchOptions: { executablePath: findChromium(), args: browserFlags },
    acceptDownloads: true,
    actionTimeout: 30_000,
    // A trace of every step costs a third of the time; a failed test is run again with `--trace=on` to get one.
    screenshot: 'only-on-failure',
  },
});
