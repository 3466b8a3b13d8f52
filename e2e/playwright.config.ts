import { defineConfig } from '@playwright/test';
import { chromium } from '../scripts/lib/debian.mjs';

export default defineConfig({
  testDir: './stories',
  testMatch: '**/*.e2e.ts',
  outputDir: '../test-results',
  // Patience costs nothing where nothing fails, and CI's machines are at times half as fast.
  timeout: 1_800_000,
  expect: { timeout: 120_000, toPass: { timeout: 120_000 } },
  // The stories share one house, each its own loop. They wait much for a probe to settle: three at a time keep two cores busy.
  workers: 3,
  fullyParallel: true,
  retries: 0,
  reporter: [['list'], ['json', { outputFile: '../.cache/e2e.json' }]],
  globalSetup: './support/house.ts',
  use: {
    // What cannot be pressed after so long never can: the story says then what it saw instead.
    actionTimeout: 60_000,
    viewport: { width: 1280, height: 800 },
    timezoneId: 'UTC',
    locale: 'en-GB',
    launchOptions: {
      executablePath: chromium() ?? '',
      args: [
        '--headless',
        '--no-sandbox',
        '--disable-gpu',
        '--disable-quic',
        '--no-first-run',
        '--disable-background-networking',
        '--disable-component-update',
        '--disable-sync',
      ],
    },
    trace: 'off',
    screenshot: 'only-on-failure',
  },
});
