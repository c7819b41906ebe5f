// npm run unlock TAG: opens the settings of a machine whose code is lost. Stands in the log.
import { join } from 'node:path';
import { fail, root } from './lib/machine.mjs';
import { runningDatabase } from './lib/database.mjs';
import { atTheServer } from './lib/terminal.mjs';

const tag = process.argv[2];
if (!tag) fail('Say which machine: npm run unlock P-11');
const database = runningDatabase(join(root, '.data'));
if (!database) fail('Yare Pilot does not run from this folder. Start it first: the lock is in its database.');
const { opened } = atTheServer(database, ['unlock', tag]);
console.log(opened ? `The settings of ${tag} are open. The log says that it was done at the server.` : `The settings of ${tag} were not locked.`);
