// npm test: sets up what is missing, builds, then runs all checks in two slots. `-- --only unit|stories|static` runs one.
import { existsSync, mkdirSync, mkdtempSync, readFileSync, rmSync, statfsSync } from 'node:fs';
import { freemem } from 'node:os';
import { join, relative } from 'node:path';
import { stripVTControlCharacters } from 'node:util';
import { chromium, peers } from './lib/debian.mjs';
import { command as spawn } from './lib/children.mjs';
import { build, checkNode, install, root } from './lib/prepare.mjs';

/** As many phases run at once as a small machine has cores. */
const SLOTS = 2;

const wanted = process.argv.includes('--only') ? process.argv[process.argv.indexOf('--only') + 1] : null;
if (wanted !== null && !['unit', 'stories', 'static'].includes(wanted)) {
  process.stderr.write(`--only takes unit, stories or static, not “${wanted ?? ''}”.\n`);
  process.exit(2);
}

/**
 * Data folders of the tests lie in memory where there is plenty of it: every write of theirs is flushed to the disk, and what a
 * disk keeps is not what they test.
 */
const SHM = '/dev/shm';
const ROOM = 4e9;
function inMemory() {
  try {
    const { bavail, bsize } = statfsSync(SHM);
    return bavail * bsize > ROOM && freemem() > ROOM ? mkdtempSync(join(SHM, 'frustum-tests-')) : null;
  } catch {
    return null;
  }
}
const scratch = inMemory();
process.on('exit', () => scratch && rmSync(scratch, { recursive: true, force: true }));

/** Seconds of each phase, in the order in which they ended. */
const took = [];
const timed = async (title, work) => {
  const begun = performance.now();
  const result = await work();
  took.push({ title, seconds: (performance.now() - begun) / 1000, ok: true });
  return result;
};

checkNode();
await timed('packages', install);
await timed('build', build);
const browser = wanted === null || wanted === 'stories' ? await timed('browser', chromium) : null;
if (wanted === null || wanted === 'unit') await timed('peers', peers);

// Not test-results: Playwright empties that folder when it starts.
const results = join(root, '.cache');
mkdirSync(results, { recursive: true });
for (const name of ['unit.json', 'e2e.json']) rmSync(join(results, name), { force: true });

/** The dearest phase first: what is short fills the gap at the end. */
const PHASES = [
  {
    kind: 'stories',
    title: 'stories in the browser',
    command: 'playwright',
    args: ['test', '-c', 'e2e'],
    env: { CHROMIUM: browser ?? '' },
  },
  {
    kind: 'unit',
    title: 'unit tests',
    command: 'vitest',
    args: ['run', '--reporter=default', '--reporter=json', '--outputFile.json=.cache/unit.json'],
  },
  // Tests, stories and benchmarks too: what must not compile is marked in them.
  { kind: 'static', title: 'types', command: '../typescript7/bin/tsc', args: ['-b'] },
  { kind: 'static', title: 'lint', command: 'eslint', args: ['.'] },
  { kind: 'static', title: 'lint that needs types', command: 'oxlint', args: ['--type-aware'] },
  { kind: 'static', title: 'format', command: 'oxfmt', args: ['--check'] },
];

/** Runs a phase and prints what it said when it is over, so that two phases do not talk at once. */
async function run({ title, command, args, env }) {
  const begun = performance.now();
  const child = spawn(join(root, 'node_modules/.bin', command), args, {
    stdio: ['ignore', 'pipe', 'pipe'],
    env: { ...process.env, ...(scratch ? { TMPDIR: scratch } : {}), ...env },
  });
  const said = [];
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => said.push(chunk));
  const ok = await new Promise((resolve) => {
    child.once('error', () => resolve(false));
    child.once('close', (status) => resolve(status === 0));
  });
  took.push({ title, seconds: (performance.now() - begun) / 1000, ok });
  process.stdout.write(`\n— ${title}\n`);
  process.stdout.write(Buffer.concat(said));
  return ok;
}

const queue = PHASES.filter(({ kind }) => wanted === null || kind === wanted);
const begun = performance.now();
await Promise.all(
  Array.from({ length: SLOTS }, async () => {
    for (let phase = queue.shift(); phase; phase = queue.shift()) await run(phase);
  }),
);

const read = (name) => (existsSync(join(results, name)) ? JSON.parse(readFileSync(join(results, name), 'utf8')) : null);
const unit = read('unit.json');
const stories = read('e2e.json')?.stats;
const passed = (unit?.numPassedTests ?? 0) + (stories?.expected ?? 0);
const counted = {
  'unit tests': unit?.numFailedTests ?? 0,
  'stories in the browser': (stories?.unexpected ?? 0) + (stories?.flaky ?? 0),
};
// A phase that fell over before it could count is one failure, and so is one that has nothing to count.
const failed = took.reduce((sum, { title, ok }) => sum + (ok ? 0 : Math.max(1, counted[title] ?? 0)), 0);
const skipped = (unit?.numPendingTests ?? 0) + (stories?.skipped ?? 0);

// Once more at the end, with the reason: what a reader of a long log looks for, and the only part of it that CI shows.
const MAX_LINES = 25;
const reasonOf = (messages) =>
  stripVTControlCharacters(messages.join('\n'))
    .split('\n')
    .filter((line) => line.trim())
    .slice(0, MAX_LINES)
    .map((line) => `      ${line}`)
    .join('\n');
const fallenStories = (suites, path = []) =>
  (suites ?? []).flatMap((suite) => [
    ...fallenStories(suite.suites, [...path, suite.title]),
    ...(suite.specs ?? [])
      .filter((spec) => !spec.ok)
      .map((spec) => ({
        title: [...path, suite.title, spec.title].join(' › '),
        reason: reasonOf(spec.tests.flatMap((t) => t.results.flatMap((r) => r.errors.map((e) => e.message)))),
      })),
  ]);
const fallen = [
  ...fallenStories(read('e2e.json')?.suites),
  ...(unit?.testResults ?? []).flatMap(({ name, assertionResults }) =>
    assertionResults
      .filter((t) => t.status === 'failed')
      .map((t) => ({ title: `${relative(root, name)} › ${t.fullName}`, reason: reasonOf(t.failureMessages) })),
  ),
];
if (fallen.length)
  process.stdout.write(`\nFailed:\n${fallen.map(({ title, reason }) => `  ${title}\n${reason}\n`).join('')}`);

process.stdout.write('\nSeconds of each phase:\n');
for (const { title, seconds, ok } of took)
  process.stdout.write(`  ${seconds.toFixed(1).padStart(6)}  ${title}${ok ? '' : ': FAILED'}\n`);
process.stdout.write(`  ${((performance.now() - begun) / 1000).toFixed(1).padStart(6)}  all checks, in two slots\n`);
process.stdout.write(`\n${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}\n`);
process.exit(failed ? 1 : 0);
