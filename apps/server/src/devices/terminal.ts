/** What is only for somebody at the server itself: a pairing code, or opening a lock whose code is lost. Prints one JSON object. */
import { connect } from '../db/connect';
import { newPairingCode } from './devices';
import { forceLock } from '../lock/locks';
import { machineByTag } from '../machines/machines';

const [command, tag] = process.argv.slice(2);
const url = process.env.DATABASE_URL;
if (!url) throw new Error('DATABASE_URL is needed in the environment');
const db = connect(url);
try {
  if (command === 'pair') console.log(JSON.stringify(await newPairingCode(db)));
  else if (command === 'unlock' && tag) {
    const m = await machineByTag(db, tag);
    console.log(JSON.stringify({ opened: await forceLock(db, m, 'At the server') }));
  } else throw new Error('pair, or unlock TAG');
} catch (error) {
  console.log(JSON.stringify({ error: (error as Error).message }));
  process.exitCode = 1;
} finally {
  await db.destroy();
}
