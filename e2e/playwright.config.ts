import { defineConfig } from '@playwright/test';
import { browserFlags, findChromium } from '@hastig/headless';

export default defineConfig({
  testDir: './tests',
  outputDir: '../test-results',
  // Previews are measured against the clock, so nothing else may run beside them.
  workers: 1,
  timeout: 240_000,
  expect: { timeout: 30_000 },
  reporter: [['list'], ['json', { outputFile: '../test-results/e2e.json' }]],
  use: {
    launchOptions: { executablePath: findChromium(), args: browserFlags },
    acceptDownloads: true,
    trace: 'retain-on-failure',
  },
  projects: [
    {
      name: 'phone',
      use: { viewport: { width: 390, height: 844 }, hasTouch: true },
      testIgnore: /(wide|render-proof)/,
    },
    { name: 'wide', use: { viewport: { width: 1280, height: 800 } }, testMatch: /(journey|wide)/ },
    { name: 'files', testMatch: /render-proof/ },
  ],
});
