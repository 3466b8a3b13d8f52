import { defineConfig } from 'vitest/config';

const project = (name: string, more: object = {}) => ({
  test: {
    name,
    include: [`${name}/**/*.spec.ts`, `${name}/**/*.spec.tsx`],
    exclude: ['**/node_modules/**', '**/dist/**'],
    ...more,
  },
});

/** These parts keep nothing between calls: their files share what they import, which saves a third of the time. */
const pure = { isolate: false };

export default defineConfig({
  test: {
    // Two cores, and by default vitest leaves one of them alone.
    maxWorkers: 2,
    projects: [
      project('core', { ...pure, testTimeout: 60_000 }),
      project('contract', pure),
      project('formats', pure),
      project('sim', pure),
      project('server', { testTimeout: 60_000, hookTimeout: 120_000 }),
      project('web'),
      project('perf', pure),
    ],
  },
});
