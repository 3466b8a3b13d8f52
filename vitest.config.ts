import { defineConfig } from 'vitest/config';

const project = (name: string) => ({
  test: {
    name,
    // Patience costs nothing where nothing fails: a busy machine is no fault of the code.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    include: [`${name}/**/*.spec.ts`, `${name}/**/*.spec.tsx`],
    exclude: ['**/node_modules/**', '**/dist/**'],
    // Nothing is kept between calls: files share what they import, which saves a third of the time.
    isolate: false,
  },
});

export default defineConfig({
  test: {
    // Two cores: files that wait leave room for files that compute. Beside the browser stories it steps back.
    maxWorkers: 2,
    projects: [
      project('core'),
      project('contract'),
      project('formats'),
      project('sim'),
      project('server'),
      project('web'),
      project('perf'),
      project('scripts'),
    ],
  },
});
