// The bench and the server as child processes that tell when they are ready.
import { spawn } from 'node:child_process';
import { basename, dirname, join } from 'node:path';
import { createStream } from 'rotating-file-stream';
import { root } from './machine.mjs';

/** A log grows to this, then it is put aside; so many are kept. */
const largestLog = '5M';
const logsKept = 4;

/** A log file that is rotated. One that cannot be written, as on a full disk, is told once and then done without. */
function logTo(file) {
  const stream = createStream(basename(file), { path: dirname(file), size: largestLog, maxFiles: logsKept });
  let told = false;
  const failing = (error) => {
    if (!told) console.error(`The log ${file} cannot be written: ${error.message}. It goes on without.`);
    told = true;
  };
  stream.on('error', failing);
  stream.on('warning', failing);
  return stream;
}

/**
 * @param {string} script
 * @param {string[]} args
 * @param {string} logFile
 * @param {{ env?: Record<string, string>, onWarning?: (sentence: string) => void }} more
 * Starts a TypeScript program; resolves with its first message once it says it is ready. Its log goes to a file.
 */
function startProgram(script, args, logFile, { env = {}, onWarning } = {}) {
  const child = spawn(process.execPath, ['--import', 'tsx', join(root, script), ...args], {
    cwd: root,
    stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    env: { ...process.env, ...env },
  });
  const log = logTo(logFile);
  let tail = '';
  for (const stream of [child.stdout, child.stderr]) {
    stream.on('error', () => undefined);
    stream.on('data', (chunk) => {
      if (!log.destroyed) log.write(chunk);
      tail = (tail + chunk).slice(-3000);
    });
  }
  child.on('error', () => undefined);
  const exited = new Promise((resolve) => child.once('exit', (code, signal) => resolve(code ?? signal)));
  void exited.then(() => log.end());
  const told = new Promise((resolve, reject) => {
    child.on('message', (message) => {
      if (message.ready) resolve(message);
      else if (message.warning) onWarning?.(message.warning);
    });
    void exited.then((code) => reject(new Error(`${script} ended with ${code} before it was ready:\n${tail}`)));
  });
  const ready = told.then((message) => message.port);
  for (const promise of [told, ready]) promise.catch(() => undefined);
  const stop = async (signal = 'SIGTERM', patience = 12_000) => {
    if (child.exitCode === null && child.signalCode === null) child.kill(signal);
    const timer = setTimeout(() => child.kill('SIGKILL'), patience);
    await exited;
    clearTimeout(timer);
  };
  return { child, told, ready, exited, stop, tail: () => tail };
}

/** @param {{ host?: string, port?: number, plantPort?: number, seed?: number, day?: number, stateFile?: string, logFile: string, onWarning?: (sentence: string) => void, script?: string, env?: Record<string, string> }} options `script` starts the bench, with its arguments */
export const startBench = ({
  host = '127.0.0.1',
  port = 0,
  plantPort = 0,
  seed = 11,
  day = 0,
  stateFile,
  logFile,
  onWarning,
  script = 'apps/bench/src/main.ts',
  env = {},
}) =>
  startProgram(
    script,
    [
      '--host',
      host,
      '--port',
      String(port),
      '--plant-port',
      String(plantPort),
      '--seed',
      String(seed),
      '--day',
      String(day),
      ...(stateFile ? ['--state', stateFile] : []),
    ],
    logFile,
    { onWarning, env },
  );

/**
 * @param {{ host?: string, port?: number, database: string, bench: string, plant?: string, staticFolder?: string, logFile: string, more?: string[], env?: Record<string, string> }} options
 * `more` are further arguments of the server, as it has them; `env` goes into its environment
 */
export const startServer = ({ host = '127.0.0.1', port = 0, database, bench, plant, staticFolder, logFile, more = [], env = {} }) =>
  startProgram(
    'apps/server/src/main.ts',
    [
      ...['--host', host, '--port', String(port), '--bench', bench],
      ...(plant ? ['--plant', plant] : []),
      ...(staticFolder ? ['--static', staticFolder] : []),
      ...more,
    ],
    logFile,
    { env: { ...env, DATABASE_URL: database } },
  );
