// What this computer must have: Debian packages by apt, npm packages by the lock file.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, readdirSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { fileURLToPath } from 'node:url';
import { brotliCompressSync, gzipSync } from 'node:zlib';

export const root = dirname(dirname(dirname(fileURLToPath(import.meta.url))));
export const isRoot = process.getuid?.() === 0;

/** A line about what is being done; beside the way when somebody asked for JSON. */
export const say = (text) => (process.argv.includes('--json') ? console.error : console.log)(`· ${text}`);

export function fail(text) {
  console.error(`\n${text}\n`);
  process.exit(1);
}

/** Runs a command to its end; its output is shown only when it fails. */
export function run(command, args, options = {}) {
  const result = spawnSync(command, args, { cwd: root, encoding: 'utf8', stdio: ['ignore', 'pipe', 'pipe'], maxBuffer: 1 << 28, ...options });
  if (result.status !== 0) {
    if (options.allowFailure) return result;
    console.error(`${result.stdout ?? ''}${result.stderr ?? ''}`.split('\n').slice(-40).join('\n'));
    fail(`"${command} ${args.join(' ')}" failed${result.error ? `: ${result.error.message}` : ''}.`);
  }
  return result;
}

export function checkNode() {
  const [major, minor] = process.versions.node.split('.').map(Number);
  if (major < 20 || (major === 20 && minor < 19)) fail(`Node.js 20.19 or later is needed; this is ${process.versions.node}.`);
}

/** Folder of PostgreSQL's own programs; null when the server is not installed. */
export function postgresPrograms() {
  const base = '/usr/lib/postgresql';
  if (!existsSync(base)) return null;
  const versions = readdirSync(base).filter((v) => existsSync(join(base, v, 'bin', 'initdb')) && existsSync(join(base, v, 'bin', 'postgres')));
  versions.sort((a, b) => Number(b) - Number(a));
  return versions.length > 0 ? join(base, versions[0], 'bin') : null;
}

/** Installs the Debian packages whose test says they are missing. Without root it says the exact command and ends. */
export function needPackages(wanted) {
  const missing = wanted.filter((w) => !w.present()).map((w) => w.name);
  if (missing.length === 0) return;
  if (!isRoot)
    fail(
      `Missing on this computer: ${missing.join(', ')}. Run this once, then start again:\n\n  sudo apt-get update && sudo apt-get install -y --no-install-recommends ${missing.join(' ')}`,
    );
  say(`installing ${missing.join(', ')} with apt (once)`);
  const env = { ...process.env, DEBIAN_FRONTEND: 'noninteractive' };
  run('apt-get', ['update'], { env, allowFailure: true });
  run('apt-get', ['install', '-y', '--no-install-recommends', ...missing], { env });
  const still = wanted.filter((w) => !w.present()).map((w) => w.name);
  if (still.length > 0) fail(`apt finished but ${still.join(', ')} is still not there.`);
}

export const postgresPackage = { name: 'postgresql', present: () => postgresPrograms() !== null };
export const testPackages = [
  { name: 'chromium', present: () => existsSync('/usr/bin/chromium') },
  { name: 'fonts-dejavu-core', present: () => existsSync('/usr/share/fonts/truetype/dejavu') },
];

function filesBelow(folder) {
  return readdirSync(folder, { withFileTypes: true }).flatMap((e) => {
    const path = join(folder, e.name);
    if (e.isDirectory()) return ['node_modules', 'dist', '.expo', 'test'].includes(e.name) ? [] : filesBelow(path);
    return [path];
  });
}

/** One hash over the contents of files and folders. */
export function hashOf(paths) {
  const hash = createHash('sha256');
  for (const path of paths.map((p) => join(root, p)).filter(existsSync)) {
    for (const file of statSync(path).isDirectory() ? filesBelow(path).sort() : [path]) hash.update(relative(root, file)).update(readFileSync(file));
  }
  return hash.digest('hex');
}

/** Does `work` unless the stamp beside its product says it was done for this very input. */
function whenChanged(stamp, hash, work) {
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === hash) return;
  work();
  writeFileSync(stamp, hash);
}

export function installDependencies() {
  whenChanged(join(root, 'node_modules/.installed'), hashOf(['package-lock.json']), () => {
    say('installing npm packages');
    run('npm', ['ci', '--no-audit', '--no-fund']);
  });
}

export const program = (name) => join(root, 'node_modules/.bin', name);

export function compileValidators() {
  run(program('tsx'), ['packages/contract/compile.ts']);
}

const webInputs = [
  'package-lock.json',
  'scripts/lib/machine.mjs',
  'apps/pilot',
  'packages/core/src',
  'packages/contract/src',
  'packages/books/src',
  'packages/books/data',
  'packages/commissioning/src',
  'packages/commissioning/data',
];
export const webFolder = join(root, 'apps/pilot/dist');

/** Lays copies in brotli and gzip beside every text of the application: the first goes to a browser that takes it. */
function compressWeb() {
  for (const name of readdirSync(webFolder, { recursive: true })) {
    const path = join(webFolder, name);
    if (!/\.(js|css|html|json|svg)$/.test(name)) continue;
    const text = readFileSync(path);
    writeFileSync(`${path}.gz`, gzipSync(text, { level: 9 }));
    writeFileSync(`${path}.br`, brotliCompressSync(text));
  }
}

/** Exports the application for the web when anything in it changed. */
export function buildWeb() {
  compileValidators();
  whenChanged(join(webFolder, '.built'), hashOf(webInputs), () => {
    say('building the application (about two minutes the first time)');
    run(program('expo'), ['export', '-p', 'web'], {
      cwd: join(root, 'apps/pilot'),
      // what a module passes on is the thing itself, not a getter asked in every step of a run ahead
      env: { ...process.env, CI: '1', EXPO_NO_TELEMETRY: '1', EXPO_OFFLINE: '1', NODE_ENV: 'production', EXPO_UNSTABLE_LIVE_BINDINGS: 'false' },
    });
    compressWeb();
  });
}
