// npm run backup [-- file.tar]: the house of a data folder as one file, while Frustum runs or not.
import { prepare } from './lib/prepare.mjs';

await prepare();
process.env.FRUSTUM_DATA ??= '.frustum/own';
await import('../server/dist/backup.js');
