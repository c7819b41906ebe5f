import { present } from '@yare/core';
import type { Arming, LiveSample } from '@yare/contract';
import { migrate, type Db } from '../src/db/connect';
import { seedDemoPlant } from '../src/db/seed';
import type { Fleet } from '../src/link/fleet';
import { machineByTag } from '../src/machines/machines';
import { ArmedRecorders } from '../src/recordings/armed';
import { listRecordings, recordingData } from '../src/recordings/recordings';
import type { Space } from '../src/space';
import { sample } from './sample';
import { freshDatabase, until } from './stack';

let db: Db;
let drop: () => Promise<void>;
let machine: { id: number; tag: string };
beforeAll(async () => {
  ({ db, drop } = await freshDatabase());
  await migrate(db);
  await seedDemoPlant(db);
  machine = await machineByTag(db, 'P-11');
});
afterAll(() => drop());

/** A fleet whose samples are given by hand, and the recorders that listen to it. */
class Hand {
  private listen: (s: LiveSample) => void = () => undefined;
  readonly paced: Array<number | null> = [];
  full: string | null = null;
  readonly told: string[] = [];
  readonly recorders: ArmedRecorders;
  /** ms; samples come 20 ms apart from here */
  private at = Date.now() - 3_600_000;

  constructor() {
    const fleet = {
      onSample: (listener: (s: LiveSample) => void) => (this.listen = listener),
      station: () => ({}),
      pace: (_tag: string, every: number | null) => this.paced.push(every),
    };
    const space = { full: async () => this.full };
    this.recorders = new ArmedRecorders(db, fleet as unknown as Fleet, space as unknown as Space, (_error, what) => this.told.push(what));
  }

  /** So many samples, each 20 ms after the one before unless told otherwise. */
  give(count: number, more: (i: number) => Partial<LiveSample> = () => ({}), every = 20): void {
    for (let i = 0; i < count; i++) {
      this.at += every;
      this.listen(sample(this.at, more(i)));
    }
  }

  arm = (more: Partial<Arming>) =>
    this.recorders.arm(
      machine,
      { trigger: { kind: 'now' }, channels: ['busVoltage', 'torque'], before: 0, after: 1, every: 20, again: false, ...more },
      'Ines Calder',
    );
  get status() {
    return this.recorders.status('P-11');
  }
  /** Waits until the record of what is being recorded has been begun. */
  begun = (made: number) => until(() => this.status.armed?.made === made && this.status.lastId !== null);
  over = () => until(() => this.status.armed === null);
}
let hand: Hand;
beforeEach(() => {
  hand = new Hand();
});
afterEach(() => hand.recorders.stop());

test('what is asked more often for another reason is thinned to what was wanted; a change of state never is', async () => {
  await hand.arm({ every: 100, after: 2 });
  hand.give(1);
  await hand.begun(1);
  hand.give(100, (i) => (i === 50 ? { state: 'stopping' } : {}));
  hand.give(1, undefined, 1000);
  await hand.over();
  const { time, meta } = await recordingData(db, present(hand.status.lastId));
  // two seconds of a sample every 100 ms, and the one of the change with the one after it
  expect(time.length).toBeGreaterThan(20);
  expect(time.length).toBeLessThan(32);
  expect(meta.marks.map((m) => m.label)).toEqual(['Trigger', 'No sample for 1.02 s']);
});

test('a link that is lost and found again, and a trip, are marked; what the link did not tell is not made up', async () => {
  await hand.arm({ after: 3 });
  hand.give(10);
  await hand.begun(1);
  hand.give(5);
  hand.give(20, () => ({ link: 'down', state: 'no link' }));
  hand.give(5);
  hand.give(5, () => ({ state: 'tripped', trip: { code: 11, name: 'Bus overvoltage', sentence: 'x' } }));
  hand.give(1, undefined, 4000);
  await hand.over();
  const { time, meta } = await recordingData(db, present(hand.status.lastId));
  expect(meta.marks.map((m) => m.label)).toEqual(['Trigger', 'Link lost', 'Link back', 'Trip: Bus overvoltage', 'No sample for 4.00 s']);
  const gaps = time.slice(1).map((t, i) => t - present(time[i]));
  expect(gaps.filter((g) => g > 0.3)).toHaveLength(2);
  expect(gaps.find((g) => g > 0.3)).toBeCloseTo(0.42, 2);
});

test('a level that is gone through while the link is away for a moment begins a recording; one that was away for long says nothing', async () => {
  const rising: Partial<Arming> = { trigger: { kind: 'edge', channel: 'outputFrequency', way: 'rising', value: 25 } };
  for (const [gap, begins] of [
    [3, true],
    [3000, false],
  ] as const) {
    const hand = new Hand();
    await hand.arm(rising);
    hand.give(5, () => ({ outputFrequency: 20 }));
    hand.give(gap, () => ({ link: 'down', state: 'no link', outputFrequency: 0 }));
    hand.give(1, () => ({ outputFrequency: 30 }));
    expect(present(hand.status.armed).triggeredAt !== null).toBe(begins);
    await hand.recorders.stop();
  }
});

