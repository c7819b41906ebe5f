import { demoDraft, demoMachine } from '@yare/demo-plant';
import { present, tripCauses, type SettingRole, type TripCause } from '@yare/core';
import { causes, measurements, noneOfThese, observations, usually, type MeasurementId, type ObservationId, type RemedyKind } from '@yare/core/trips';
import { causeWords, duration, factText, measurementWords, remediesOf, snapshotOf, sureText, trippedMachine, weightText } from '../src/trips';

const supply = { voltage: 400, frequency: 50, inductance: 1e-3 };
function remedy(
  tag: string,
  kind: RemedyKind,
  change: Partial<Record<SettingRole, number>> = {},
  trip: TripCause = 'overvoltage',
  shortest: number | null = 8,
) {
  const demo = demoMachine(tag);
  const draft = demoDraft(demo);
  const values = Object.fromEntries(
    Object.entries(change).flatMap(([role, x]) => draft.change(role as SettingRole, x ?? 0).map((c) => [c.code, c.value])),
  );
  const settings = demoDraft(demo, values);
  const [r = null] = remediesOf(kind, { settings, plate: demo.plate, supply, trip, shortest, circuit: { r1: 0.4 } });
  return r && { ...r, settings: settings.with({ ...settings.values, ...Object.fromEntries(r.changes.map((c) => [c.code, c.value])) }) };
}

describe('words', () => {
  test('every cause, measurement, outcome and fact has its own', () => {
    for (const c of causes) expect([c.id, causeWords[c.id]?.cure.length ?? 0]).toEqual([c.id, expect.any(Number)]);
    expect(causes.filter((c) => !causeWords[c.id]).map((c) => c.id)).toEqual([]);
    expect(Object.keys(causeWords).filter((id) => !causes.some((c) => c.id === id))).toEqual([noneOfThese]);
    for (const id of Object.keys(measurements) as MeasurementId[])
      expect([id, Object.keys(measurementWords[id].outcomes).sort()]).toEqual([id, Object.keys(usually[id]).sort()]);
    for (const id of Object.keys(observations) as ObservationId[])
      for (const outcome of Object.keys(usually[id])) {
        const text = factText(id, { outcome, figures: {} });
        expect([id, outcome, /undefined|NaN/.test(text), text.length > 3]).toEqual([id, outcome, false, true]);
      }
    expect(factText('lineVoltage', { outcome: 'high', figures: {} })).toMatch(/too high/);
  });
  test('weights, certainty and times are told plainly', () => {
    const e = (bits: number) => weightText({ id: 'line', seen: { outcome: 'high', figures: {} }, bits });
    expect([e(1), e(-2), e(5)]).toEqual([
      '2.0 times as likely with this cause',
      'against it: 4 times as likely with another cause',
      'far more likely with this cause',
    ]);
    const r = (probability: number) => ({ id: 'jam', remedy: 'at the machine' as const, trip: 'stall' as const, probability, evidence: [] });
    expect(sureText([r(0.95)])).toMatch(/Nothing else/);
    expect(sureText([r(0.6), r(0.3)])).toMatch(/not ruled out/);
    expect(sureText([r(0.3), r(0.3)])).toMatch(/^Not sure/);
    expect(sureText([])).toMatch(/knows no cause/);
    expect([duration(40), duration(900), duration(9000)]).toEqual(['40 s', '15 min', '2.5 h']);
  });
});

describe('remedies', () => {
  test('a stop as long as the shortest that is safe, and longer than what tripped; none while the shortest is not known', () => {
    const r = present(remedy('F-32', 'longer stop', { decelerationTime: 5 }));
    expect(r.settings.parameters().decelerationTime).toBe(8);
    expect(r).toMatchObject({ label: 'Deceleration time 8.0 s', stop: true });
    expect(present(remedy('F-32', 'longer stop', { decelerationTime: 20 })).settings.parameters().decelerationTime).toBe(22);
    expect(remedy('F-32', 'longer stop', {}, 'overvoltage', null)).toBeNull();
  });
  test('a chopper between the bus at rest and its trip, an overload as stamped, speeds that agree', () => {
    const { chopperLevel } = present(remedy('F-32', 'chopper below the trip', { chopperLevel: 830 })).settings.parameters();
    expect(chopperLevel).toBeGreaterThan(620);
    expect(chopperLevel).toBeLessThan(790);
    expect(present(remedy('P-11', 'overload as stamped', { overloadCurrent: 7 })).settings.parameters().overloadCurrent).toBe(13.6);
    expect(remedy('P-11', 'overload as stamped', { overloadCurrent: 13.6 })).toBeNull();
    expect(present(remedy('P-11', 'settings agree', { minimumFrequency: 30 })).settings.parameters().minimumFrequency).toBe(0);
  });
  test.each<[RemedyKind, Partial<Record<SettingRole, number>>, SettingRole, 'more' | 'less', TripCause]>([
    ['less boost', { startBoost: 0.2 }, 'startBoost', 'less', 'overcurrent'],
    ['more boost', { startBoost: 0.01 }, 'startBoost', 'more', 'stall'],
    ['longer run-up', { accelerationTime: 1 }, 'accelerationTime', 'more', 'overcurrent'],
    ['higher limit', { currentLimit: 8 }, 'currentLimit', 'more', 'stall'],
    ['longer time-out', { linkTimeout: 0.2 }, 'linkTimeout', 'more', 'linkLoss'],
    ['guard further out', { highLoadLevel: 0.5 }, 'highLoadLevel', 'more', 'highLoad'],
    ['guard further out', { lowLoadLevel: 0.9 }, 'lowLoadLevel', 'less', 'lowLoad'],
    ['guard later', { noFlowDelay: 1 }, 'noFlowDelay', 'more', 'noFlow'],
    ['overspeed further out', { overspeedLevel: 0.9 }, 'overspeedLevel', 'more', 'overspeed'],
  ])('%s', (kind, change, role, way, trip) => {
    const r = present(remedy('P-11', kind, change, trip));
    const [before, now] = [present(Object.values(change)[0]), present(r.settings.role(role))];
    expect(way === 'more' ? now > before : now < before).toBe(true);
  });
  test('nothing is set about what is cured at the machine, or what a family has no setting for', () => {
    expect(remedy('P-11', 'at the machine')).toBeNull();
    expect(remedy('M-55', 'guard later', {}, 'noFlow')).toBeNull();
    expect(remedy('P-11', 'guard further out', {}, 'overvoltage')).toBeNull();
  });
});

test('a machine as it tripped: settings of then, the plate, the external chain by its bit', () => {
  const demo = demoMachine('P-11');
  const m = trippedMachine(demoDraft(demo), demo.plate, demo, null);
  expect(m.plate).toMatchObject({ current: 13.6, voltage: 400 });
  expect(m.plate.torque).toBeCloseTo((9550 * 7.5) / 2925, 0);
  expect(m.external).toEqual({ bit: 5, openTrips: true });
  expect(m.rating.overvoltageTrip).toBe(800);
  const remembered = { ...Object.fromEntries(tripCauses.map(() => [])), trip: 11, busVoltage: 805 } as never;
  expect(snapshotOf(remembered)).toEqual({ busVoltage: 805 });
});
