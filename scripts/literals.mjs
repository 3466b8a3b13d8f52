// Which figures of the core no test would miss: each is moved by one unit of its last digit or 2 %, and the specs are asked.
// Not part of the tests: it takes many minutes. node scripts/literals.mjs [part of a file name]
import { mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { inOne } from './lib/in-one.mjs';
import { literalsIn, movable } from './lib/literals.mjs';
import { root } from './lib/root.mjs';

const FOLDERS = ['solutions', 'families', 'electrical', 'statistics'].map((f) => join('core', f));
const KEPT = join(root, '.cache', 'literals.json');

const under = (dir) =>
  readdirSync(join(root, dir)).flatMap((name) => {
    const path = join(dir, name);
    return statSync(join(root, path)).isDirectory() ? under(path) : [path];
  });

const all = FOLDERS.flatMap(under);
const figures = new Set(all.filter((p) => /\.ts$/.test(p) && !/\.spec\.ts$/.test(p)));
const specs = [...all.filter((p) => /\.spec\.ts$/.test(p) && !/thirteenth/.test(p)), 'core/examples.spec.ts', 'core/reckoner/reckoner.spec.ts', 'core/quantities/units.spec.ts', ...under('core/sensor').filter((p) => /\.spec\.ts$/.test(p)), 'core/calibration/typed-units.spec.ts', 'core/calibration/fit.spec.ts', 'core/calibration/what-is-stated.spec.ts']; // prettier-ignore
const gather = await inOne(specs, (path, source) => (figures.has(path) ? movable(source, path) : undefined));
process.stdout.write = ((write) => (text, ...rest) => (/largest difference|TEOS-10|Skipped/.test(String(text)) ? true : write.call(process.stdout, text, ...rest)))(process.stdout.write); // prettier-ignore

/** Seconds of each test without any change: the quick ones are asked first. */
const seconds = new Map();
globalThis.__moved = '';
for (const { name, body } of gather()) {
  const from = performance.now();
  try {
    await body();
  } catch (error) {
    // Examples that use what only their own file exports.
    if (!/is not defined/.test(error.message))
      console.log(`red without any change: ${name}: ${error.message.slice(0, 200)}`);
    seconds.set(name, Infinity);
    continue;
  }
  seconds.set(name, performance.now() - from);
}
console.log(`${seconds.size} tests, ${[...seconds.values()].filter((s) => s === Infinity).length} left out`);

/** Tests that have noticed something lately are asked before the others. */
const lately = [];

/** Against other programs and by many draws: asked only where they judge. */
const MOST_MS = 60;
const judges = (file) => /seawater|oxygen/.test(file);

async function noticed(id) {
  globalThis.__moved = id;
  let tests;
  try {
    tests = gather();
  } catch {
    return true;
  }
  const order = tests
    .filter((t) => seconds.get(t.name) < (judges(id) ? 1e9 : MOST_MS))
    .sort((a, b) => seconds.get(a.name) - seconds.get(b.name));
  const first = order.filter((t) => lately.includes(t.name));
  for (const { name, body } of [...first, ...order.filter((t) => !lately.includes(t.name))]) {
    try {
      await body();
    } catch {
      lately.unshift(...lately.splice(lately.indexOf(name), lately.includes(name) ? 1 : 0));
      if (lately[0] !== name) lately.unshift(name);
      lately.length = Math.min(lately.length, 40);
      return name;
    }
  }
  return false;
}

mkdirSync(join(root, '.cache'), { recursive: true });
let kept = {};
try {
  kept = JSON.parse(readFileSync(KEPT, 'utf8'));
} catch {
  // the first time
}
/** Figures by which practice is tuned, by files: they are counted, and no test can know them better. */
const TUNED =
  /families\/.*\/(family|causes|limits|prior|words|standards)\.ts$|electrical\/as-family|statistics\/(chances|descent|kalman|mixture|robust)/;
/** Steps of numerical methods: any other figure of that size does as well, by file and home. */
const STEPS = [
  ['practical-salinity', /NOTHING|rootOf|\.x$|\.slope$/],
  ['practical-salinity', /^conductivityOfSeawater$/],
  ['inverse', /MIN_PIVOT/],
  ['density', /salinityOfGravity/],
];
const isStep = ({ file, home, text }) => STEPS.some(([part, where]) => file.includes(part) && where.test(home)) || (Number(text) < 1e-8 && /^currentFor|^pairTrouble|inside$/.test(home)); // prettier-ignore
const only = process.argv[2] ?? '';
/** What a figure was when it was asked: figures that are gone do not count. */
const now = Date.now();
const tuned = [...figures].filter((f) => TUNED.test(f)).reduce((n, f) => n + literalsIn(readFileSync(join(root, f), 'utf8'), f).length, 0); // prettier-ignore
for (const file of [...figures]
  .filter((f) => f.includes(only) && !TUNED.test(f))
  .sort()
  .reverse()) {
  const source = readFileSync(join(root, file), 'utf8');
  for (const [i, { text, line, home, moved, guard }] of literalsIn(source, file).entries()) {
    const key = `${file} ${home} ${i} ${text}`;
    if (kept[key]?.by) {
      kept[key] = { ...kept[key], guard, seen: now };
      continue;
    }
    const by = await noticed(`${file}:${i}`);
    kept[key] = { file, line, home, text, moved, by, guard, seen: now };
    if (!by) console.log(`not noticed: ${file}:${line} ${home} ${text} → ${moved}`);
  }
  writeFileSync(KEPT, JSON.stringify(kept, null, 1));
}
const asked = Object.values(kept).filter((k) => k.seen === now && !isStep(k));
console.log(`${tuned} figures of practice are not asked for`);
for (const [what, those] of [
  ['facts', asked.filter((k) => !k.guard)],
  ['guards against slips', asked.filter((k) => k.guard)],
]) {
  const noticed = those.filter((k) => k.by).length;
  console.log(`${what}: ${noticed} of ${those.length} noticed, ${((100 * noticed) / those.length).toFixed(1)} %`);
}
process.exit(0);
