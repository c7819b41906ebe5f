// npm run reset -- --yes: throws the database and the bench's memory away. The next start makes the demo plant anew.
import { join } from 'node:path';
import { fail, root, say } from './lib/machine.mjs';
import { removeDatabase } from './lib/database.mjs';
import { holderOf } from './lib/lock.mjs';

const data = join(root, '.data');
if (!process.argv.includes('--yes'))
  fail('This deletes every draft, recording and audit event of this folder. Run "npm run reset -- --yes" if that is what you want.');
if (holderOf(join(data, 'running.json'), root)) fail('Yare Pilot is running from this folder. Stop it with Ctrl-C first.');
removeDatabase(data);
say('all data removed');
