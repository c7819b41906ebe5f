import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

import { judges, publishedSeed, type Part } from './again';
import { adviceOf, advicePage } from './advice/page';
import type { AdviceSeen } from './advice/offer';
import type { JudgedDay } from './days/judgeDay';
import { daysOf, daysPage } from './days/page';
import { bandsOf, resultOf } from './figures';
import type { JudgedLoop } from './loops/judge';
import { loopsOf, loopsPage } from './loops/page';
import type { Judged } from './oneMachine';
import { pageOf } from './page';
import type { JudgedTrip } from './trips/judge';
import { tripsOf, tripsPage } from './trips/page';

const { values } = parseArgs({
  options: {
    part: { type: 'string', default: 'lookahead' },
    seed: { type: 'string', default: String(publishedSeed) },
    count: { type: 'string' },
    json: { type: 'boolean', default: false },
    /** a file of judged machines: kept there, or taken from there when it exists already */
    cases: { type: 'string' },
  },
});
const seed = Number(values.seed);
const usualCount: Record<Part, number> = { lookahead: 96, loops: 510, days: 200, trips: 364, advice: 300 };
const isPart = (name: string): name is Part => name in judges;
const { part } = values;
if (!isPart(part)) throw new Error(`There is no part "${part}". Parts: ${Object.keys(usualCount).join(', ')}.`);
const count = Number(values.count ?? usualCount[part]);
if (!Number.isInteger(seed) || !Number.isInteger(count) || count < 1) throw new Error('--seed and --count take whole numbers, --count at least 1.');

/** All machines judged, spread over the processors; their order does not depend on how many there are. */
async function judgeAll<T>(): Promise<T[]> {
  const results: T[] = new Array<T>(count);
  let done = 0;
  const hands = Math.min(count, availableParallelism());
  await Promise.all(
    Array.from({ length: hands }, (_, from) => {
      const child = fork(fileURLToPath(new URL('./share.ts', import.meta.url)), [part, seed, from, count, hands].map(String), {
        execArgv: ['--import', 'tsx'],
      });
      return new Promise<void>((resolve, reject) => {
        child.on('message', (message) => {
          const { index, result } = message as { index: number; result: T };
          results[index] = result;
          done++;
          if (!values.json && process.stdout.isTTY) process.stdout.write(`\r${done} of ${count}`);
        });
        child.on('error', reject);
        child.on('exit', (code) => (code === 0 ? resolve() : reject(new Error(`a share ended with ${code}`))));
      });
    }),
  );
  return results;
}

const root = new URL('../../../', import.meta.url);

/** Judged now, or taken from the file of cases. */
async function cases<T>(): Promise<T[]> {
  if (values.cases && existsSync(values.cases)) return JSON.parse(readFileSync(values.cases, 'utf8')) as T[];
  const all = await judgeAll<T>();
  if (values.cases) writeFileSync(values.cases, JSON.stringify(all));
  return all;
}

/** A page of the documents, written and told. */
function publish(name: string, page: string): void {
  const file = new URL(name, root);
  writeFileSync(file, page);
  console.log(`${page}\nwritten: ${fileURLToPath(file)}`);
}

if (part === 'loops') {
  const all = await cases<JudgedLoop>();
  if (values.json) console.log(JSON.stringify({ loops: loopsOf(all) }));
  else publish('docs/accuracy-loops.md', loopsPage(all, seed));
} else if (part === 'days') {
  const all = await cases<JudgedDay>();
  if (values.json) console.log(JSON.stringify({ days: daysOf(all) }));
  else publish('docs/accuracy-days.md', daysPage(all, seed));
} else if (part === 'trips') {
  const all = await cases<JudgedTrip>();
  if (values.json) console.log(JSON.stringify({ trips: tripsOf(all) }));
  else publish('docs/accuracy-trips.md', tripsPage(all, seed));
} else if (part === 'advice') {
  const all = await cases<AdviceSeen>();
  if (values.json) console.log(JSON.stringify({ advice: adviceOf(all) }));
  else publish('docs/accuracy-advice.md', advicePage(all, seed));
} else {
  const all = await cases<Judged>();
  if (values.json) {
    const { quantities, ...rest } = resultOf(all);
    console.log(JSON.stringify({ lookahead: { ...quantities, ...rest } }));
  } else {
    publish('docs/accuracy.md', pageOf(all, seed));
    writeFileSync(new URL('packages/commissioning/data/accuracy.json', root), `${JSON.stringify(bandsOf(all), null, 2)}\n`);
  }
}
