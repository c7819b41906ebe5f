// npm start: everything from nothing to one printed address. Ctrl-C stops all of it and keeps the data.
import { mkdirSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { buildWeb, checkNode, fail, installDependencies, needPackages, postgresPackage, root, say, webFolder } from './lib/machine.mjs';
import { takeLock } from './lib/lock.mjs';

const options = {
  host: { type: 'string', default: '127.0.0.1' },
  port: { type: 'string' },
  name: { type: 'string', multiple: true, default: [] },
  certificate: { type: 'string' },
  key: { type: 'string' },
  'pair-all': { type: 'boolean', default: false },
  seed: { type: 'string', default: '11' },
};

function asked() {
  try {
    return parseArgs({ options }).values;
  } catch (error) {
    const known = Object.keys(options)
      .map((o) => `--${o}`)
      .join(', ');
    return fail(`${error.message.split('.')[0]}. npm start knows ${known}.`);
  }
}

const values = asked();
const data = join(root, '.data');
const usualPort = 4460;
const fileTrouble = new Set(['EROFS', 'EACCES', 'EPERM', 'ENOSPC']);

/** One sentence for a folder or disk that cannot be written, and the end. */
function cannotWrite(error) {
  const why = error.code === 'ENOSPC' ? 'the disk is full' : 'this user may not write there, or the disk is read-only';
  fail(`The folder ${data} cannot be written: ${why}. Yare Pilot keeps its database there.`);
}

checkNode();
let lock;
try {
  mkdirSync(data, { recursive: true });
  lock = takeLock(join(data, 'running.json'), root);
} catch (error) {
  if (!fileTrouble.has(error.code)) throw error;
  cannotWrite(error);
}
if (lock.other)
  fail(
    `Yare Pilot already runs from this folder${lock.other.address ? ` at ${lock.other.address}` : ''} (process ${lock.other.pid}). Stop that one with Ctrl-C first, or start a second copy from a folder of its own.`,
  );
// whichever way this ends, the next start is not kept out
process.on('exit', () => lock.release());

if (values.port !== undefined && !(Number.isInteger(Number(values.port)) && Number(values.port) >= 1 && Number(values.port) <= 65535))
  fail(`--port takes a number from 1 to 65535, not "${values.port}".`);
needPackages([postgresPackage]);
installDependencies();
// what these bring in is there only now
const { freePort, startDatabase } = await import('./lib/database.mjs');
const { startBench, startServer } = await import('./lib/processes.mjs');
const { showPairing } = await import('./lib/terminal.mjs');

async function choosePort() {
  const port = Number(values.port ?? usualPort);
  return freePort(values.host, port).catch((error) => {
    if (values.port === undefined && error.code === 'EADDRINUSE') {
      say(`port ${usualPort} is used by another program; taking a free one`);
      return freePort(values.host);
    }
    return fail(
      error.code === 'EADDRINUSE'
        ? `Port ${port} on ${values.host} is used by another program. Choose another with --port, or leave it out.`
        : `Port ${port} on ${values.host} cannot be opened: ${error.message}.`,
    );
  });
}

const port = await choosePort();
buildWeb();

let database;
let bench;
let server;
let stopping = false;

async function stop(code) {
  if (stopping) return;
  stopping = true;
  say('stopping');
  await server?.stop().catch(() => undefined);
  await bench?.stop().catch(() => undefined);
  database?.stop();
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));
// a terminal that is closed, or a disk that is full, ends neither the programs nor the database out of turn
for (const stream of [process.stdout, process.stderr]) stream.on('error', () => undefined);
for (const event of ['uncaughtException', 'unhandledRejection'])
  process.on(event, (error) => {
    console.error(fileTrouble.has(error?.code) ? `${error.message}. Yare Pilot stops; the data so far is kept.` : error);
    void stop(1);
  });

/** Most times one thing is started again within {@link watchedFor}; then there is something wrong that starting does not cure. */
const mostRestarts = 5;
const watchedFor = 10 * 60_000;
const restarts = new Map();

