import { defineConfig } from '@playwright/test';
import { browserFlags, findChromium } from '@hastig/headless';

export default defineConfig({
  testDir: './tests',
  outputDir: '../test-results',
  // Each has a server and a database of its own. Nothing is measured against the clock here; that is the bench's.
  workers: 2,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    launchOptions: { executablePath: findChromium(), args: browserFlags },
    acceptDownloads: true,
    // A trace of every step costs a third of the time; a failed test is run again with `--trace=on` to get one.
    screenshot: 'only-on-failure',
  },
  projects: [
    {
      name: 'phone',
      use: { viewport: { width: 390, height: 844 }, hasTouch: true },
      testIgnore: /(wide|render-proof)/,
    },
    { name: 'wide', use: { viewport: { width: 1280, height: 800 } }, testMatch: /(journey|wide|accessible)/ },
    { name: 'files', testMatch: /render-proof/ },
  ],
});
