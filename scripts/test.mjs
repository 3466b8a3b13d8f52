// npm test: sets up what is missing, then type check, lint, unit tests and the real interface in a browser.
import { spawnSync } from 'node:child_process';
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

/** Debian's Chromium: there already, or installed when this is Debian and we may. */
function chromium() {
  const known = [process.env.CHROMIUM, '/usr/bin/chromium', '/usr/bin/chromium-browser'].find(
    (p) => p && existsSync(p),
  );
  if (known) return known;
  const apt = '/usr/bin/apt-get';
  if (!existsSync(apt) || process.getuid?.() !== 0) {
    process.stdout.write(
      'There is no Chromium here, and it cannot be installed without apt-get and root. Install the package “chromium”, or set CHROMIUM.\n',
    );
    return null;
  }
  process.stdout.write('Installing Debian’s Chromium (once) …\n');
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  const quiet = { stdio: ['ignore', 'ignore', 'inherit'], env };
  spawnSync(apt, ['-o', 'DPkg::Lock::Timeout=60', 'update', '-qq'], quiet);
  spawnSync(
    apt,
    ['-o', 'DPkg::Lock::Timeout=60', 'install', '-y', '-qq', '--no-install-recommends', 'chromium'],
    quiet,
  );
  return existsSync('/usr/bin/chromium') ? '/usr/bin/chromium' : null;
}

mkdirSync(results, { recursive: true });
for (const name of ['unit.json', 'e2e.json']) rmSync(join(results, name), { force: true });

for (const part of ['core', 'contract', 'formats', 'server', 'sim', 'web', 'e2e']) {
  if (!step(`type check, ${part}`, bin('tsc'), ['-p', part])) failedSteps++;
}
if (!step('lint', bin('eslint'), ['.'])) failedSteps++;
if (!step('format', bin('prettier'), ['--check', '--log-level', 'warn', '.'])) failedSteps++;
build();
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
process.stdout.write(`\n${passed} passed, ${failed} failed\n`);
process.exit(failed ? 1 : 0);
