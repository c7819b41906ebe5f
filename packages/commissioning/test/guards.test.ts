import { bookById, doingOf } from '@yare/books';
import { demoDraft, demoMachine } from '@yare/demo-plant';
import { present, type SettingRole } from '@yare/core';
import { emergencyTrips, guardProofs, guardsFor, stageFindings } from '../src';
import { dayProfileNames, dayProfiles, readDemand, sleepAnswer, yearAnswer } from '../src/days';
import type { SleepAhead } from '@yare/core/days';

type Change = Partial<Record<SettingRole, number>>;
/** A machine of the demo plant with some of its draft changed by role. */
function checked(tag: string, change: Change = {}) {
  const demo = demoMachine(tag);
  const draft = demoDraft(demo);
  const values = Object.fromEntries(
    Object.entries(change).flatMap(([role, x]) => draft.change(role as SettingRole, x ?? 0).map((c) => [c.code, c.value])),
  );
  return { settings: demoDraft(demo, values), plate: demo.plate, supply: demo.supply, driven: demo.driven };
}
const found = (tag: string, stage: string, change: Change = {}) => stageFindings(checked(tag, change)).filter((f) => f.stage === stage);
const ids = (tag: string, stage: string, change: Change = {}) => found(tag, stage, change).map((f) => f.id);
/** Findings after the first way out of one has been taken. */
function cured(tag: string, stage: string, change: Change, id: string): string[] {
  const c = checked(tag, change);
  const remedy = present(stageFindings(c).find((f) => f.stage === stage && f.id === id)).remedy?.changes ?? [];
  const settings = c.settings.with({ ...c.settings.values, ...Object.fromEntries(remedy.map((r) => [r.code, r.value])) });
  return stageFindings({ ...c, settings })
    .filter((f) => f.stage === stage)
    .map((f) => f.id);
}

describe('sleep', () => {
  test('a sleep speed that never comes is told, and the one offered is reached', () => {
    expect(ids('P-11', 'sleep')).toEqual(['never reached']);
    expect(cured('P-11', 'sleep', {}, 'never reached')).toEqual([]);
    expect(ids('P-11', 'sleep', { minimumFrequency: 45, sleepFrequency: 44 })).toEqual(['never reached']);
    expect(ids('P-11', 'sleep', { sleepFrequency: 48 })).toEqual(['sleeps too early']);
    expect(ids('P-11', 'sleep', { sleepFrequency: 0, wakeFall: 0.9 })).toEqual([]);
    // found out at the pump: the plate no longer contradicts it, the settings still do
    const atThePump = (change: Change) => stageFindings({ ...checked('P-11', change), measured: () => true }).filter((f) => f.stage === 'sleep');
    expect(atThePump({ sleepFrequency: 48 })).toEqual([]);
    expect(atThePump({ minimumFrequency: 45, sleepFrequency: 44 }).map((f) => f.id)).toEqual(['never reached']);
    // a pump that empties a sump idles under the speed that lifts anything
    expect(ids('P-41', 'sleep', { sleepFrequency: 22 })).toEqual(['lifts nothing']);
    expect(cured('P-41', 'sleep', { sleepFrequency: 22 }, 'lifts nothing')).toEqual([]);
    expect(ids('P-41', 'sleep')).toEqual([]);
  });
  test('a wake level that is never reached or always, and a boost that meets its guard or the end of the pump', () => {
    const sound = { sleepFrequency: 42 };
    expect(ids('P-11', 'sleep', { ...sound, wakeFall: 0.45 })).toEqual(['never wakes']);
    expect(ids('P-11', 'sleep', { ...sound, wakeFall: 0.005 })).toEqual(['wakes at once']);
    expect(ids('P-11', 'sleep', { ...sound, sleepBoost: 0.05, highPressureLevel: 0.45 })).toEqual(['boost meets the guard']);
    expect(ids('P-11', 'sleep', { ...sound, sleepBoost: 0.2 })).toEqual(['boost never reached']);
  });
});

