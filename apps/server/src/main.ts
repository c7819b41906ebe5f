import { readFileSync } from 'node:fs';
import { networkInterfaces } from 'node:os';
import { parseArgs } from 'node:util';
import { isLoopback } from '@yare/contract';
import { buildApp } from './app';
import { ownCertificate, selfMadeCertificate } from './door/certificate';
import { connect, migrate } from './db/connect';
import { seedHistory, type DemoHistory } from './db/history';
import { seedDemoPlant } from './db/seed';
import { DatabaseWatch, SecondServer } from './db/watch';
import { twoDoors } from './door/listen';
import { freeIn } from './space';

const { values } = parseArgs({
  options: {
    host: { type: 'string', default: '127.0.0.1' },
    port: { type: 'string', default: '0' },
    /** further names the server is called by */
    name: { type: 'string', multiple: true, default: [] },
    certificate: { type: 'string' },
    key: { type: 'string' },
    /** pair devices at the server's own computer too, as behind a proxy */
    'pair-all': { type: 'boolean', default: false },
    data: { type: 'string' },
    /** folders whose free space counts */
    space: { type: 'string', multiple: true, default: [] },
    bench: { type: 'string' },
    plant: { type: 'string' },
    static: { type: 'string' },
    /** what lies behind a fresh demo plant */
    history: { type: 'string' },
  },
});
// by the environment, not by an argument: arguments are for everybody on this computer to see
const database = process.env.DATABASE_URL;
delete process.env.DATABASE_URL;
if (!database || !values.bench) throw new Error('DATABASE_URL in the environment and --bench HOST:PORT are needed');

/** Ends with one sentence where one is due. */
function end(error: unknown): never {
  console.error(error instanceof SecondServer ? error.message : error);
  process.exit(1);
}

const watch = await DatabaseWatch.begin(database).catch(end);
const making = connect(database, { patience: 0 });
await migrate(making);
await seedDemoPlant(making);
if (values.history) await seedHistory(making, JSON.parse(readFileSync(values.history, 'utf8')) as DemoHistory);
await making.destroy();
const db = connect(database);
const [host = '127.0.0.1', port = '0'] = values.bench.split(':');
const [plantHost = '127.0.0.1', plantPort = '0'] = values.plant?.split(':') ?? [];
const plant = values.plant ? { host: plantHost, port: Number(plantPort) } : undefined;

const everywhere = values.host === '0.0.0.0' || values.host === '::';
const here = everywhere
  ? Object.values(networkInterfaces()).flatMap((list) =>
      (list ?? []).filter((a) => !a.internal && !a.address.startsWith('fe80')).map((a) => a.address),
    )
  : [values.host];
const names = [...new Set([...values.name.map((n) => n.toLowerCase()), ...here])];
const outside = everywhere || !isLoopback(values.host) || values['pair-all'];
const certificate = !outside
  ? null
  : values.certificate
    ? ownCertificate(values.certificate, values.key ?? values.certificate)
    : await selfMadeCertificate(values.data ?? '.', [...names, 'localhost', '127.0.0.1']);
const doors = certificate && twoDoors(certificate, !values['pair-all'], names);

const app = await buildApp({
  db,
  watch,
  drives: { host, port: Number(port) },
  plant,
  staticFolder: values.static,
  logger: { level: 'info' },
  names,
  trustLoopback: !values['pair-all'],
  ready: true,
  ...(values.space.length > 0 && { freeSpace: () => freeIn(values.space) }),
  ...(doors && { serverFactory: doors.factory }),
});

let stopping = false;
async function stop() {
  if (stopping) return;
  stopping = true;
  await app.close();
  await doors?.close();
  await watch.stop();
  await db.destroy();
  process.exit(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
process.on('disconnect', stop);
// nothing that goes wrong beside a run may end the process that holds its button
process.on('unhandledRejection', (err) => app.log.error({ err }, 'unhandled rejection'));
process.stdout.on('error', () => undefined);
process.stderr.on('error', () => undefined);

let listening: number;
if (doors) {
  await app.ready();
  listening = await doors.listen(values.host, Number(values.port));
} else {
  await app.listen({ host: values.host, port: Number(values.port) });
  const address = app.server.address();
  listening = typeof address === 'object' && address ? address.port : 0;
}
process.send?.({ ready: true, port: listening, fingerprint: certificate?.fingerprint ?? null, names: outside ? names : [] });
