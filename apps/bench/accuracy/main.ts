import { fork } from 'node:child_process';
import { availableParallelism } from 'node:os';
import { writeFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { parseArgs } from 'node:util';

import { figures, quantities, type Compared, type Comparison, type Figures } from './lookahead';

const { values } = parseArgs({
  options: {
    part: { type: 'string', default: 'lookahead' },
    seed: { type: 'string', default: '7' },
    count: { type: 'string', default: '200' },
    json: { type: 'boolean', default: false },
  },
});
const seed = Number(values.seed);
const count = Number(values.count);
if (values.part !== 'lookahead') throw new Error(`There is no part "${values.part}". Parts: lookahead.`);
if (!Number.isInteger(seed) || !Number.isInteger(count) || count < 1) throw new Error('--seed and --count take whole numbers, --count at least 1.');

/** All comparisons, spread over the processors; their order does not depend on how many there are. */
async function compareAll(): Promise<Comparison[]> {
  const results: Comparison[] = new Array<Comparison>(count);
  let done = 0;
  const hands = Math.min(count, availableParallelism());
  await Promise.all(
    Array.from({ length: hands }, (_, from) => {
      const child = fork(fileURLToPath(new URL('./share.ts', import.meta.url)), [seed, from, count, hands].map(String), {
        execArgv: ['--import', 'tsx'],
      });
      return new Promise<void>((resolve, reject) => {
        child.on('message', (message) => {
          const { index, result } = message as { index: number; result: Comparison };
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

const all = await compareAll();
const before = (c: Comparison[]): Compared[] => c.map((x) => x.before);
const after = (c: Comparison[]): Compared[] => c.flatMap((x) => (x.after ? [x.after] : []));
const result = { lookahead: { beforeLearning: figures(before(all)), afterLearning: figures(after(all)) } };

if (values.json) {
  console.log(JSON.stringify(result));
} else {
  const root = new URL('../../../', import.meta.url);
  writeFileSync(new URL('docs/accuracy.md', root), page());
  writeFileSync(new URL('packages/commissioning/data/accuracy.json', root), `${JSON.stringify(bands(), null, 2)}\n`);
  console.log(page());
  console.log(`written: ${fileURLToPath(new URL('docs/accuracy.md', root))}`);
}

/** 95th percentiles by kind of machine, as shares: the band the screens draw. */
function bands(): unknown {
  const share = (f: Figures) => Math.round(f.p95ErrorPct * 10) / 1000;
  const side = (pick: (c: Comparison[]) => Compared[], kind: string) =>
    Object.fromEntries(
      quantities.map((q) => [q, share(figures(pick(all.filter((c) => c.kind === kind)), q))] as const).filter(([, v]) => Number.isFinite(v)),
    );
  return Object.fromEntries([...new Set(all.map((c) => c.kind))].map((kind) => [kind, { estimate: side(before, kind), learned: side(after, kind) }]));
}

function page(): string {
  const row = (name: string, a: Figures, b: Figures) =>
    `| ${name} | ${a.medianErrorPct} | ${a.p95ErrorPct} | ${b.medianErrorPct} | ${b.p95ErrorPct} |`;
  const kinds = [...new Set(all.map((c) => c.kind))];
  const { beforeLearning: b, afterLearning: a } = result.lookahead;
  const refused = all.filter((c) => c.refused).length;
  return `# Accuracy of the look-ahead

Made by \`npm run accuracy\`; never edited by hand. Seed ${seed}, ${count} machines, ${all.filter((c) => c.tripped).length} of whose stops tripped on the bench${refused > 0 ? `, ${refused} recordings refused` : ''}.

Each machine is one of the demo plant with true constants of its own drawn from the seed (windings, leakage, iron, inertia, friction, curves, supply,
capacitors, and the gains of the drive's own sensors). The application knows its plate, its drive book, its settings and the survey. A gentle run is
recorded through the drive's registers, rounded and late as they are, and learned from. Then another run is judged: other ramps, another top speed,
a stop anywhere from far too fast to far too slow (never under 2 s). Peaks are left out where both trip: they would be the trip level. Pressure
counts where the machine has a pressure sensor.

| | median error, % | 95th percentile, % | trips or not, right in % |
|---|---|---|---|
| before learning | ${b.medianErrorPct} | ${b.p95ErrorPct} | ${b.tripDecisionRightPct} |
| after learning | ${a.medianErrorPct} | ${a.p95ErrorPct} | ${a.tripDecisionRightPct} |
| wanted after learning | < 2 | < 6 | ≥ 98 |

By quantity:

| | before: median, % | 95th, % | after: median, % | 95th, % |
|---|---|---|---|---|
${quantities.map((q) => row(q, figures(before(all), q), figures(after(all), q))).join('\n')}

By kind of machine:

| | before: median, % | 95th, % | after: median, % | 95th, % |
|---|---|---|---|---|
${kinds.map((k) => row(k, figures(before(all.filter((c) => c.kind === k))), figures(after(all.filter((c) => c.kind === k))))).join('\n')}

The screens show the 95th percentile before learning, by kind of machine and quantity, as the band of an estimate, and the one after learning once a
recording was learned from.
`;
}
