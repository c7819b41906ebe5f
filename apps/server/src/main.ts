import { parseArgs } from 'node:util';
import { buildApp } from './app';
import { connect, migrate } from './db/connect';
import { seedDemoPlant } from './db/seed';

const { values } = parseArgs({
  options: {
    host: { type: 'string', default: '127.0.0.1' },
    port: { type: 'string', default: '0' },
    database: { type: 'string' },
    bench: { type: 'string' },
    plant: { type: 'string' },
    static: { type: 'string' },
  },
});
if (!values.database || !values.bench) throw new Error('--database URL and --bench HOST:PORT are needed');

const db = connect(values.database);
await migrate(db);
await seedDemoPlant(db);
const [host = '127.0.0.1', port = '0'] = values.bench.split(':');
const [plantHost = '127.0.0.1', plantPort = '0'] = values.plant?.split(':') ?? [];
const plant = values.plant ? { host: plantHost, port: Number(plantPort) } : undefined;
const app = await buildApp({ db, drives: { host, port: Number(port) }, plant, staticFolder: values.static, logger: { level: 'info' } });

let stopping = false;
async function stop() {
  if (stopping) return;
  stopping = true;
  await app.close();
  await db.destroy();
  process.exit(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
process.on('disconnect', stop);

await app.listen({ host: values.host, port: Number(values.port) });
const address = app.server.address();
process.send?.({ ready: true, port: typeof address === 'object' && address ? address.port : 0 });
