import { parseArgs } from 'node:util';
import pino from 'pino';
import { startBench } from './bench';

const { values } = parseArgs({
  options: {
    host: { type: 'string', default: '127.0.0.1' },
    port: { type: 'string', default: '0' },
    'plant-port': { type: 'string', default: '0' },
    seed: { type: 'string', default: '11' },
    state: { type: 'string' },
    day: { type: 'string', default: '0' },
  },
});
const log = pino({ name: 'bench' });
const bench = await startBench({
  host: values.host,
  port: Number(values.port),
  plantPort: Number(values['plant-port']),
  seed: Number(values.seed),
  day: Number(values.day),
  stateFile: values.state,
  warn: (sentence) => {
    log.warn(sentence);
    process.send?.({ warning: sentence });
  },
});
log.info({ port: bench.port, plantPort: bench.plantPort, machines: bench.drives.size }, 'bench listening');
process.send?.({ ready: true, port: bench.port, plantPort: bench.plantPort });

let stopping = false;
async function stop() {
  if (stopping) return;
  stopping = true;
  await bench.stop();
  process.exit(0);
}
process.on('SIGINT', stop);
process.on('SIGTERM', stop);
process.on('disconnect', stop);
process.stdout.on('error', () => undefined);
process.stderr.on('error', () => undefined);
