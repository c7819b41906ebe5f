/**
 * npm run history: what lies behind the demo plant when somebody first sees it. Every machine of the bench is looked at, turned slowly, led to two trips
 * by faults of the bench and brought back from the first, over the real server and the real link; what came to be on record of it is written to
 * packages/demo-plant/history.json, with its times counted back from the end. Nothing in it is made by hand but which fault strikes when, and the words of people.
 */
import '@yare/books/all';
import { writeFileSync } from 'node:fs';
import { setTimeout as pause } from 'node:timers/promises';
import { present } from '@yare/core';
import type { BenchAct, BenchReading, LiveSample, Proof, TripDetail, TripEntry } from '@yare/contract';
import { Device } from '../apps/server/test/device';
import { DrillStack } from './stack';

type Act = Omit<BenchAct, 'author'>;
interface Story {
  /** how it is run up and brought to rest at its panel */
  start: Act[];
  stop: Act[];
  fault: [string, string];
  /** what the first trip was, and what was done about it */
  cause: string;
  cure: string;
  note: string;
  direction: boolean;
}

const hand = (knob: number): Pick<Story, 'start' | 'stop'> => ({ start: [{ panel: { mode: 0, knob } }], stop: [{ panel: { mode: 1 } }] });
const stories: Readonly<Record<string, Story>> = {
  'P-11': {
    ...hand(0.8),
    ...{ fault: ['swell', 'jam'], cause: 'surge on the line', cure: 'Surge arrester fitted in the main board', direction: true },
    note: 'The big crusher next door starts at six; the lights flare then.',
  },
  'P-41': {
    ...hand(0.8),
    ...{ fault: ['dip', 'external'], cause: 'supply dip', cure: 'Nothing here: the supplier switched a line', direction: true },
    note: '',
  },
  'P-42': {
    ...hand(0.75),
    fault: ['jam', 'sto'],
    cause: 'jam',
    cure: 'Stone taken out of the wheel',
    direction: false,
    note: 'Strainer is cleaned on Mondays.',
  },
  'P-43': { ...hand(0.75), fault: ['external', 'dip'], cause: 'chain opened', cure: 'Float of the chain freed', direction: true, note: '' },
  'F-32': {
    ...hand(0.7),
    ...{ fault: ['short', 'swell'], cause: 'short in the cable', cure: 'Motor cable laid anew behind the burner', direction: true },
    note: 'The cable tray gets hot behind the burner.',
  },
  'C-07': {
    start: [{ panel: { bit0: 1, bit1: 1, start: 1 } }, { panel: { start: 0 } }],
    stop: [{ panel: { halt: 1 } }, { panel: { halt: 0 } }],
    ...{
      fault: ['jam', 'external'],
      cause: 'jam',
      cure: 'Plank taken out from under the belt',
      direction: true,
      note: 'Belt was shortened in spring.',
    },
  },
  'C-21': {
    start: [{ panel: { run: 1, knob: 0.8 } }],
    stop: [{ panel: { run: 0 } }],
    ...{ fault: ['external', 'jam'], cause: 'chain opened', cure: 'Pull cord put back', direction: false, note: '' },
  },
  'M-55': {
    start: [{ panel: { way: 2, knob: 0.8 } }],
    stop: [{ panel: { way: 1 } }],
    ...{ fault: ['dip', 'jam'], cause: 'supply dip', cure: 'Nothing here: the supplier switched a line', direction: false, note: '' },
  },
};

/** What is measured at the machine of the bench while a fault is still there. */
const measuredAt: Readonly<Record<string, string>> = { jam: 'turnByHand', short: 'motorLeads', external: 'chainContact', sto: 'safetyContacts' };

const people = ['Ines Calder', 'Wen Adair'] as const;
/** ms everything here may take at most. */
const patience = 240_000;

const stack = await DrillStack.start();
const address = `ws://127.0.0.1:${stack.port}/api/v1/live`;

async function ok<T>(method: string, path: string, body?: object): Promise<T> {
  const answer = await stack.call<T>(method, path, body);
  if (answer.status >= 400) throw new Error(`${method} ${path}: ${JSON.stringify(answer.body)}`);
  return answer.body;
}

/** Waits for something to be so. */
async function until<T>(what: string, look: () => Promise<T | null> | T | null): Promise<T> {
  const end = performance.now() + patience;
  for (;;) {
    const found = await look();
    if (found) return found;
    if (performance.now() > end) throw new Error(`not within ${patience / 1000} s: ${what}`);
    await pause(100);
  }
}

/** One machine's story. */
class Telling {
  private readonly heard: LiveSample[] = [];

  constructor(
    private readonly tag: string,
    private readonly story: Story,
    private readonly device: Device,
    private readonly author: string,
  ) {
    device.socket.on('message', (raw) => {
      const m = JSON.parse(String(raw)) as { kind: string; samples?: LiveSample[] };
      for (const s of m.samples ?? []) if (s.tag === tag) this.heard.push(s);
    });
  }

  private state = (): LiveSample['state'] | undefined => this.heard.at(-1)?.state;
  private stands = (what: string, ...states: Array<LiveSample['state']>) =>
    until(`${this.tag} ${what}`, () => (states.includes(this.state() ?? 'no link') ? true : null));

  private async acts(list: readonly Act[]): Promise<void> {
    for (const act of list) {
      await ok('POST', `/machines/${this.tag}/bench`, { author: 'Bench', ...act });
      await pause(600);
    }
  }

  private reset = () =>
    until(`${this.tag} reset`, async () => {
      const { status } = await stack.call('POST', `/machines/${this.tag}/trip/reset`, { author: this.author });
      await pause(1000);
      return status < 400 || this.heard.at(-1)?.trip === null ? true : null;
    });

