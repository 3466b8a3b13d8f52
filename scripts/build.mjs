// Builds the pages with Vite, and server, store worker and stand-in with esbuild. Packages
// stay outside the bundles, but for two that are hundreds of small files each: every thread would read them one by one.
import { execFile } from 'node:child_process';
import { join } from 'node:path';
import { readFileSync, writeFileSync } from 'node:fs';
import { promisify } from 'node:util';
import { build as esbuild } from 'esbuild';
import { build as vite } from 'vite';
import { schemasOf } from './lib/answer-schemas.mjs';
import { root } from './lib/root.mjs';

const alias = Object.fromEntries(
  ['core', 'contract', 'formats'].map((name) => [`@frustum/${name}`, join(root, name, 'index.ts')]),
);
const packagesOf = (part) =>
  Object.keys(JSON.parse(readFileSync(join(root, part, 'package.json'), 'utf8')).dependencies ?? {}).filter(
    (name) => !name.startsWith('@frustum/'),
  );

/** A start, and each thread, is half a second shorter with them inside. */
const INSIDE = ['drizzle-orm', 'yup'];
const node = {
  bundle: true,
  platform: 'node',
  format: 'esm',
  target: 'node20',
  external: ['server', 'sim', 'formats'].flatMap(packagesOf).filter((name) => !INSIDE.includes(name)),
  alias,
  sourcemap: true,
  logLevel: 'warning',
};

await Promise.all([
  esbuild({
    ...node,
    entryPoints: {
      main: join(root, 'server/main.ts'),
      'store-worker': join(root, 'server/store/worker.ts'),
      backup: join(root, 'server/backup.ts'),
      restore: join(root, 'server/restore.ts'),
      'build-worker': join(root, 'server/store/build-worker.ts'),
      'print-worker': join(root, 'server/print-worker.ts'),
      'check-free': join(root, 'server/store/folder-lock.ts'),
      'empty-database': join(root, 'server/store/empty-database.ts'),
    },
    outdir: join(root, 'server/dist'),
  }),
  esbuild({ ...node, entryPoints: { main: join(root, 'sim/main.ts') }, outdir: join(root, 'sim/dist') }),
]);
const dist = (name) => join(root, 'server/dist', name);
writeFileSync(dist('answers.json'), JSON.stringify(schemasOf(join(root, 'contract/answers.ts'), 'Answers')));
await Promise.all([
  promisify(execFile)(process.execPath, [
    dist('empty-database.js'),
    join(root, 'server/store/migrations'),
    dist('empty-database'),
  ]),
  ...(process.argv.includes('--server-only') ? [] : [vite({ root: join(root, 'web'), logLevel: 'warn' })]),
]);
