// Which operators and conditions of the core no test would miss. Mutants by the instrumenter of a kept mutation-testing
// package, without texts; asked in one process, only the tests that come by. Not part of the tests.
// node scripts/operators.mjs [folder …]    results are kept in .cache/operators.json, by file and text: only what changed is asked anew
import { createHash } from 'node:crypto';
import { mkdirSync, readFileSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { createInstrumenter } from '@stryker-mutator/instrumenter';
import { createInjector } from 'typed-inject';
import { inOne } from './lib/in-one.mjs';
import { root } from './lib/root.mjs';

const FOLDERS = process.argv.length > 2 ? process.argv.slice(2) : ['solutions', 'families', 'electrical', 'statistics', 'calibration', 'drift', 'health', 'knowledge']; // prettier-ignore
const KEPT = join(root, '.cache', 'operators.json');
/** Texts say nothing of arithmetic; objects and lists made empty are types that do not fit. */
const EXCLUDED = ['StringLiteral', 'Regex', 'ObjectLiteral', 'ArrayDeclaration', 'ArrowFunction', 'BlockStatement', 'OptionalChaining', 'MethodExpression']; // prettier-ignore
const MOST_MS = Number(process.env.FRUSTUM_MOST_MS ?? 500);
/** A sample of so many-th mutants, where all of them would take hours. */
const EVERY = Number(process.env.FRUSTUM_EVERY ?? 1);
/** Of the tests that pass by a mutant so many are asked, the quickest first: nearly all pass by a filter. */
const MOST_TESTS = 80;

const under = (dir) =>
  readdirSync(join(root, dir)).flatMap((name) => {
    const path = join(dir, name);
    return statSync(join(root, path)).isDirectory() ? under(path) : [path];
  });
const isSource = (p) => /\.ts$/.test(p) && !/\.spec\.ts$/.test(p) && !/words\.ts$|causes\.ts$/.test(p);
const silent = new Proxy({}, { get: () => () => false });

const sources = FOLDERS.flatMap((f) => under(join('core', f))).filter(isSource);
/** Whose specs are asked: all of the core, but the drift engine's own only for what is its own: they alone would take hours. */
const SLOW = ['drift'];
const specs = under('core').filter(
  (p) =>
    /\.spec\.ts$/.test(p) &&
    !/thirteenth|statsmodels|ids\.spec|public-surface/.test(p) &&
    // Whose every test takes longer.
    !(MOST_MS < 100 && /drift\/(pool|model-fleet|pace)/.test(p)) &&
    (!SLOW.includes(p.split('/')[1]) || FOLDERS.some((f) => SLOW.includes(f))),
);
const instrumenter = createInjector().provideValue('logger', silent).injectFunction(createInstrumenter);
const made = await instrumenter.instrument(
  sources.map((name) => ({ name, mutate: true, content: readFileSync(join(root, name), 'utf8') })),
  { plugins: null, excludedMutations: EXCLUDED, ignorers: [], mutator: { plugins: null } },
);
const contents = new Map(made.files.map(({ name, content }) => [name, content]));
const gather = await inOne(specs, (path) => contents.get(path));
const write = process.stdout.write.bind(process.stdout);
process.stdout.write = (text, ...rest) =>
  /largest difference|TEOS-10|Skipped/.test(String(text)) ? true : write(text, ...rest);

/** Where the instrumented code looks. */
const space = (globalThis.__stryker__ = {
  activeMutant: undefined,
  currentTestId: undefined,
  mutantCoverage: undefined,
});
const ms = new Map();
space.mutantCoverage = { static: {}, perTest: {} };
const first = gather();
for (const { name, body } of first) {
  space.currentTestId = name;
  const from = performance.now();
  try {
    await body();
    ms.set(name, performance.now() - from);
  } catch (error) {
    if (!/is not defined/.test(error.message))
      console.log(`red without any change: ${name}: ${error.message.slice(0, 200)}`);
  }
}
const { perTest } = space.mutantCoverage;
const by = new Map();
for (const [name, seen] of Object.entries(perTest))
  if (ms.has(name)) for (const id of Object.keys(seen)) by.set(id, [...(by.get(id) ?? []), name]);
const atStart = new Set(Object.keys(space.mutantCoverage.static));
space.mutantCoverage = undefined;
console.log(`${made.mutants.length} mutants, ${ms.size} tests`);

let kept = {};
mkdirSync(join(root, '.cache'), { recursive: true });
try {
  kept = JSON.parse(readFileSync(KEPT, 'utf8'));
} catch {
  // the first time
}
const hashOf = new Map(
  sources.map((s) => [
    s,
    createHash('sha1')
      .update(readFileSync(join(root, s)))
      .digest('hex')
      .slice(0, 10),
  ]),
);

/** The test that notices a mutant; '' = none. */
async function noticedBy(id) {
  space.activeMutant = id;
  const those = new Set(by.get(id) ?? []);
  const order = first
    .filter((t) => those.has(t.name) && ms.get(t.name) < MOST_MS)
    .sort((a, b) => ms.get(a.name) - ms.get(b.name))
    .slice(0, MOST_TESTS);
  for (const { name, body } of order) {
    space.hitCount = 0;
    // One that goes on and on is noticed.
    space.hitLimit = 4 * perTest[name][id] + 1000;
    try {
      await body();
    } catch {
      return name;
    }
  }
  return '';
}

let asked = 0;
/** What is only reckoned when a module begins would need everything to begin anew: it is counted, not asked. */
const onlyAtStart = ({ id }) => atStart.has(id) && !by.has(id);
// The instrumenter lists what is left out, too.
const counted = made.mutants.filter((m) => m.status !== 'Ignored');
const asking = counted.filter((m) => !onlyAtStart(m)).filter((_, i) => i % EVERY === 0);
console.log(`${counted.length - asking.length} of ${counted.length} only when a module begins: not asked`);
for (const { id, fileName, mutatorName, replacement, location } of asking) {
  const key = `${fileName} ${hashOf.get(fileName)} ${location.start.line}:${location.start.column}-${location.end.line}:${location.end.column} ${mutatorName} ${replacement}`; // prettier-ignore
  // What was not noticed is asked again: there may be a new test.
  if (kept[key]) continue;
  kept[key] = await noticedBy(id);
  if (++asked % 5 === 0) writeFileSync(KEPT, JSON.stringify(kept));
}
space.activeMutant = undefined;
const now = asking.map(({ fileName, mutatorName, replacement, location }) => ({
  fileName,
  line: location.start.line + 1,
  mutatorName,
  replacement,
  by: kept[`${fileName} ${hashOf.get(fileName)} ${location.start.line}:${location.start.column}-${location.end.line}:${location.end.column} ${mutatorName} ${replacement}`], // prettier-ignore
}));
// What is gone is forgotten.
writeFileSync(KEPT, JSON.stringify(kept));
for (const folder of FOLDERS) {
  const mine = now.filter((m) => m.fileName.startsWith(`core/${folder}/`));
  const noticed = mine.filter((m) => m.by);
  console.log(
    `${folder}: ${noticed.length} of ${mine.length} noticed, ${((100 * noticed.length) / mine.length).toFixed(1)} %`,
  );
}
writeFileSync(join(root, '.cache', 'operators-left.txt'), now.filter((m) => !m.by).map((m) => `${m.fileName}:${m.line} ${m.mutatorName} → ${m.replacement.replace(/\s+/g, ' ').slice(0, 90)}`).join('\n')); // prettier-ignore
process.exit(0);
