// What has to be there before anything runs: the right Node, the packages, the built application.
import { existsSync, readdirSync, statSync, writeFileSync, mkdirSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { run } from './children.mjs';
import { root } from './root.mjs';

export { root };

/** Node 20.19 or newer in the 20 line, 22.12 or newer above: what Vite 8 needs. */
export function checkNode(version = process.versions.node) {
  const [major, minor] = version.split('.').map(Number);
  const fits = (major === 20 && minor >= 19) || (major === 22 && minor >= 12) || major > 22;
  if (fits) return;
  process.stderr.write(
    `Frustum needs Node 20.19 or newer (22.12 or newer in the 22 line); this is ${version}. Install a newer Node and try again.\n`,
  );
  process.exit(1);
}

/** Installs the packages when they are missing or older than the lock file. */
export async function install() {
  const mark = join(root, 'node_modules/.package-lock.json');
  if (existsSync(mark) && statSync(mark).mtimeMs >= statSync(join(root, 'package-lock.json')).mtimeMs) return;
  process.stdout.write('Installing packages (once, about a minute) …\n');
  await run('npm ci', process.platform === 'win32' ? 'npm.cmd' : 'npm', [
    'ci',
    '--no-audit',
    '--no-fund',
    '--loglevel=error',
  ]);
}

const SOURCES = ['core', 'contract', 'formats', 'server', 'sim', 'web', 'package-lock.json', 'scripts/build.mjs'];
const SKIPPED = new Set(['node_modules', 'dist', 'migrations']);

/** Time of the newest source file. */
function newest(path) {
  const stat = statSync(path);
  if (!stat.isDirectory()) return path.endsWith('.spec.ts') ? 0 : stat.mtimeMs;
  return Math.max(
    0,
    ...readdirSync(path)
      .filter((n) => !SKIPPED.has(n))
      .map((n) => newest(join(path, n))),
  );
}

/** Builds pages, server and stand-in when a source is newer than the last build. */
export async function build() {
  const mark = join(root, 'server/dist/.built');
  const sources = Math.max(...SOURCES.map((s) => newest(join(root, s))));
  if (existsSync(mark) && statSync(mark).mtimeMs >= sources && existsSync(join(root, 'web/dist/index.html'))) return;
  process.stdout.write('Building …\n');
  await run('The build', process.execPath, ['scripts/build.mjs']);
  mkdirSync(dirname(mark), { recursive: true });
  writeFileSync(mark, '');
}

export async function prepare() {
  checkNode();
  await install();
  await build();
}