  /** Turned slowly by hold to run, and looked at. */
  private async direction(): Promise<void> {
    await this.stands('stands', 'ready', 'held');
    const press = this.device.hold(this.tag, 8);
    await until(`${this.tag} turns slowly`, () => ((this.heard.at(-1)?.outputFrequency ?? 0) > 7.5 ? true : null));
    await pause(2000);
    this.device.letGo(press);
    await until(`${this.tag} run ended`, () => (this.device.ended(press) ? true : null));
    const top = Math.max(...this.heard.map((s) => s.outputFrequency));
    await ok<Proof>('POST', `/machines/${this.tag}/proofs`, {
      ...{ author: this.author, stage: 'direction', item: 'direction', outcome: 'passed' },
      facts: { kind: 'direction', right: true, frequency: Number(top.toFixed(1)), recording: null },
      ...{ settings: [], plate: true, survey: false },
    });
  }

  private async trip(fault: string, before: number): Promise<TripDetail> {
    await this.acts(this.story.start);
    await this.stands('runs', 'running');
    // long enough for a fan to come up
    await pause(this.tag === 'F-32' ? 75_000 : 14_000);
    await this.acts([{ fault: { id: fault, trigger: 'now' } }]);
    const entry = await until(`${this.tag} trips by ${fault}`, async () => {
      const { trips } = await ok<{ trips: TripEntry[] }>('GET', `/trips?tag=${this.tag}`);
      return trips.length > before ? present(trips[0]) : null;
    });
    await this.acts(this.story.stop);
    return until(`${this.tag} told`, async () => {
      const detail = await ok<TripDetail>('GET', `/trips/${entry.id}`);
      return detail.afterwards ? detail : null;
    });
  }

  /** Measured, put right, run again, closed with what was seen. */
  private async cured({ entry }: TripDetail, fault: string): Promise<void> {
    if (measuredAt[fault]) {
      const { outcome } = await ok<BenchReading>('GET', `/machines/${this.tag}/bench/readings/${measuredAt[fault]}`);
      if (outcome) await ok('POST', `/trips/${entry.id}/answers`, { author: this.author, answers: { [measuredAt[fault]]: outcome } });
    }
    await this.acts([{ fault: { id: fault, trigger: null } }]);
    await this.reset();
    const from = this.heard.length;
    await this.acts(this.story.start);
    await this.stands('runs again', 'running');
    await pause(this.tag === 'F-32' ? 30_000 : 12_000);
    await this.acts(this.story.stop);
    await this.stands('stands again', 'ready', 'held');
    const run = this.heard.slice(from).filter((s) => s.link === 'up');
    const most = (of: (s: LiveSample) => number) => Math.max(...run.map(of));
    const seconds = run.filter((s) => s.outputFrequency > 0.5).length ? (present(run.at(-1)).at - present(run[0]).at) / 1000 : 0;
    await ok('POST', `/trips/${entry.id}/close`, {
      ...{ author: this.author, cause: this.story.cause, cure: this.story.cure },
      proof: `ran for ${seconds.toFixed(0)} s up to ${most((s) => s.outputFrequency).toFixed(1)} Hz and came to rest; highest bus ${most((s) => s.busVoltage).toFixed(0)} V, highest current ${most((s) => s.motorCurrent).toFixed(1)} A; no trip`,
    });
  }

  async tell(): Promise<void> {
    const [first, second] = this.story.fault;
    if (this.story.direction) await this.direction();
    await this.cured(await this.trip(first, 0), first);
    await this.trip(second, 1);
    if (this.story.note) await ok('PUT', `/machines/${this.tag}/note`, { author: this.author, note: this.story.note });
    console.error(`${this.tag}: ${first}, ${second}`);
  }
}

try {
  await Promise.all(
    Object.entries(stories).map(async ([tag, story], i) => {
      const device = new Device(address, present(people[i % 2]), { watch: [tag] });
      await device.ready;
      await new Telling(tag, story, device, present(people[i % 2])).tell();
      device.close();
    }),
  );
  // what is still being read of the last trips
  await pause(15_000);
  const rows = <T extends object>(sql: string) => stack.query<T>(sql);
  const ago = (column: string) => `round(extract(epoch from (now() - ${column}))::numeric, 3)::float8 as ago`;
  const machines = await rows<{ id: number; tag: string; note: string }>('select id, tag, note from machines order by id');
  const recordings = await rows(
    `select id, machine_id, kind, title, author, ${ago('started_at')}, channels, duration, samples from recordings where complete order by id`,
  );
  const marks = await rows('select recording_id, time, label, author from recording_marks order by id');
  const chunks = await rows(
    `select recording_id, channel, sequence, replace(encode(data, 'base64'), E'\\n', '') as data from recording_chunks order by recording_id, sequence, channel`,
  );
  const trips = await rows(
    `select machine_id, source, code, cause, name, ${ago('at')}, seen, snapshot, afterwards, in_drive, trend_id, trace_id, answers, closed from trips order by id`,
  );
  const proofs = await rows(`select machine_id, stage, item, outcome, facts, relied, author, ${ago('at')} from proofs order by id`);
  const file = new URL('../packages/demo-plant/history.json', import.meta.url);
  writeFileSync(file, `${JSON.stringify({ machines, recordings, marks, chunks, trips, proofs })}\n`);
  console.error(`${trips.length} trips, ${recordings.length} recordings, ${proofs.length} proofs`);
} finally {
  await stack.stop();
}
process.exit(0);
