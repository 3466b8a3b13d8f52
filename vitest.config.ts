import { defineConfig } from 'vitest/config';

const project = (name: string, more: object = {}) => ({
  test: {
    name,
    // Patience costs nothing where nothing fails: a busy machine is no fault of the code.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    include: [`${name}/**/*.spec.ts`, `${name}/**/*.spec.tsx`],
    exclude: ['**/node_modules/**', '**/dist/**'],
    ...more,
  },
});

/** These parts keep nothing between calls: their files share what they import, which saves a third of the time. */
const pure = { isolate: false };

export default defineConfig({
  test: {
    // Two cores: files that wait leave room for files that compute. Beside the browser stories it steps back.
    maxWorkers: 2,
    projects: [
      project('core', pure),
      project('contract', pure),
      project('formats', pure),
      project('sim', pure),
      project('server'),
      project('web'),
      project('perf', pure),
      project('scripts'),
    ],
  },
});
