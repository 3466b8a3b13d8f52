// npm run demo: Tidewater House, its history and its stand-in probes. `-- --fresh` starts over.
import { rmSync } from 'node:fs';
import { resolve } from 'node:path';
import { prepare } from './lib/prepare.mjs';
import { start } from './lib/children.mjs';

await prepare();
const folder = resolve(process.env.FRUSTUM_DATA ?? '.frustum/demo');
if (process.argv.includes('--fresh')) {
  const { checkFree } = await import('../server/dist/check-free.js');
  await checkFree(folder);
  for (const name of [
    'database',
    'database.state.json',
    'journal',
    'snapshots',
    'set-aside',
    'switching.json',
    'stand-in.json',
    'history.bundle.json',
  ])
    rmSync(resolve(folder, name), { recursive: true, force: true });
}
const stand = await start('sim/dist/main.js', { FRUSTUM_DATA: folder });
await start('server/dist/main.js', {
  FRUSTUM_DATA: folder,
  FRUSTUM_DEMO_BUNDLE: stand.bundleFile,
  FRUSTUM_HANDS_URL: stand.handsUrl,
});
process.stdout.write('Tidewater House is invented. Stop it with Ctrl+C; start over with npm run demo -- --fresh\n');
