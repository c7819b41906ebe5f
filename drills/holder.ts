/**
 * Beside a drill, in a process of its own: holds machines for as long as it lives, and many clients that only watch. What the drill is busy
 * with is not between these hands and the server. Tells its parent of every hold that ended without having been let go.
 */
import { setTimeout as pause } from 'node:timers/promises';
import { Device } from '../apps/server/test/device';

const [url = '', tags = '', watching = '0', all = ''] = process.argv.slice(2);
const frequency = 12;

async function deviceFor(watch: string[]): Promise<Device> {
  for (;;) {
    const device = new Device(url, 'Holder', { watch });
    if (await device.ready.then(() => true).catch(() => false)) return device;
    await pause(200);
  }
}

async function keepHolding(tag: string): Promise<void> {
  for (;;) {
    const device = await deviceFor([tag]);
    while (!(device.live(tag)?.state === 'ready' && device.live(tag)?.holder === 'terminals')) await pause(50);
    const press = device.hold(tag, frequency);
    while (!device.ended(press) && !device.refused(press) && device.runs(press).at(-1)?.phase !== 'running') await pause(50);
    if (device.runs(press).at(-1)?.phase === 'running') process.send?.({ held: tag });
    while (!device.ended(press) && !device.refused(press)) await pause(50);
    const { cause, reason } = device.ended(press) ?? { cause: 'refused', reason: device.refused(press)?.sentence };
    process.send?.({ ended: tag, cause, reason });
    device.close();
    await pause(500);
  }
}

for (let i = 0; i < Number(watching); i++) {
  const device = await deviceFor(all.split(','));
  // what is heard is not kept: a hundred clients for minutes
  device.socket.on('message', () => device.heard.splice(0, Math.max(0, device.heard.length - 4)));
}
process.send?.({ watching: Number(watching) });
for (const tag of tags.split(',').filter(Boolean)) void keepHolding(tag);
setInterval(() => undefined, 1000);
process.on('disconnect', () => process.exit(0));
