// npm run bench: figures of speed and of settling, printed and written to docs/. Never a test.
import { spawnSync } from 'node:child_process';
import { join } from 'node:path';
import { prepare, root } from './lib/prepare.mjs';

await prepare();
for (const script of [
  'perf/bench.ts',
  'perf/settling-report.ts',
  'perf/mistakes-report.ts',
  'perf/drift-report.ts',
  'perf/due-report.ts',
  'perf/diagnosis-report.ts',
]) {
  const { status } = spawnSync(join(root, 'node_modules/.bin/tsx'), [script], { cwd: root, stdio: 'inherit' });
  if (status !== 0) process.exit(status ?? 1);
}
