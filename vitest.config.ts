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
    projects: [
      project('core', { testTimeout: 60_000 }),
      project('contract'),
      project('formats'),
      project('sim'),
      project('server', { testTimeout: 30_000, hookTimeout: 60_000 }),
      project('web'),
    ],
  },
});
