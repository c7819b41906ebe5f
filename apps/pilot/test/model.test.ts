import { emptySurvey, planFor, type StandingContext, type StagePath, stageAt } from '@yare/commissioning';
import { demoPlant } from '@yare/demo-plant';
import { bookById, factoryValue, settingsOf } from '@yare/books';
import { lookAheadRun, present } from '@yare/core';
import { motionFindings } from '@yare/commissioning';
import { demoModel, type DemoModel } from './demoModel';

const p11 = present(demoPlant[0]);
const settings = settingsOf(bookById(p11.bookId), p11.size);
const model = (changes: DemoModel['changes'] = {}) => demoModel('P-11', { changes });
const context = (recordings = 0): StandingContext => ({
  ...{ recordings, runs: recordings },
  survey: emptySurvey(p11),
  surveyed: false,
  proofOf: () => ({ state: 'not yet' }),
});

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
          value: factoryValue(present(settings.find((s) => s.code === d.code)), 50),
          source: 'chosen' as const,
        },
      ]),
    ),
    '3a': { value: 10.04, source: 'chosen' },
  });
  expect(same.differing).toEqual([]);
});

test('stages tell how far they are', () => {
  const text = (path: StagePath, m = model(), recordings = 0) => stageAt(path).standing(m, context(recordings));
  // what fits before anybody was at the machine proves nothing yet
  expect(text('plate')).toMatchObject({ proof: 'not yet' });
  const surveyed = { ...context(0), surveyed: true };
  expect(stageAt('plate').standing(model(), surveyed)).toMatchObject({ proof: 'proved' });
  expect(stageAt('drive').standing(model(), context(0)).proof).toBe('not yet');
  // a draft that took the overload from the plate protects nothing before the drive has it
  expect(text('protection')).toMatchObject({ proof: 'not yet' });
  const own = Object.fromEntries(p11.draft.map((d) => [d.code, d.value]));
  expect(text('protection', demoModel('P-11', { inDrive: own }))).toMatchObject({ proof: 'proved' });
  expect(text('write').proof).toBe('act');
  // a recording of another instrument turned nothing here
  expect(stageAt('turn').standing(model(), { ...context(1), runs: 0 }).proof).toBe('not yet');
  expect(text('turn', model(), 1).proof).toBe('proved');
  expect(text('turn').proof).toBe('not yet');
  expect(text('turn', model(), 1).proof).toBe('proved');
  const wrong = demoModel('P-11', { draft: {}, inDrive: null, plate: { powerFactor: 88 } });
  expect(text('plate', wrong).proof).toBe('stale');
  expect(text('write', wrong).proof).toBe('not yet');
});

test('the look-ahead of the demo draft is told as a trip with its way out, and a slower stop as its margin', () => {
  const told = (changes: DemoModel['changes']) => {
    const m = model(changes);
    if (!m.draftSpec.ok) throw new Error(m.draftSpec.sentence);
    const { spec } = m.draftSpec;
    return motionFindings(spec, lookAheadRun(spec, planFor(spec, spec.drive.maximumFrequency)));
  };
  expect(told({})[0]).toMatchObject({
    row: 'decelerationTime',
    severity: 'error',
    offer: 'Use the shortest safe',
    sentence: expect.stringMatching(/^Stopping in 3\.0 s, the DC bus reaches its trip level of 800 V/),
  });
  const slow = told({ '3b': { value: 12, source: 'chosen' } });
  expect(slow.map((f) => f.severity)).toEqual(['good', 'good']);
  expect(present(slow[0]).sentence).toMatch(/^The DC bus peaks at \d+ V; it trips at 800 V\. The motor stops in/);
  const tight = told({ '4d': { value: 6, source: 'chosen' } });
  expect(tight.some((f) => f.row === 'accelerationTime' && f.severity !== 'good')).toBe(true);
});

test('a heavy fan whose ramp waits all the way is warned of, not called good', () => {
  const m = demoModel('F-32', { changes: { '13/2': { value: 10, source: 'chosen' } } });
  if (!m.draftSpec.ok) throw new Error(m.draftSpec.sentence);
  const { spec } = m.draftSpec;
  const told = motionFindings(spec, lookAheadRun(spec, planFor(spec, spec.drive.maximumFrequency))).filter((f) => f.row === 'decelerationTime');
  expect(told.map((f) => f.severity)).not.toContain('good');
  expect(told[0]).toMatchObject({
    id: 'stop held',
    offer: 'Use the shortest ramp without ramp hold',
  });
});
