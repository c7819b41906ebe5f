// First script load of the application, gzipped. Fails above the limit. `--json` prints one object.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { gzipSync } from 'node:zlib';
import { buildWeb, installDependencies, webFolder } from './lib/machine.mjs';

const limitKb = 700;
if (!existsSync(join(webFolder, 'index.html'))) {
  installDependencies();
  buildWeb();
}
const page = readFileSync(join(webFolder, 'index.html'), 'utf8');
const scripts = [...page.matchAll(/<script[^>]+src="([^"]+)"/g)].map((m) => m[1]);
const worker = readdirSync(join(webFolder, '_expo/static/js/web')).filter((f) => f.startsWith('lookAhead'));
const kb = (path) => gzipSync(readFileSync(join(webFolder, path))).length / 1000;
const firstLoadGzipKb = Math.round(scripts.reduce((sum, path) => sum + kb(path), 0) * 10) / 10;
const workerGzipKb = Math.round(worker.reduce((sum, f) => sum + kb(`_expo/static/js/web/${f}`), 0) * 10) / 10;
if (process.argv.includes('--json')) console.log(JSON.stringify({ firstLoadGzipKb }));
else console.log(`first script load ${firstLoadGzipKb} kB gzipped of at most ${limitKb}; the look-ahead worker, later, ${workerGzipKb} kB`);
process.exit(scripts.length > 0 && firstLoadGzipKb <= limitKb ? 0 : 1);
