import { median } from './stack';

export interface Round {
  /** ms from loss to fall; null where it never turned, Infinity where it ran on */
  time: number | null;
  restarted: boolean;
  waited: number;
}

/** A round in which a process waited longer for a processor is a starved machine's, ms. */
const starved = 50;

/** What the rounds of each way come to: rounds of a starved machine are counted apart. */
export function reportOf(results: ReadonlyMap<string, Round[]>, stoppedByStranger: number) {
  const kept = (r: Round) => r.waited <= starved;
  const times = (list: Round[]) => list.flatMap((r) => (r.time === null || r.time === Infinity ? [] : [r.time]));
  const worst = (list: Round[]) => (times(list).length > 0 ? Math.round(Math.max(...times(list))) : null);
  const all = [...results.values()].flat();
  return {
    ways: Object.fromEntries(
      [...results].map(([name, list]) => [
        name,
        {
          count: list.length,
          medianMs: median(times(list.filter(kept))),
          worstMs: worst(list.filter(kept)),
          restarts: list.filter((r) => r.restarted).length,
          starved: list.filter((r) => !kept(r)).length,
          starvedWorstMs: worst(list.filter((r) => !kept(r))),
        },
      ]),
    ),
    rounds: all.length,
    worstMs: worst(all.filter(kept)),
    restarts: all.filter((r) => r.restarted).length,
    ranOn: all.filter((r) => r.time === Infinity).length,
    stoppedByStranger,
    starved: all.filter((r) => !kept(r)).length,
  };
}

/** Prints a report for a program or for a reader. */
export function printReport(report: ReturnType<typeof reportOf>, json: boolean): void {
  if (json) console.log(JSON.stringify(report));
  else {
    for (const [name, w] of Object.entries(report.ways))
      console.log(
        `${name.padEnd(20)} ${String(w.count).padStart(4)}  median ${w.medianMs ?? '–'} ms  worst ${w.worstMs ?? '–'} ms  restarts ${w.restarts}  starved ${w.starved}`,
      );
    console.log(
      `worst ${report.worstMs} ms, restarts ${report.restarts}, ran on ${report.ranOn}, stopped by a stranger ${report.stoppedByStranger}, starved ${report.starved}`,
    );
  }
}
