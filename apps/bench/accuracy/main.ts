import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

import { bandsOf, resultOf } from './figures';
import type { Judged } from './oneMachine';
import { pageOf } from './page';
import { stampOf } from './stamp';

const { values } = parseArgs({
  options: {
    part: { type: 'string', default: 'lookahead' },
    seed: { type: 'string', default: '7' },
    count: { type: 'string', default: '96' },
    json: { type: 'boolean', default: false },
    /** a file of judged machines: kept there, or taken from there when it exists already */
    cases: { type: 'string' },
  },
});
const seed = Number(values.seed);
const count = Number(values.count);
if (values.part !== 'lookahead') throw new Error(`There is no part "${values.part}". Parts: lookahead.`);
if (!Number.isInteger(seed) || !Number.isInteger(count) || count < 1) throw new Error('--seed and --count take whole numbers, --count at least 1.');

/** All machines judged, spread over the processors; their order does not depend on how many there are. */
async function judgeAll(): Promise<Judged[]> {
  const results: Judged[] = new Array<Judged>(count);
  let done = 0;
  const hands = Math.min(count, availableParallelism());
  await Promise.all(
    Array.from({ length: hands }, (_, from) => {
      const child = fork(fileURLToPath(new URL('./share.ts', import.meta.url)), [seed, from, count, hands].map(String), {
        execArgv: ['--import', 'tsx'],
      });
      return new Promise<void>((resolve, reject) => {
        child.on('message', (message) => {
          const { index, result } = message as { index: number; result: Judged };
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

const known = values.cases && existsSync(values.cases) ? (JSON.parse(readFileSync(values.cases, 'utf8')) as Judged[]) : null;
const all = known ?? (await judgeAll());
if (values.cases && !known) writeFileSync(values.cases, JSON.stringify(all));
if (values.json) {
  const { quantities, ...rest } = resultOf(all);
  console.log(JSON.stringify({ lookahead: { ...quantities, ...rest } }));
} else {
  const root = new URL('../../../', import.meta.url);
  const half = (odd: number) => all.filter((_, i) => Math.floor(i / 8) % 2 === odd);
  const page = pageOf(all, [half(0), half(1)], { seed, stamp: await stampOf(fileURLToPath(root)) });
  writeFileSync(new URL('docs/accuracy.md', root), page);
  writeFileSync(new URL('packages/commissioning/data/accuracy.json', root), `${JSON.stringify(bandsOf(all), null, 2)}\n`);
  console.log(page);
  console.log(`written: ${fileURLToPath(new URL('docs/accuracy.md', root))}`);
}
