// npm run restore [-- file.tar | snapshot | --list]: without more, the house from its last good snapshot and its journal.
import { prepare } from './lib/prepare.mjs';

await prepare();
process.env.FRUSTUM_DATA ??= '.frustum/own';
await import('../server/dist/restore.js');
