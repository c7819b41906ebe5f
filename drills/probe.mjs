// Beside a program, in its own process: how long its thread stood still. Asked with the message "stalls", it tells the worst since it was last
// asked, and how much of that the thread was ready and waited for a processor (the second figure of /proc/self/schedstat, ns).
import { readFileSync } from 'node:fs';
import { isMainThread } from 'node:worker_threads';

const every = 5;
const waited = () => {
  try {
    return Number(readFileSync('/proc/self/schedstat', 'utf8').split(' ')[1]) / 1e6;
  } catch {
    return 0;
  }
};

if (isMainThread && process.send) {
  let last = performance.now();
  let before = waited();
  let worst = { stood: 0, own: 0 };
  const look = () => {
    const now = performance.now();
    const stood = now - last - every;
    // what it waited for a processor is this machine's; looked at only where it matters, so that looking takes no time
    if (stood > 8) {
      const ready = waited();
      const own = Math.max(0, stood - (ready - before));
      before = ready;
      worst = { stood: Math.max(worst.stood, stood), own: Math.max(worst.own, own) };
    } else if (now % 50 < every) before = waited();
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
