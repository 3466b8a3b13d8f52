/** For the tests of the lock: takes a data folder and keeps it until it is ended. */
import { lockFolder } from '../store/folder-lock.ts';

await lockFolder(process.argv[2]!, new Date().toISOString(), 'http://localhost:2');
process.stdout.write('held\n');
setInterval(() => {}, 60_000);
