// npm start: everything from nothing to one printed address. Ctrl-C stops all of it and keeps the data.
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { parseArgs } from 'node:util';
import { buildWeb, checkNode, fail, installDependencies, needPackages, postgresPackage, root, say, webFolder } from './lib/machine.mjs';
import { freePort, startDatabase } from './lib/database.mjs';
import { startBench, startServer } from './lib/processes.mjs';

const { values } = parseArgs({
  options: { host: { type: 'string', default: '127.0.0.1' }, port: { type: 'string' }, seed: { type: 'string', default: '11' } },
});
const data = join(root, '.data');
const lock = join(data, 'running.json');
const usualPort = 4460;

checkNode();
mkdirSync(data, { recursive: true });

/** The address of a start from this very folder that is still alive; a leftover lock of a killed one counts for nothing. */
function alreadyRunning() {
  if (!existsSync(lock)) return null;
  try {
    const { pid, address } = JSON.parse(readFileSync(lock, 'utf8'));
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes('start.mjs') && pid !== process.pid ? { pid, address } : null;
  } catch {
    return null;
  }
}

const other = alreadyRunning();
if (other)
  fail(
    `Yare Pilot already runs from this folder at ${other.address} (process ${other.pid}). Stop that one with Ctrl-C first, or start a second copy from a folder of its own.`,
  );

async function choosePort() {
  if (values.port !== undefined) {
    const port = Number(values.port);
    if (!Number.isInteger(port) || port < 1 || port > 65535) fail(`--port takes a number from 1 to 65535, not "${values.port}".`);
    await freePort(values.host, port).catch((error) =>
      fail(
        error.code === 'EADDRINUSE'
          ? `Port ${port} on ${values.host} is used by another program. Choose another with --port, or leave it out.`
          : `Port ${port} on ${values.host} cannot be opened: ${error.message}.`,
      ),
    );
    return port;
  }
  return freePort(values.host, usualPort).catch(() => {
    say(`port ${usualPort} is used by another program; taking a free one`);
    return freePort(values.host);
  });
}

const port = await choosePort();
needPackages([postgresPackage]);
installDependencies();
buildWeb();
writeFileSync(lock, JSON.stringify({ pid: process.pid, address: `http://${values.host}:${port}` }));

const database = await startDatabase(data);
let bench;
let server;
let stopping = false;
async function stop(code) {
  if (stopping) return;
  stopping = true;
  say('stopping');
  await server?.stop();
  await bench?.stop();
  database.stop();
  rmSync(lock, { force: true });
  process.exit(code);
}
for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => void stop(0));

try {
  const plantPort = await freePort('127.0.0.1');
  bench = startBench({ plantPort, seed: Number(values.seed), stateFile: join(data, 'bench.json'), logFile: join(data, 'bench.log') });
  const benchPort = await bench.ready;
  server = startServer({
    host: values.host,
    port,
    database: database.url,
    bench: `127.0.0.1:${benchPort}`,
    plant: `127.0.0.1:${plantPort}`,
    staticFolder: webFolder,
    logFile: join(data, 'server.log'),
  });
  await server.ready;
  say(`drives of the bench answer Modbus TCP on 127.0.0.1:${benchPort}, units 1 to 8`);
  console.log(`\n  Yare Pilot: http://${values.host}:${port}\n\n  Ctrl-C stops it; the data stays in .data\n`);
} catch (error) {
  if (!stopping) {
    console.error(error.message);
    await stop(1);
  }
}
for (const [name, child] of [
  ['bench', bench],
  ['server', server],
]) {
  void child?.exited.then((code) => {
    if (stopping) return;
    console.error(`The ${name} ended unexpectedly (${code}). Its log is .data/${name}.log.`);
    void stop(1);
  });
}
