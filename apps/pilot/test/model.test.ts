import { bookById, demoPlant, factoryValue, settingsOf } from '@yare/books';
import type { MachineDetail, Sheet, SheetValue } from '@yare/contract';
import { lookAheadRun } from '@yare/core';
import { buildModel } from '../src/data/machineModel';
import { planFor } from '../src/data/lookAhead';
import { stages, stageStanding } from '../src/data/stages';
import { motionFindings } from '../src/data/motionFindings';

const p11 = demoPlant[0]!;
const settings = settingsOf(bookById(p11.bookId), p11.size);
const sheet = (kind: Sheet['kind'], changes: Record<string, number>): Sheet => ({
  kind,
  revision: 1,
  author: 'Ines Calder',
  at: '2026-01-01T00:00:00Z',
  values: Object.fromEntries(
    settings.map((s) => [s.code, { value: changes[s.code] ?? factoryValue(s, 50), source: 'factory', author: 'x', at: 'x' } satisfies SheetValue]),
  ),
});
const machine: MachineDetail = { ...p11, site: 'Brackwater Maltings', plate: { revision: 1, plate: p11.plate, author: 'x', at: 'x' }, learned: null };
const draftValues = Object.fromEntries(p11.draft.map((d) => [d.code, d.value]));
const model = (changes: Parameters<typeof buildModel>[3] = {}) =>
  buildModel(machine, sheet('draft', draftValues), sheet('in drive', {}), changes, {});

test('an edit of this device lies on top of the draft, and differs from the drive', () => {
  expect(model().draftOf('3a')).toMatchObject({ value: 5 });
  const edited = model({ '3a': { value: 7, source: 'chosen' } });
  expect(edited.draftOf('3a')).toEqual({ value: 7, source: 'chosen' });
  expect(edited.differing.map((s) => s.code)).toContain('3a');
});

test('a value the drive would round to what it holds is no difference', () => {
  const same = model({
    ...Object.fromEntries(
      p11.draft.map((d) => [
        d.code,
        {
          value: factoryValue(
            settings.find((s) => s.code === d.code)!,
            50,
          ),
          source: 'chosen' as const,
        },
      ]),
    ),
    '3a': { value: 10.04, source: 'chosen' },
  });
  expect(same.differing).toEqual([]);
});

test('stages tell how far they are', () => {
  const words = (path: string, m = model(), recordings = 0) =>
    stageStanding(
      stages.find((s) => s.path === path)!,
      m,
      recordings,
    );
  expect(words('plate')).toMatchObject({ proof: 'proved' });
  expect(words('write').proof).toBe('act');
  expect(words('turn').proof).toBe('not yet');
  expect(words('turn', model(), 1).proof).toBe('proved');
  const wrong = buildModel(machine, sheet('draft', {}), null, {}, { powerFactor: 88 });
  expect(words('plate', wrong).proof).toBe('stale');
  expect(words('write', wrong).proof).toBe('not yet');
});

test('the look-ahead of the demo draft is told as a trip with its way out, and a slower stop as its margin', () => {
  const told = (changes: Parameters<typeof buildModel>[3]) => {
    const m = model(changes);
    if (!m.draftSpec.ok) throw new Error(m.draftSpec.sentence);
    const { spec } = m.draftSpec;
    return motionFindings(spec, lookAheadRun(spec, planFor(spec, spec.drive.maximumFrequency)));
  };
  expect(told({})[0]).toMatchObject({
    row: 'decelerationTime',
    severity: 'error',
    offerShortest: true,
    sentence: expect.stringMatching(/^Stopping in 3\.0 s, the DC bus reaches its trip level of 800 V/),
  });
  const slow = told({ '3b': { value: 12, source: 'chosen' } });
  expect(slow.map((f) => f.severity)).toEqual(['good', 'good']);
  expect(slow[0]!.sentence).toMatch(/^The DC bus peaks at \d+ V; it trips at 800 V\. The shaft stands after/);
  const tight = told({ '4d': { value: 6, source: 'chosen' } });
  expect(tight.some((f) => f.row === 'accelerationTime' && f.severity !== 'good')).toBe(true);
});