/** Whether something that ended may be started again. */
function mayRestart(name) {
  const now = Date.now();
  const recent = (restarts.get(name) ?? []).filter((t) => now - t < watchedFor);
  restarts.set(name, [...recent, now]);
  return recent.length < mostRestarts;
}

/** What the end of a program means for the machines. */
const lost = {
  server: 'A motor that was held has been stopped by its drive; nothing starts by itself.',
  bench: 'The simulated drives begin anew with what they had kept.',
};

/** Starts a program, and again whenever it ends by itself. */
async function keep(name, start) {
  const program = start();
  void program.exited.then(async (code) => {
    if (stopping || !program.wasReady) return;
    if (!mayRestart(name)) {
      console.error(`The ${name} ended ${mostRestarts + 1} times within ten minutes (${code}). Yare Pilot stops. The log is .data/${name}.log.`);
      return stop(1);
    }
    console.error(`The ${name} ended unexpectedly (${code}) and is started again. Its last words are in .data/${name}.log. ${lost[name]}`);
    if (name === 'server') await databaseBack();
    if (!stopping) await keep(name, start).catch((error) => (console.error(error.message), stop(1)));
  });
  if (name === 'bench') bench = program;
  else server = program;
  const told = await program.told;
  program.wasReady = true;
  return told;
}

/** Looks that the database is there, and starts it again when it is not. */
let reviving = false;
function databaseBack() {
  if (stopping || reviving || database.pid() !== null) return;
  reviving = true;
  try {
    if (!mayRestart('database')) throw new Error(`The database ended ${mostRestarts + 1} times within ten minutes.`);
    console.error('The database ended unexpectedly and is started again. Runs were stopped; what was recorded until then is kept.');
    database.restart();
    console.error('The database is back.');
  } catch (error) {
    console.error(`${error.message}\nYare Pilot stops.`);
    void stop(1);
  } finally {
    reviving = false;
  }
}

try {
  database = await startDatabase(data);
  setInterval(databaseBack, 1000).unref();
  const plantPort = await freePort('127.0.0.1');
  const benchPort = await freePort('127.0.0.1');
  await keep('bench', () =>
    startBench({
      port: benchPort,
      plantPort,
      seed: Number(values.seed),
      // mains, air and load are not the same tomorrow
      day: Math.floor(Date.now() / 86_400_000),
      stateFile: join(data, 'bench.json'),
      logFile: join(data, 'bench.log'),
      onWarning: (sentence) => console.error(sentence),
    }),
  );
  const told = await keep('server', () =>
    startServer({
      host: values.host,
      port,
      database: database.url,
      bench: `127.0.0.1:${benchPort}`,
      plant: `127.0.0.1:${plantPort}`,
      staticFolder: webFolder,
      logFile: join(data, 'server.log'),
      more: [
        ...['--history', join(root, 'packages/demo-plant/history.json')],
        ...['--data', data, '--space', data, '--space', database.folder],
        ...values.name.flatMap((n) => ['--name', n]),
        ...(values.certificate ? ['--certificate', values.certificate] : []),
        ...(values.key ? ['--key', values.key] : []),
        ...(values['pair-all'] ? ['--pair-all'] : []),
      ],
    }),
  );
  const here = values.host === '0.0.0.0' || values.host === '::' ? '127.0.0.1' : values.host;
  const outside = told.names.length > 0;
  const loopback = here.startsWith('127.') && !values['pair-all'];
  const address = `${loopback || !outside ? 'http' : 'https'}://${here}:${port}`;
  lock.tell({ address, port, names: told.names, fingerprint: told.fingerprint });
  say(`drives of the bench answer Modbus TCP on 127.0.0.1:${benchPort}, units 1 to 8`);
  console.log(`\n  Yare Pilot: ${address}\n\n  Ctrl-C stops it; the data stays in .data\n`);
  if (outside) await showPairing({ database: database.url, names: told.names, port, fingerprint: told.fingerprint });
} catch (error) {
  if (!stopping) {
    if (fileTrouble.has(error.code)) console.error(`The folder ${data} cannot be written: ${error.message}.`);
    else console.error(error.message);
    await stop(1);
  }
}
