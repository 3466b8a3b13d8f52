// npm run bench: figures of speed, printed and written to docs/benchmarks.md. Never a test.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { prepare, root } from './lib/prepare.mjs';

prepare();
const { status } = spawnSync(join(root, 'node_modules/.bin/tsx'), ['perf/bench.ts', ...process.argv.slice(2)], {
  cwd: root,
  stdio: 'inherit',
});
process.exit(status ?? 1);
