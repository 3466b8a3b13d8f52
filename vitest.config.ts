import { defineConfig } from 'vitest/config';
import { SHORT_LIVED } from './scripts/lib/short-lived.mjs';

/** All parts in one project: they share what they import, and a worker that has begun goes on with the next file. */
export default defineConfig({
  test: {
    include: ['{core,contract,formats,sim,server,web,perf,scripts}/**/*.spec.{ts,tsx}'],
    exclude: ['**/node_modules/**', '**/dist/**'],
    // No part keeps anything between calls.
    isolate: false,
    // Patience costs nothing where nothing fails: a busy machine is no fault of the code.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    // Two cores: files that wait leave room for files that compute.
    maxWorkers: 2,
    execArgv: [...SHORT_LIVED],
  },
});
