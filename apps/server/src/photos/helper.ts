/**
 * Beside the server from its beginning: takes pictures over a socket of its own and has each decoded by a process of its own. The server does
 * not begin those itself: a program that has grown large stands still while it begins another.
 */
import { spawn } from 'node:child_process';
import { createServer } from 'node:http';
import { join } from 'node:path';
import { buffer } from 'node:stream/consumers';

const [socket = ''] = process.argv.slice(2);
/** A picture that takes longer is none, ms. */
const longest = 20_000;

createServer((request, response) => {
  const child = spawn(process.execPath, ['--import', 'tsx', join(process.cwd(), 'apps/server/src/photos/decode.ts')], {
    stdio: ['pipe', 'pipe', 'ignore'],
    env: { UV_THREADPOOL_SIZE: '2', NODE_ENV: 'production' },
    timeout: longest,
    killSignal: 'SIGKILL',
  });
  // one that ends before it has read all says so by its end
  child.stdin.on('error', () => undefined);
  request.pipe(child.stdin);
  const jpeg = buffer(child.stdout);
  child.once('close', (code) => void jpeg.then((picture) => response.writeHead(code === 0 && picture.length > 0 ? 200 : 415).end(picture)));
  // whoever asked is gone
  response.once('close', () => child.kill('SIGKILL'));
}).listen(socket, () => process.send?.('ready'));
process.on('disconnect', () => process.exit(0));
