import { howTo, measureFirst, measureFirstText, outcomesOf } from '../src/trips';
import type { Diagnosis } from '@yare/core/trips';

const of = (ranked: Array<[id: string, probability: number]>, seen: Diagnosis['seen'] = {}): Diagnosis => ({
  ranked: ranked.map(([id, probability]) => ({ id, probability, remedy: 'at the machine', trip: 'overcurrent', evidence: [] })),
  ...{ entropy: 0, next: [], seen },
});
const sound = { outcome: 'sound', figures: {} };

test('a likely short is measured before the reset, until it was; nothing else holds a reset back', () => {
  const short = of([['short in the cable', 0.8]]);
  expect(measureFirst('overcurrent', short)).toEqual(['motorLeads', 'insulation']);
  expect(measureFirst('overcurrent', of([['short in the cable', 0.8]], { motorLeads: sound, insulation: sound }))).toEqual([]);
  expect(
    measureFirst(
      'overcurrent',
      of([
        ['jam', 0.8],
        ['short in the cable', 0.1],
      ]),
    ),
  ).toEqual([]);
  expect(measureFirst('overvoltage', null)).toEqual([]);
  // while the cause is being looked for, a class that may be a short counts as one
  expect(measureFirst('overcurrent', null)).toEqual(['motorLeads']);
});

test('what is not safe to touch yet is said: the bus, and a fan that may still turn', () => {
  expect(measureFirstText('pump')).toMatch(/DC bus holds its voltage for minutes/);
  expect(measureFirstText('pump')).not.toContain('still turn');
  expect(measureFirstText('fan')).toContain('The fan may still turn');
});

test('a machine with a brake is turned by hand with the brake lifted, on an incline with its load off', () => {
  expect(howTo('turnByHand', { braked: true, incline: true })).toMatch(/Lift its holding brake.*runs back as soon as the brake is lifted/);
  expect(howTo('turnByHand', { braked: false, incline: false })).not.toContain('brake');
  expect(outcomesOf('turnByHand', true)).toContain('held by its brake');
  expect(outcomesOf('turnByHand', false)).toEqual(['turns freely', 'turns hard', 'does not turn']);
});
