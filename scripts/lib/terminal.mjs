// What is asked of a running database from the server's own terminal, and how it is shown there.
import QRCode from 'qrcode';
import { join } from 'node:path';
import { fail, program, root, run } from './machine.mjs';

/** Runs a command of apps/server/src/devices/terminal.ts and gives what it says. */
export function atTheServer(database, args) {
  const result = run(program('tsx'), [join(root, 'apps/server/src/devices/terminal.ts'), ...args], {
    env: { ...process.env, DATABASE_URL: database },
    allowFailure: true,
  });
  const said = JSON.parse(result.stdout.trim().split('\n').pop() || '{}');
  if (said.error || result.status !== 0) fail(said.error ?? 'That did not work.');
  return said;
}

/** Where phones find this server, best guess first. */
export const addressesOf = (names, port) => names.map((n) => `https://${n.includes(':') ? `[${n}]` : n}:${port}`);

/** Makes a pairing code and shows it: QR, code, address, fingerprint of the certificate. */
export async function showPairing({ database, names, port, fingerprint }) {
  const { code, expires } = atTheServer(database, ['pair']);
  const [first, ...others] = addressesOf(names, port);
  // behind the # so that it stands in no log
  console.log(`\n${await QRCode.toString(`${first}/pair#${code}`, { type: 'terminal', small: true })}`);
  console.log(`  Pair a phone: scan this, or open ${first} and type  ${code.slice(0, 4)} ${code.slice(4)}`);
  if (others.length > 0) console.log(`  (also at ${others.join(', ')})`);
  console.log(`  Good once, until ${new Date(expires).toLocaleTimeString()}. A new one: npm run pair`);
  console.log(`  The browser asks whether it may trust the certificate. It may if the SHA-256 fingerprint is\n  ${fingerprint}\n`);
}
