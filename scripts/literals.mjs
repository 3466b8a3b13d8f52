// Which figures of the core no test would miss: each is moved by one unit of its last digit or 2 %, and the specs are asked.
// Not part of the tests: it takes many minutes. node scripts/literals.mjs [part of a file name]
import { mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join, relative } from 'node:path';
import { createVitest } from 'vitest/node';
import { literalsIn, movable } from './lib/literals.mjs';
import { root as ROOT } from './lib/root.mjs';

const FOLDERS = ['solutions', 'families', 'electrical', 'statistics'].map((f) => join('core', f));
/** Quick ones first: one that fails ends the question. */
const SPECS = [
  ['core/solutions', 'core/electrical', 'core/statistics', 'core/families/ph', 'core/families/oxygen-membrane'],
  ['core/examples.spec.ts', 'core/reckoner', 'core/sensor', 'core/families/families.spec.ts'],
];
const KEPT = join(ROOT, '.cache', 'literals.json');

const walk = (dir) =>
  readdirSync(join(ROOT, dir)).flatMap((name) => {
    const path = join(dir, name);
    if (statSync(join(ROOT, path)).isDirectory()) return walk(path);
    return /\.ts$/.test(name) && !/\.spec\.ts$/.test(name) ? [path] : [];
  });

const only = process.argv[2] ?? '';
const files = FOLDERS.flatMap(walk);
const moving = new Set(files.map((f) => join(ROOT, f)));
const plugin = {
  name: 'movable-figures',
  enforce: 'pre',
  transform(code, id) {
    const path = id.split('?')[0];
    return moving.has(path) ? { code: movable(code, relative(ROOT, path)), map: null } : null;
  },
};

const setup = join(ROOT, '.cache', 'moved.mjs');
mkdirSync(join(ROOT, '.cache'), { recursive: true });
writeFileSync(setup, 'globalThis.__moved = process.env.FRUSTUM_MOVED;\n');
const vitest = await createVitest(
  'test',
  {
    watch: false,
    bail: 1,
    reporters: [{}],
    isolate: false,
    maxWorkers: 1,
    pool: 'forks',
    setupFiles: [setup],
    coverage: { enabled: false },
  },
  { plugins: [plugin], root: ROOT },
);

/** Does any spec under these paths fail? */
async function fails(paths) {
  const specs = await vitest.globTestSpecifications(paths.map((p) => join(ROOT, p)));
  const { testModules, unhandledErrors } = await vitest.runTestSpecifications(specs, false);
  return unhandledErrors.length > 0 || testModules.some((m) => !m.ok());
}

let kept = {};
try {
  kept = JSON.parse(readFileSync(KEPT, 'utf8'));
} catch {
  // the first time
}
process.env.FRUSTUM_MOVED = '';
for (const paths of SPECS) if (await fails(paths)) throw new Error(`The specs are red without any change: ${paths}`);
for (const file of files.filter((f) => f.includes(only))) {
  const source = readFileSync(join(ROOT, file), 'utf8');
  for (const [i, { text, line, home, moved }] of literalsIn(source, file).entries()) {
    const key = `${file} ${home} ${i} ${text}`;
    if (kept[key]?.noticed) continue;
    process.env.FRUSTUM_MOVED = `${file}:${i}`;
    let noticed = false;
    for (const paths of SPECS) noticed ||= await fails(paths);
    kept[key] = { file, line, home, text, moved, noticed };
    if (!noticed) console.log(`not noticed: ${file}:${line} ${home} ${text} → ${moved}`);
    writeFileSync(KEPT, JSON.stringify(kept, null, 1));
  }
}
await vitest.close();
const all = Object.values(kept).filter((k) => k.file.includes(only));
console.log(`${all.filter((k) => k.noticed).length} of ${all.length} noticed`);