test('the history is put before the trigger, and no more of it than was wanted', async () => {
  await hand.arm({ trigger: { kind: 'edge', channel: 'busVoltage', way: 'rising', value: 700 }, before: 0.5, after: 1 });
  hand.give(200, () => ({ busVoltage: 560 }));
  expect(hand.status.armed?.held).toBeCloseTo(0.5, 6);
  expect(hand.status.armed?.pace).toBe(20);
  hand.give(1, () => ({ busVoltage: 710 }));
  await hand.begun(1);
  hand.give(60, () => ({ busVoltage: 720 }));
  await hand.over();
  const { time, data, meta } = await recordingData(db, present(hand.status.lastId));
  expect(time[0]).toBe(0);
  expect(present(meta.marks[0]).time).toBeCloseTo(0.5, 3);
  expect(present(data.busVoltage)[time.findIndex((t) => t >= 0.499)]).toBe(710);
  expect(Object.keys(data)).toEqual(['busVoltage', 'torque']);
});

test('armed to record again and again it goes on without being waited for, until somebody ends it', async () => {
  await hand.arm({ again: true });
  for (const made of [1, 2, 3]) {
    hand.give(1);
    await hand.begun(made);
    hand.give(1, undefined, 1500);
    await until(() => hand.status.armed?.triggeredAt === null);
  }
  const before = (await listRecordings(db, machine.id, undefined, 100)).filter((r) => r.kind === 'recorder').length;
  expect(before).toBeGreaterThanOrEqual(3);
  await hand.recorders.end(machine, 'Wen Adair');
  expect(hand.status).toMatchObject({ armed: null, ended: null });
  hand.give(5);
  expect((await listRecordings(db, machine.id, undefined, 100)).filter((r) => r.kind === 'recorder')).toHaveLength(before);
  expect(hand.paced).toEqual([20, null]);
});

test('one that records once begins no other while that one is being stored', async () => {
  await hand.arm({});
  hand.give(1);
  await hand.begun(1);
  const id = present(hand.status.lastId);
  hand.give(1, undefined, 1500);
  hand.give(20);
  await hand.over();
  expect(hand.status.lastId).toBe(id);
  expect((await recordingData(db, id)).meta.complete).toBe(true);
});

test('a level that stays does not begin one recording after another', async () => {
  const high = { kind: 'level', channel: 'busVoltage', side: 'above', value: 700 } as const;
  await hand.arm({ trigger: high, again: true });
  const atLevel = (count: number, every?: number) => hand.give(count, () => ({ busVoltage: 710 }), every);
  atLevel(1);
  await hand.begun(1);
  atLevel(1, 1500);
  await until(() => hand.status.armed?.triggeredAt === null);
  atLevel(25);
  hand.give(3, () => ({ link: 'down', state: 'no link', busVoltage: 0 }));
  atLevel(25);
  expect(hand.status.armed).toMatchObject({ made: 1, triggeredAt: null });
  hand.give(1, () => ({ busVoltage: 560 }));
  atLevel(1);
  await hand.begun(2);
});

test('after fifty recordings it stops by itself and says so', async () => {
  const high = { kind: 'level', channel: 'busVoltage', side: 'above', value: 700 } as const;
  await hand.arm({ trigger: high, again: true });
  for (let made = 1; made <= 50; made++) {
    hand.give(1, () => ({ busVoltage: 560 }));
    hand.give(1, () => ({ busVoltage: 710 }));
    await hand.begun(made);
    hand.give(1, () => ({ busVoltage: 710 }), 1500);
    await until(() => hand.status.armed === null || hand.status.armed.triggeredAt === null);
  }
  await hand.over();
  expect(hand.status.ended).toMatch(/It has made 50 recordings/);
  // what is kept of it follows a moment after
  await until(async () => (await db('machines').where({ id: machine.id }).first('armed'))?.armed === null);
});

test('a disk that is full ends it, and why is told', async () => {
  await hand.arm({});
  hand.full = 'The disk of the server is nearly full: 3 MB are left.';
  hand.give(1);
  await hand.over();
  expect(hand.status.ended).toContain('nearly full');
  expect(hand.status.lastId).toBeNull();
});

test('ended while its record is only being begun, the record is closed with what there was', async () => {
  await hand.arm({ after: 60 });
  hand.give(4);
  await hand.recorders.end(machine, 'Ines Calder');
  await until(async () => {
    const [newest] = await listRecordings(db, machine.id, undefined, 1);
    return newest?.complete === true && newest.samples > 0;
  });
  expect(hand.status.armed).toBeNull();
  expect(hand.told).toEqual([]);
});

test('when the server stops, what was being recorded is closed, and what was armed stays so for the next start', async () => {
  await hand.arm({ after: 60 });
  hand.give(3);
  await hand.begun(1);
  hand.give(3);
  const id = present(hand.status.lastId);
  await hand.recorders.stop();
  expect((await recordingData(db, id)).meta).toMatchObject({ complete: true, samples: 6 });
  const next = new Hand();
  await next.recorders.restore();
  expect(next.status.armed?.arming.after).toBe(60);
  await next.recorders.end(machine, 'Ines Calder');
});
