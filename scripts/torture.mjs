// npm run torture [-- kills files bytes]: kills, cuts and damages until something acknowledged is lost. About twenty minutes.
import { command } from './lib/children.mjs';
import { prepare } from './lib/prepare.mjs';

await prepare();
const child = command('npx', ['tsx', 'perf/torture.ts', ...process.argv.slice(2)], {
  stdio: ['ignore', 'inherit', 'inherit'],
});
child.once('exit', (code) => process.exit(code ?? 1));
