// What the checks need beside npm's packages: a browser, and independent peers of other makes.
import { spawnSync } from 'node:child_process';
import { existsSync } from 'node:fs';

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

/** Debian's headless shell: Chromium without a window's parts, which draws the same pages for half the work. */
const SHELL = '/usr/bin/chromium-headless-shell';

/** A Chromium: the shell where it can be had, else what is there; null when there is none. */
export function chromium() {
  const known = () => [process.env.CHROMIUM, SHELL, '/usr/bin/chromium'].find((p) => p && existsSync(p)) ?? null;
  if (!process.env.CHROMIUM && !existsSync(SHELL)) debian('chromium-headless-shell');
  if (!known())
    process.stdout.write(
      'There is no Chromium here, and it cannot be installed without apt-get and root. Install the package “chromium-headless-shell”, or set CHROMIUM.\n',
    );
  return known();
}

/**
 * Independent peers: TEOS-10's own library, which seawater is compared with, a Kalman filter, a Modbus stack and an MQTT
 * broker of other makes. Without them those tests are skipped and say so.
 */
export function peers() {
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
