// First load of the application, gzipped and in brotli: the scripts of the page, and those of its frame and of the plant page that it fetches at once; and
// the piece with every other page, which comes with the first of them or while the plant is looked at. Fails above either limit. `--json` prints one object.
import { existsSync, readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { brotliCompressSync, gzipSync } from 'node:zlib';
import { buildWeb, installDependencies, webFolder } from './lib/machine.mjs';

const limitKb = 400;
const pagesLimitKb = 400;
if (!existsSync(join(webFolder, 'index.html'))) installDependencies();
buildWeb();
const chunks = '_expo/static/js/web';
const page = readFileSync(join(webFolder, 'index.html'), 'utf8');
const scripts = [...page.matchAll(/<script[^>]+src="\/?([^"]+)"/g)].map((m) => m[1]);
const named = readdirSync(join(webFolder, chunks))
  .filter((f) => f.endsWith('.js'))
  .map((f) => `${chunks}/${f}`);
const plain = (path) => readFileSync(join(webFolder, path), 'utf8');
const sum = (paths, compressed = gzipSync) => Math.round(paths.reduce((total, path) => total + compressed(plain(path)).length, 0) / 100) / 10;

// every page stands in the frame; of the pages named index, the plant's is the one that asks the way to a new machine
const frame = named.filter((f) => /\/_layout-/.test(f));
const plant = named.filter((f) => /\/index-/.test(f) && plain(f).includes('/new'));
const worker = named.filter((f) => /\/lookAhead-/.test(f));
const pages = named.filter((f) => /\/screens-/.test(f));
const later = named.filter((f) => ![...scripts, ...frame, ...plant, ...pages, ...worker].includes(f));
const first = [...scripts, ...frame, ...plant];
const firstLoadGzipKb = sum(first);
const firstLoadBrotliKb = sum(first, brotliCompressSync);
const pagesGzipKb = sum(pages);
if (process.argv.includes('--json')) console.log(JSON.stringify({ firstLoadGzipKb, firstLoadBrotliKb, pagesGzipKb }));
else
  console.log(
    `first script load ${firstLoadGzipKb} kB gzipped of at most ${limitKb}, ${firstLoadBrotliKb} kB in brotli; every other page in one piece ${pagesGzipKb} kB gzipped of at most ${pagesLimitKb}; when first wanted: the look-ahead worker ${sum(worker)} kB, all other parts ${sum(later)} kB`,
  );
process.exit([scripts, frame, plant, pages].every((found) => found.length > 0) && firstLoadGzipKb <= limitKb && pagesGzipKb <= pagesLimitKb ? 0 : 1);
