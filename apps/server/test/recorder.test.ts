import { runChannels } from '@yare/commissioning/recording';
import type { LiveSample } from '@yare/contract';
import { present } from '@yare/core';
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
