// npm start: an empty, welcoming Frustum for one's own sensors.
import { prepare } from './lib/prepare.mjs';
import { start } from './lib/children.mjs';

await prepare();
await start('server/dist/main.js', { FRUSTUM_DATA: process.env.FRUSTUM_DATA ?? '.frustum/own' });
process.stdout.write('Stop it with Ctrl+C.\n');
