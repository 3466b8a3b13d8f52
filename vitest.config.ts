import { defineConfig } from 'vitest/config';

const project = (name: string, more: object = {}) => ({
  test: {
    name,
    include: [`${name}/**/*.spec.ts`, `${name}/**/*.spec.tsx`],
    exclude: ['**/node_modules/**', '**/dist/**'],
    ...more,
  },
});

export default defineConfig({
  test: {
    // Two cores, and by default vitest leaves one of them alone.
    maxWorkers: 2,
    projects: [
      project('core', { testTimeout: 60_000 }),
      project('contract'),
      project('formats'),
      project('sim'),
      project('server', { testTimeout: 60_000, hookTimeout: 120_000 }),
      project('web'),
      project('perf'),
    ],
  },
});
