// npm test: sets up what is missing, then type check, lint, unit tests and the real interface in a browser.
import { spawn, spawnSync } from 'node:child_process';
import { existsSync, mkdirSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { build, checkNode, install, root } from './lib/prepare.mjs';

checkNode();
install();
let failedSteps = 0;
const bin = (name) => join(root, 'node_modules/.bin', name);
// Not test-results: Playwright empties that folder when it starts.
const results = join(root, '.cache');

/** Runs one step; a failure is counted, and the others still run. */
function step(title, command, args, options = {}) {
  process.stdout.write(`\n— ${title}\n`);
  const { status } = spawnSync(command, args, { cwd: root, stdio: 'inherit', ...options });
  return status === 0;
}

/** Runs steps one after the other and prints each when it is done, so that two such rows may run at once. */
async function quietly(steps) {
  for (const [title, command, args] of steps) {
    const child = spawn(bin(command), args, { cwd: root, stdio: ['ignore', 'pipe', 'pipe'] });
    let said = '';
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk) => (said += chunk));
    const status = await new Promise((resolve) => {
      child.once('error', () => resolve(1));
      child.once('close', resolve);
    });
    process.stdout.write(`\n— ${title}\n${said}`);
    if (status !== 0) failedSteps++;
  }
}

/** Installs packages of Debian when this is Debian and we may; false when it cannot be done. */
function debian(...packages) {
  const apt = '/usr/bin/apt-get';
  if (!existsSync(apt) || process.getuid?.() !== 0) return false;
  process.stdout.write(`Installing Debian’s ${packages.join(', ')} (once) …\n`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = { stdio: ['ignore', 'ignore', 'inherit'], env };
  const wait = ['-o', 'DPkg::Lock::Timeout=60'];
  spawnSync(apt, [...wait, 'update', '-qq'], quiet);
  return spawnSync(apt, [...wait, 'install', '-y', '-qq', '--no-install-recommends', ...packages], quiet).status === 0;
}

/** A Chromium: there already, or Debian's. */
function chromium() {
  const known = () =>
    [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find((p) => p && existsSync(p));
  if (!known() && !debian('chromium')) {
    process.stdout.write(
      'There is no Chromium here, and it cannot be installed without apt-get and root. Install the package “chromium”, or set CHROMIUM.\n',
    );
  }
  return known() ?? null;
}

/**
 * Independent peers: TEOS-10's own library, which seawater is compared with, a Kalman filter, a Modbus stack and an MQTT
 * broker of other makes. Without them those tests are skipped and say so.
 */
function peers() {
  const python = (module) =>
    spawnSync('/usr/bin/python3', ['-c', `import ${module}`], { stdio: 'ignore' }).status === 0;
  const missing = [
    python('gsw') ? '' : 'python3-gsw',
    // Its client asks for the serial parts too, though nothing here is serial.
    ...(python('pymodbus.client') ? [] : ['python3-pymodbus', 'python3-serial', 'python3-serial-asyncio']),
    existsSync('/usr/sbin/mosquitto') ? '' : 'mosquitto',
    python('statsmodels.api') ? '' : 'python3-statsmodels',
  ].filter(Boolean);
  if (missing.length > 0) debian(...missing);
}

mkdirSync(results, { recursive: true });
for (const name of ['unit.json', 'e2e.json']) rmSync(join(results, name), { force: true });

/** Types on one core, lint and format on the other; each says what it has to say when it is done. */
const parts = ['core', 'contract', 'formats', 'server', 'sim', 'web'];
await Promise.all([
  quietly([
    ...parts.map((part) => [`type check, ${part}`, 'tsc', ['-p', part]]),
    // Tests, stories and benchmarks too: what must not compile is marked in them.
    ['type check, tests and benchmarks', 'tsc', ['-p', 'tsconfig.lint.json', '--noEmit']],
  ]),
  quietly([
    ['lint', 'eslint', ['.']],
    ['format', 'prettier', ['--check', '--log-level', 'warn', '.']],
  ]),
]);
build();
peers();
const unit = step('unit tests', bin('vitest'), [
  'run',
  '--reporter=default',
  '--reporter=json',
  '--outputFile.json=.cache/unit.json',
]);
const browser = chromium();
const e2e =
  browser !== null &&
  step('browser tests', bin('playwright'), ['test', '-c', 'e2e'], { env: { ...process.env, CHROMIUM: browser } });

const read = (name) => (existsSync(join(results, name)) ? JSON.parse(readFileSync(join(results, name), 'utf8')) : null);
const u = read('unit.json');
const b = read('e2e.json')?.stats;
const passed = (u?.numPassedTests ?? 0) + (b?.expected ?? 0);
let failed = (u?.numFailedTests ?? 0) + (b?.unexpected ?? 0) + (b?.flaky ?? 0) + failedSteps;
// A runner that fell over before it could count is a failure too.
if (!unit && !u?.numFailedTests) failed++;
if (!e2e && !b?.unexpected) failed++;
const skipped = (u?.numPendingTests ?? 0) + (b?.skipped ?? 0);
process.stdout.write(`\n${passed} passed, ${failed} failed${skipped ? `, ${skipped} skipped` : ''}\n`);
process.exit(failed ? 1 : 0);