describe('guards', () => {
  test('each machine has those that make sense at it and its family can', () => {
    const kinds = (tag: string) => guardsFor(checked(tag)).map((g) => g.kind);
    expect(kinds('P-11')).toEqual(['dryRun', 'noFlow', 'highLoad', 'lowLoad', 'highPressure', 'lowPressure']);
    expect(kinds('F-32')).toEqual(['highLoad', 'lowLoad', 'highPressure', 'lowPressure']);
    expect(kinds('M-55')).toEqual([]);
    expect(guardProofs(checked('P-11', { dryRunLevel: 0.5, runOnTime: 10 })).map((p) => p.id)).toEqual(['dryRun', 'noFlow', 'feedback', 'runOn']);
  });
  test.each([
    ['P-11', { dryRunLevel: 0.5 }, 'shut load unknown'],
    ['P-11', { noFlowDelay: 15 }, 'no flow before sleep'],
    ['P-11', { dryRunLevel: 0.5, dryRunDelay: 70, shutLoad: 0.4 }, 'dry after no flow'],
    ['P-41', { dryRunLevel: 0.5, dryRunDelay: 120, shutLoad: 0.4, sleepFrequency: 22, noFlowDelay: 0 }, 'dry after sleep'],
    ['P-11', { highPressureLevel: 0.4 }, 'high guard under the set point'],
    ['P-11', { lowPressureLevel: 0.4 }, 'low guard over the set point'],
    ['P-11', { highPressureLevel: 0.6, highPressureAction: 1, guardTries: 0 }, 'no tries'],
    ['P-11', { cleanStrokes: 2 }, 'cleaning forbidden'],
    ['P-11', { cleanStrokes: 2, cleanAtLoad: 1, reversePermit: 1 }, 'cleaning without its guard'],
    ['P-11', { fillFrequency: 30, fillLevel: 0.5 }, 'never full'],
    ['P-11', { frostFrequency: 10 }, 'no frost contact'],
    ['P-11', { highLoadLevel: 1.02, loadCurve1: 0.2, loadCurve2: 0.4, loadCurve3: 0.9 }, 'high load too near'],
    ['P-11', { lowLoadLevel: 0.95, loadCurve1: 0.2, loadCurve2: 0.4, loadCurve3: 0.9 }, 'low load too near'],
  ] as Array<[string, Change, string]>)('%s %j: %s', (tag, change, id) => {
    expect(ids(tag, 'guards', change)).toContain(id);
    const way = present(found(tag, 'guards', change).find((f) => f.id === id)).remedy;
    if (way?.changes && way.changes.length > 0) expect(cured(tag, 'guards', change, id)).not.toContain(id);
  });
  test('a contact of its own is idle only while what it asks for is not set', () => {
    const idle = (tag: string, change: Change = {}) => ids(tag, 'terminals', change).filter((id) => id.startsWith('idle'));
    expect(idle('F-32')).toEqual([]);
    expect(idle('P-41')).toEqual(['idle remote 16/7', 'idle remote 16/8']);
    expect(idle('P-41', { cleanStrokes: 1, frostFrequency: 8 })).toEqual([]);
  });
  test('the demo drafts guard nothing that fights', () => {
    for (const tag of ['P-11', 'P-41', 'F-32', 'C-07']) expect([tag, ids(tag, 'guards')]).toEqual([tag, []]);
  });
});

describe('several pumps and emergency ventilation', () => {
  test.each([
    ['P-41', 'station', { stageUpFrequency: 55 }, 'never added'],
    ['P-41', 'station', { minimumFrequency: 30 }, 'never taken off'],
    // against a kept pressure the output never falls below what just holds it
    ['P-11', 'station', { stationKind: 1, stationPumps: 2, 'relay R2': 8, stageUpFrequency: 49, stageDownFrequency: 30 }, 'never taken off'],
    ['P-41', 'station', { stageDownFrequency: 44 }, 'too near'],
    ['P-41', 'station', { stationNumber: 4 }, 'number beyond'],
    ['P-41', 'station', { jockey: 4 }, 'no such jockey'],
    ['P-11', 'station', { stationKind: 1, stationPumps: 3 }, 'no relay'],
    ['P-11', 'station', { stationKind: 1 }, 'one pump'],
    ['F-32', 'emergency', {}, 'contact without a speed'],
    ['F-32', 'emergency', { emergencyFrequency: 60 }, 'speed beyond its limits'],
    ['F-32', 'emergency', { emergencyFrequency: 45, emergencyDirection: 1, reversePermit: 0 }, 'backwards forbidden'],
    ['F-32', 'emergency', { emergencyFrequency: 45, emergencySense: 0 }, 'a broken wire is silent'],
    ['F-32', 'emergency', { emergencyFrequency: 45, emergencyOverrides: 0 }, 'stops at any trip'],
    ['P-41', 'emergency', { emergencyFrequency: 45 }, 'no contact'],
  ] as Array<[string, string, Change, string]>)('%s %s %j: %s', (tag, stage, change, id) => {
    expect(ids(tag, stage, change)).toContain(id);
  });
  test('which trips it runs through follows its policy, and the drive always has some that stop it', () => {
    for (const [overrides, most] of [
      [0, 0],
      [1, 20],
      [2, 30],
    ] as const) {
      const { through, stops } = emergencyTrips(checked('F-32', { emergencyFrequency: 45, emergencyOverrides: overrides }));
      expect(through.length).toBeLessThanOrEqual(most);
      expect(stops).toContain('overcurrent');
      expect(through.includes('motorOverload')).toBe(overrides === 2);
    }
  });
  test('what a drive does by itself is told in its family’s own words; one without them does nothing', () => {
    expect(doingOf(bookById('osier-g'), { doing: 5, warns: 0b1, pumpsOn: 0 })).toEqual({ doing: 'resting', warns: ['dryRun'], pumps: [] });
    expect(doingOf(bookById('sallow'), { doing: 80, warns: 0b1, pumpsOn: 0b101 })).toEqual({ doing: 'emergency', warns: ['filter'], pumps: [1, 3] });
    expect(doingOf(bookById('withy'), { doing: 0, warns: 0, pumpsOn: 0 })).toEqual({ doing: 'nothing', warns: [], pumps: [] });
  });
});

