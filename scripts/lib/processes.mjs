// The bench and the server as child processes that tell when they are ready.
import { spawn } from 'node:child_process';
import { createWriteStream } from 'node:fs';
import { join } from 'node:path';
import { root } from './machine.mjs';

/** Starts a TypeScript program; resolves with its port once it says it is ready. Its log goes to a file. */
function startProgram(script, args, logFile) {
  const child = spawn(process.execPath, ['--import', 'tsx', join(root, script), ...args], { cwd: root, stdio: ['ignore', 'pipe', 'pipe', 'ipc'] });
  const log = createWriteStream(logFile, { flags: 'a' });
  let tail = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('data', (chunk) => {
      log.write(chunk);
      tail = (tail + chunk).slice(-3000);
    });
  }
  const exited = new Promise((resolve) => child.once('exit', (code) => resolve(code)));
  const ready = new Promise((resolve, reject) => {
    child.once('message', (message) => resolve(message.port));
    exited.then((code) => reject(new Error(`${script} ended with ${code} before it was ready:\n${tail}`)));
  });
  const stop = async (signal = 'SIGTERM', patience = 12_000) => {
    if (child.exitCode === null && child.signalCode === null) child.kill(signal);
    const timer = setTimeout(() => child.kill('SIGKILL'), patience);
    await exited;
    clearTimeout(timer);
  };
  return { child, ready, exited, stop };
}

export const startBench = ({ host = '127.0.0.1', port = 0, plantPort = 0, seed = 11, stateFile, logFile }) =>
  startProgram(
    'apps/bench/src/main.ts',
    ['--host', host, '--port', String(port), '--plant-port', String(plantPort), '--seed', String(seed), ...(stateFile ? ['--state', stateFile] : [])],
    logFile,
  );

export const startServer = ({ host = '127.0.0.1', port = 0, database, bench, plant, staticFolder, logFile }) =>
  startProgram(
    'apps/server/src/main.ts',
    [
      '--host',
      host,
      '--port',
      String(port),
      '--database',
      database,
      '--bench',
      bench,
      ...(plant ? ['--plant', plant] : []),
      ...(staticFolder ? ['--static', staticFolder] : []),
    ],
    logFile,
  );
