// npm run pair: a fresh code for one phone, from the start that runs in this folder.
import { join } from 'node:path';
import { fail, root } from './lib/machine.mjs';
import { runningDatabase } from './lib/database.mjs';
import { holderOf } from './lib/lock.mjs';
import { showPairing } from './lib/terminal.mjs';

const data = join(root, '.data');
const running = holderOf(join(data, 'running.json'), root);
const database = running && runningDatabase(data);
if (!database || !running.port) fail('Yare Pilot does not run from this folder. Start it with "npm start -- --host 0.0.0.0", then pair.');
if (running.names.length === 0) fail('Yare Pilot listens on this computer only. Start it with "npm start -- --host 0.0.0.0" to let phones in.');
await showPairing({ database, ...running });
