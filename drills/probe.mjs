// Beside a program, in its own process: how long its thread stood still. Asked with the message "stalls", it tells the worst since it was last
// asked, and how much of that was the thread's own: not what it stood ready and waited for a processor, nor what another machine on the same
// host took of the processor it had.
import { readFileSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';

const every = 5;
const read = (file) => {
  try {
    return readFileSync(file, 'utf8');
  } catch {
    return '';
  }
};
/** ms so far: the thread on a processor and ready for one (/proc/self/schedstat, ns), and stolen of all processors (/proc/stat, ticks of 10 ms). */
const account = () => {
  const [worked = 0, ready = 0] = read('/proc/self/schedstat').split(' ').map(Number);
  return { worked: worked / 1e6, ready: ready / 1e6, stolen: 10 * Number(/^cpu +(?:\d+ ){7}(\d+)/.exec(read('/proc/stat'))?.[1] ?? 0) };
};

if (isMainThread && process.send) {
  let last = performance.now();
  let before = account();
  let worst = { stood: 0, own: 0 };
  const look = () => {
    const now = performance.now();
    const stood = now - last - every;
    // whose time it was is looked at only where it matters, so that looking takes no time
    if (stood > 8) {
      const after = account();
      const had = Math.max(0, stood - (after.ready - before.ready));
      // neither at work nor ready: it waited for a disk, or its processor was taken away, as far as any was
      const away = Math.max(0, had - (after.worked - before.worked));
      const own = had - Math.min(away, after.stolen - before.stolen);
      before = after;
      worst = { stood: Math.max(worst.stood, stood), own: Math.max(worst.own, own) };
    } else if (now % 50 < every) before = account();
    last = performance.now();
  };
  setInterval(look, every);
  process.on('message', (message) => {
    if (message !== 'stalls') return;
    look();
    process.send({ stalls: worst });
    worst = { stood: 0, own: 0 };
  });
}
