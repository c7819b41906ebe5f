import { refuseValue } from '@yare/books';
import { checkPlate, estimateMachine, present } from '@yare/core';
import { demoDraft, demoMachine, demoPlant } from '../src';

describe('demo plant', () => {
  test.each(demoPlant.map((m) => [m.tag, m] as const))(
    '%s: the plate is sound, the draft valid, the drive big enough, the machine can be estimated',
    (_tag, m) => {
      expect(checkPlate(m.plate)).toEqual([]);
      const settings = demoDraft(m);
      for (const d of [...m.draft, ...Object.entries(m.asFound).map(([code, value]) => ({ code, value }))]) {
        expect([d.code, refuseValue(present(settings.at(d.code)), d.value)]).toEqual([d.code, null]);
      }
      expect(settings.rating.current).toBeGreaterThanOrEqual(m.plate.current);
      const estimate = estimateMachine(m.plate, m.driven, settings.parameters(), settings.hardware(), m.supply);
      expect(estimate.ok).toBe(true);
    },
  );

  test('unit identifiers are one each, in order', () => {
    expect(demoPlant.map((m) => m.unitId)).toEqual(demoPlant.map((_, i) => i + 1));
  });
});

test('a plate that cannot be estimated gives its sentence', () => {
  const m = demoMachine('P-11');
  const settings = demoDraft(m);
  const answer = estimateMachine({ ...m.plate, speed: 3000 }, m.driven, settings.parameters(), settings.hardware(), m.supply);
  expect(answer).toMatchObject({ ok: false, sentence: expect.stringContaining('synchronous') });
});
