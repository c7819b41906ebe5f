/**
 * The bench as it ships, and beside it what no drive tells: every shaft as a tachometer and a clamp meter at the motor would show it, rpm with
 * sign and A, a line each ten milliseconds over HTTP at the port in SHAFTS.
 */
import http from 'node:http';
import { parseArgs } from 'node:util';
import { fromSi } from '@yare/core';
import { startBench } from '../apps/bench/src/bench';

const text = { type: 'string' } as const;
const { values } = parseArgs({ options: { host: text, port: text, 'plant-port': text, seed: text, day: text, state: text } });
const bench = await startBench({
  ...{ host: values.host ?? '127.0.0.1', port: Number(values.port), plantPort: Number(values['plant-port']) },
  ...{ seed: Number(values.seed), day: Number(values.day ?? 0), stateFile: values.state },
});
const every = 10;
const shafts = http.createServer((_request, response) => {
  response.writeHead(200, { 'content-type': 'application/x-ndjson' });
  const timer = setInterval(() => {
    // whoever does not read gets the newest once he does
    if (response.writableNeedDrain) return;
    const all = [...bench.drives.values()].map(({ demo, machine }) => [demo.tag, [fromSi(machine.speed, 'rpm'), machine.motor.current]]);
    response.write(`${JSON.stringify(Object.fromEntries(all))}\n`);
  }, every);
  response.once('close', () => clearInterval(timer));
});
await new Promise<void>((done) => shafts.listen(Number(process.env.SHAFTS), '127.0.0.1', done));
process.send?.({ ready: true, port: bench.port, plantPort: bench.plantPort });
const stop = () => void bench.stop().then(() => process.exit(0));
for (const event of ['SIGINT', 'SIGTERM', 'disconnect']) process.on(event, stop);
