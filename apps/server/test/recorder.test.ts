import { runChannels } from '@yare/commissioning/recording';
import type { LiveSample } from '@yare/contract';
import { present } from '@yare/core';
import { steadyNow } from '../src/clock';
import { recordingCsv } from '../src/recordings/csv';
import { Recorder } from '../src/recordings/recorder';
import { closeInterrupted, listRecordings, recordingData } from '../src/recordings/recordings';
import { migrate, type Db } from '../src/db/connect';
import { seedDemoPlant } from '../src/db/seed';
import { machineByTag } from '../src/machines/machines';
import { sample } from './sample';
import { freshDatabase } from './stack';

let db: Db;
let drop: () => Promise<void>;
let machineId: number;
beforeAll(async () => {
  ({ db, drop } = await freshDatabase());
  await migrate(db);
  await seedDemoPlant(db);
  machineId = (await machineByTag(db, 'P-11')).id;
});
afterAll(() => drop());

/** A recording of so many samples 50 ms apart. */
async function record(count: number, more?: (i: number) => Partial<LiveSample>): Promise<Recorder> {
  const start = Date.now();
  const r = await Recorder.begin(db, {
    machineId,
    kind: 'run',
    title: 'Hold to run at 10 Hz',
    author: 'Ines Calder',
    channels: runChannels,
    startedAt: start,
    every: 50,
  });
  for (let i = 0; i < count; i++) r.add(sample(start + i * 50, more?.(i)));
  return r;
}

test('what goes in comes out, to the decimals of its channel', async () => {
  const r = await record(40, (i) => ({ outputFrequency: i / 4, busVoltage: 560 + i }));
  await r.end();
  const { meta, time, data } = await recordingData(db, r.id);
  expect(meta).toMatchObject({ complete: true, samples: 40, tag: 'P-11' });
  expect(time).toHaveLength(40);
  expect(present(time[39]) - present(time[0])).toBeCloseTo(1.95, 2);
  expect(data.outputFrequency).toEqual(Array.from({ length: 40 }, (_, i) => i / 4));
  expect(present(data.busVoltage)[39]).toBe(599);
  expect(present(data.torque)[0]).toBe(-3.2);
});

test('what is missing is said where it is missing, and what is too much to be said singly, at the end', async () => {
  const start = Date.now();
  const made = await record(0);
  const at = (i: number) => start + i * 50;
  // on time, 30 ms late, then a gap of 0.4 s, then on time again
  for (const t of [at(0), at(1), at(2) + 30, at(10), at(11)]) made.add(sample(t));
  await made.end();
  expect((await recordingData(db, made.id)).meta.marks.map((m) => m.label)).toEqual(['No sample for 0.37 s']);
  const poor = await record(60, () => ({}));
  for (let i = 0; i < 30; i++) poor.add(sample(start + 10_000 + i * 200));
  await poor.end();
  const labels = (await recordingData(db, poor.id)).meta.marks.map((m) => m.label);
  expect(labels).toHaveLength(21);
  expect(labels.at(-1)).toMatch(/^In all 30 gaps, 12\.\d s without a sample$/);
});

test('a clock that is put forward or back while it records changes nothing of its times', async () => {
  const clock = jest.spyOn(Date, 'now');
  const began = steadyNow();
  const r = await Recorder.begin(db, {
    ...{ machineId, kind: 'run', title: 't', author: 'Ines', channels: runChannels, every: 50 },
    startedAt: began,
  });
  for (const shift of [0, 3_600_000, -3_600_000]) {
    clock.mockReturnValue(began + shift);
    r.add(sample(steadyNow()));
    r.mark(`Clock ${shift}`);
    const until = performance.now() + 5;
    while (performance.now() < until);
  }
  clock.mockRestore();
  await r.end();
  const { meta, time } = await recordingData(db, r.id);
  expect(time).toHaveLength(3);
  expect(meta.duration).toBeLessThan(60);
  expect(meta.marks.every((m) => m.time < 60)).toBe(true);
});

test('samples without a link and samples out of order are left out', async () => {
  const r = await record(3);
  r.add(sample(Date.now() + 9000, { link: 'down' }));
  r.add(sample(Date.now() - 60_000));
  await r.end();
  expect((await recordingData(db, r.id)).time).toHaveLength(3);
});

test('a recording the server did not finish is closed at the next start and says so', async () => {
  const r = await record(5);
  await closeInterrupted(db);
  const { meta } = await recordingData(db, r.id);
  expect(meta.complete).toBe(true);
  expect(meta.marks.map((m) => m.label)).toEqual(['Server stopped here']);
});

test('lists are paged, newest first', async () => {
  const ids: number[] = [];
  for (let i = 0; i < 4; i++) {
    const r = await record(2);
    await r.end();
    ids.push(r.id);
  }
  const first = await listRecordings(db, machineId, undefined, 3);
  expect(first.map((m) => m.id)).toEqual(ids.slice(1).reverse());
  expect(present((await listRecordings(db, machineId, present(first.at(-1)).id, 1))[0]).id).toBe(ids[0]);
});

test('CSV: a mark with a comma, a quote and a line break survives, several marks share a row', () => {
  const file = recordingCsv({
    meta: {
      id: 1,
      tag: 'P-11',
      kind: 'run',
      title: 't',
      author: 'a',
      startedAt: '2026-01-01T00:00:00Z',
      duration: 0.1,
      samples: 2,
      complete: true,
      channels: [{ key: 'f', name: 'Output', unit: 'Hz', decimals: 2 }],
      marks: [
        { time: 0, label: 'Noise, "loud"' },
        { time: 0, label: 'two\nlines' },
        { time: 9, label: 'after the end' },
      ],
    },
    time: [0, 0.1],
    data: { f: [1, 2.5] },
  });
  const csv = [...file].join('').slice(1);
  expect(csv.split('\r\n')[0]).toBe('Time (s),Output (Hz),Mark');
  expect(csv).toContain('0.000,1.00,"Noise, ""loud"" | two\nlines"');
  expect(csv).toContain('0.100,2.50,after the end');
});
