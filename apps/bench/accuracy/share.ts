import { judgeNth } from './oneMachine';

// one process's share of the machines, every n-th from its own first: told to the parent one by one
const [seed = 0, first = 0, count = 0, every = 1] = process.argv.slice(2).map(Number);
for (let i = first; i < count; i += every) process.send?.({ index: i, result: judgeNth(seed, i) });
process.disconnect();
