// npm run dev: the demo behind Vite's development server on http://localhost:4871 (pages reload as they are edited).
import { createServer } from 'vite';
import { join } from 'node:path';
import { prepare, root } from './lib/prepare.mjs';
import { start } from './lib/children.mjs';

await prepare();
const folder = join(root, '.frustum/demo');
const stand = await start('sim/dist/main.js', { FRUSTUM_DATA: folder });
await start('server/dist/main.js', {
  FRUSTUM_DATA: folder,
  FRUSTUM_DEMO_BUNDLE: stand.bundleFile,
  FRUSTUM_HANDS_URL: stand.handsUrl,
});
const vite = await createServer({ root: join(root, 'web') });
await vite.listen();
vite.printUrls();
