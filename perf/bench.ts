import { execSync } from 'node:child_process';
import { writeFileSync } from 'node:fs';
import { cpus } from 'node:os';
import { join } from 'node:path';
import type { Figure } from './figure.ts';
import { benchDrift } from './drift-speed.ts';
import { benchCore } from './core-speed.ts';
import { benchSums } from './sums.ts';
import { benchLive } from './live-load.ts';
import { benchMargins } from './margins-load.ts';
import { benchManyTraces } from './many-traces.ts';
import { benchStart } from './start-up.ts';

const commit = execSync('git rev-parse --short HEAD').toString().trim();
const figures: Figure[] = [
  ...(await benchStart()),
  ...(await benchLive()),
  ...(await benchMargins()),
  ...benchCore(),
  ...benchDrift(),
  benchManyTraces(),
  ...benchSums(),
];
const table = [
  '| what | median | beside it, in the same run |',
  '| --- | --- | --- |',
  ...figures.map((f) => `| ${f.what} | ${f.value} | ${f.beside} |`),
].join('\n');
const page = `# Benchmarks

Made by \`npm run bench\` at ${commit}, on ${cpus().length} × ${cpus()[0]?.model.trim() ?? 'unknown'}, Node ${process.versions.node}. Medians; they say what this machine did that day, and no test depends on them.

${table}
`;
writeFileSync(join(import.meta.dirname, '../docs/benchmarks.md'), page);
process.stdout.write(`${table}\n`);
