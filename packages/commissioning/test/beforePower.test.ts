import '@yare/books/all';
import { atHand, groundOf, judgeInsulation, judgeVoltages, powerChecks, surveyGround } from '../src';
import { present } from '@yare/core';

const survey = {
  why: '',
  voltage: 400,
  frequency: 50,
  phases: 3 as const,
  ambient: 30,
  altitude: 0,
  cableLength: 80,
  screened: false,
  lineVoltages: null,
  insulation: null,
};

describe('before power', () => {
  test('the order is safe: dead first, earths before phases, motor before supply, voltages last', () => {
    const order = powerChecks.map((c) => c.id);
    const before = (a: string, b: string) => expect(order.indexOf(a)).toBeLessThan(order.indexOf(b));
    expect(order[0]).toBe('isolated');
    before('motorEarth', 'motorPhases');
    before('insulation', 'motorPhases');
    before('motorPhases', 'supplyPhases');
    before('supplyEarth', 'supplyPhases');
    before('supplyPhases', 'controlRows');
    expect(order.at(-1)).toBe('lineVoltages');
  });

  // IEEE 43 (from memory): at least 5 MΩ at 40 °C for low-voltage random-wound machines. Wet and hot passed before, sound and cold did not
  test.each([
    [20, 20, null, true, 5.0],
    [19, 20, null, false, 4.8],
    [15, 20, 'thermosetting', true, 11.4],
    [15, 20, 'thermoplastic', false, 3.8],
    [5, 40, null, true, 5.0],
    [2, 60, 'thermosetting', false, 4.5],
    [2, 60, 'thermoplastic', true, 8.0],
    [2, 60, null, false, 4.5],
  ] as const)('%d MΩ at %d °C, %s, passes: %s, %d MΩ at 40 °C', (reading, temperature, winding, passed, at40) => {
    const j = present(judgeInsulation({ reading, temperature, winding }));
    expect(j.passed).toBe(passed);
    expect(j.facts).toMatchObject({ kind: 'insulation', reading, temperature, least: 5 });
    expect(j.facts.kind === 'insulation' && j.facts.at40).toBeCloseTo(at40, 1);
    expect(j.sentence.includes('the law of the winding that gives less')).toBe(winding === null);
  });

  // NEMA MG 1 (from memory): worked example of 460, 467, 450 V: mean 459, largest deviation 9, unbalance 1.96 %
  test('unbalance of the NEMA example, and its derating', () => {
    const j = present(judgeVoltages([460, 467, 450], 460));
    expect(present(j.unbalance)).toBeCloseTo(1.96, 2);
    expect(j.derating).toBeCloseTo(0.952, 3);
    expect(j.passed).toBe(true);
  });
});

describe('readings and what lies at hand', () => {
  test.each([
    [[400, 360, 400], false, 'above 5 % no motor may run'],
    [[400, 385, 402], false, '2.7 % unbalance'],
    [[330, 331, 329], false, 'below the 400 V surveyed'],
    [[480, 481, 479], false, 'above the 400 V surveyed'],
    [[401, 398, 402], true, 'nothing to derate'],
  ] as const)('%p V passes: %s', (lines, passed, text) => {
    const j = present(judgeVoltages(lines, 400));
    expect(j.passed).toBe(passed);
    expect(j.sentence).toContain(text);
  });

  test('readings that were not all taken are not judged', () => {
    expect(judgeVoltages(null, 400)).toBeNull();
    expect(judgeVoltages([400, null, 401], 400)).toBeNull();
    expect(judgeInsulation(null)).toBeNull();
    expect(judgeInsulation({ reading: null, temperature: 20 })).toBeNull();
  });

  test('nothing read is not the same as nothing there', () => {
    expect(judgeInsulation({ reading: 0, temperature: 20 })).toMatchObject({ passed: false, facts: { reading: 0, at40: 0 } });
    expect(judgeVoltages([400, 0, 401], 400)).toMatchObject({ passed: false, derating: null, sentence: expect.stringContaining('a blown fuse') });
    expect(judgeVoltages([0, 0, 0], 400)).toMatchObject({ passed: false, sentence: expect.stringContaining('every fuse is out') });
  });

  test('what must lie at hand follows the machine, the cable and the supply', () => {
    const what = (s: typeof survey, kind: string, brake = false) => atHand(s, kind, brake).map((x) => x.what);
    expect(what(survey, 'pump')).toEqual(expect.arrayContaining(['Water in the pump', 'Output choke or filter', 'Screened motor cable']));
    expect(what({ ...survey, cableLength: 20, screened: true as never }, 'fan')).toEqual(
      expect.not.arrayContaining(['Output choke or filter', 'Screened motor cable']),
    );
    expect(what(survey, 'conveyor', true)).toContain('A way to hold the load');
  });

  test('a reading taken later does not change the ground a proof stands on; supply and place do', () => {
    const read = { ...survey, lineVoltages: [1, 2, 3] };
    expect(surveyGround(read)).toBe(surveyGround(survey));
    expect(surveyGround({ ...survey, ambient: 31 })).not.toBe(surveyGround(survey));
    expect(surveyGround(groundOf({ voltage: 400, frequency: 50 }))).toBe('400 V 50 Hz 3 ph, ? °C, ? m, cable ? m');
    expect(surveyGround({ ...survey, voltage: 415 })).not.toBe(surveyGround(survey));
  });
});
