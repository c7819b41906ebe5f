import { judgeAdvice } from './advice/judge';
import { judgeDay } from './days/judgeDay';
import { judgeLoop } from './loops/judge';
import { judgeNth } from './oneMachine';
import { judgeTrip } from './trips/judge';

// one process's share of the machines, every n-th from its own first: told to the parent one by one
// nobody waits for it any more
process.on('disconnect', () => process.exit());
const [part, ...figures] = process.argv.slice(2);
const [seed = 0, first = 0, count = 0, every = 1] = figures.map(Number);
const judges = { lookahead: judgeNth, loops: judgeLoop, days: judgeDay, trips: judgeTrip, advice: judgeAdvice } as const;
const judge = judges[part as keyof typeof judges];
for (let i = first; i < count; i += every) process.send?.({ index: i, result: judge(seed, i) });
process.disconnect();
