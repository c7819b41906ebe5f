import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { present } from '@yare/core';
import { demoPlant } from '@yare/demo-plant';
import { migrate, type Db } from '../src/db/connect';
import { seedHistory, type DemoHistory } from '../src/db/history';
import { seedDemoPlant } from '../src/db/seed';
import { recordingData } from '../src/recordings/recordings';
import { listTrips, tripDetail } from '../src/trips/trips';
import { freshDatabase } from './stack';

const history = JSON.parse(readFileSync(join(__dirname, '../../../packages/demo-plant/history.json'), 'utf8')) as DemoHistory;
let db: Db;
let drop: () => Promise<void>;
beforeAll(async () => {
  ({ db, drop } = await freshDatabase());
  await migrate(db);
  await seedDemoPlant(db);
  await seedHistory(db, history);
});
afterAll(() => drop());

test('every machine has two trips, the older one cured and closed, with what the link and the drive told of them', async () => {
  const trips = await listTrips(db, { limit: 100 });
  for (const { tag } of demoPlant) {
    const [newest, oldest] = trips.filter((t) => t.tag === tag).sort((a, b) => Date.parse(b.at) - Date.parse(a.at));
    expect(present(newest).closed).toBeNull();
    expect(present(oldest).closed).toMatchObject({ proof: expect.stringMatching(/^ran for \d+ s up to .* no trip$/) });
    expect(Date.parse(present(newest).at) - Date.parse(present(oldest).at)).toBeGreaterThan(5 * 86_400_000);
    const detail = await tripDetail(db, present(newest).id);
    expect(detail.snapshot.busVoltage).toBeGreaterThan(100);
    const trend = await recordingData(db, present(detail.trendId));
    expect(trend.meta).toMatchObject({ tag, complete: true });
    expect(trend.time).toHaveLength(trend.meta.samples);
    // it ran when it tripped
    expect(Math.max(...present(trend.data.outputFrequency))).toBeGreaterThan(20);
  }
});

test('nothing of it lies in the future, and it is put there once', async () => {
  const newest = await db('trips').max<Array<{ max: Date }>>('at');
  expect(present(newest[0]).max.getTime()).toBeLessThan(Date.now());
  const before = await db('recordings').count('id');
  await seedHistory(db, history);
  expect(await db('recordings').count('id')).toEqual(before);
});