describe('a day in words', () => {
  const sensor = { measures: 'pressure', low: 0, high: 10, unit: 'bar' } as const;
  const ahead = (change: Partial<SleepAhead['day']>, hunts = false): SleepAhead => ({
    day: { asleepHours: 8, wakes: [1, 2, 3], wakesPerHour: 2, energy: 50, lowest: 3.7e5, highest: 4.4e5, ...change } as SleepAhead['day'],
    ...{ awake: 60, hunts, allowed: 15, cure: null },
  });
  test('says when it hunts, never sleeps, or saves', () => {
    expect(sleepAnswer(ahead({}), sensor, true)).toMatchObject({
      severity: 'good',
      sentence: expect.stringContaining('10.0 kWh less than never to sleep'),
    });
    expect(sleepAnswer(ahead({ wakesPerHour: 30 }, true), sensor, true)).toMatchObject({
      severity: 'warning',
      sentence: expect.stringContaining('It hunts'),
    });
    expect(sleepAnswer(ahead({ asleepHours: 0 }), sensor, true)).toMatchObject({
      severity: 'warning',
      sentence: expect.stringContaining('never falls asleep'),
    });
    expect(sleepAnswer(ahead({}), sensor, false).severity).toBe('good');
    // a pressure that is let fall, a day of wakes, and a sleep that costs more than it saves are no good news
    const kept = { setpoint: 4.2e5, wakes: 3.8e5 };
    expect(sleepAnswer(ahead({ lowest: 3.7e5 }), sensor, true, kept).severity).toBe('good');
    expect(sleepAnswer(ahead({ lowest: 1.25e5 }), sensor, true, kept)).toMatchObject({
      severity: 'error',
      sentence: expect.stringMatching(/falls to 1\.25 bar where 4\.20 bar is to be held.*larger pressure vessel/),
    });
    expect(sleepAnswer(ahead({ wakes: Array.from({ length: 665 }, (_, i) => i / 28) }), sensor, true, kept)).toMatchObject({
      severity: 'error',
      sentence: expect.stringContaining('does not pay'),
    });
    expect(sleepAnswer({ ...ahead({ energy: 40 }), awake: 38 }, sensor, true).severity).toBe('error');
    expect(yearAnswer({ hours: [1], starts: [9], startsPerHour: [40], short: 0, energy: 1000 }, 20)).toMatchObject({ severity: 'warning' });
    expect(yearAnswer({ hours: [1], starts: [9], startsPerHour: [1], short: 0, energy: 1000 }, 20).sentence).toContain(
      'starts once in its worst hour',
    );
  });
  test('a demand is typed by figures, and rubbish is told', () => {
    expect(readDemand('0; 2,5\n7 | 1')).toEqual({ ok: true, demand: [0, 2.5, 7, 1] });
    expect(readDemand('3 minus').ok).toBe(false);
    expect(readDemand('3 -1').ok).toBe(false);
    expect(readDemand('5').ok).toBe(false);
    for (const name of dayProfileNames) expect(dayProfiles[name].shares).toHaveLength(24);
  });
});
