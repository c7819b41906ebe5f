import Ajv from 'ajv';
import { proofFacts, type ProofFacts, type ProofKind } from '@yare/contract';
import { factsText, proofText } from '../src';

const ajv = new Ajv();

/** One of every kind, as a stage keeps it. */
const facts: { readonly [K in ProofKind]: Extract<ProofFacts, { kind: K }> } = {
  look: { kind: 'look' },
  insulation: { kind: 'insulation', reading: 20, temperature: 20, at40: 5, least: 5 },
  lineVoltages: { kind: 'lineVoltages', lines: [460, 467, 450], nominal: 460 },
  direction: { kind: 'direction', right: false, frequency: 10, recording: 7 },
  tune: { kind: 'tune', constants: [{ role: 'statorResistance', value: 1.234, unit: 'Ω', decimals: 2 }] },
  run: {
    ...{ kind: 'run', frequency: 50, recording: 7 },
    compared: [
      { quantity: 'peak current', predicted: 8, band: 1, measured: 9.5 },
      { quantity: 'stop time', predicted: 5, band: 1, measured: 5.2 },
      { quantity: 'peak bus', predicted: 600, band: null, measured: 610 },
    ],
  },
  givenBack: { kind: 'givenBack' },
  wires: { kind: 'wires', right: [{ terminal: 'D1', device: 'Start button' }], untried: [{ terminal: 'D2', device: 'Flow switch' }] },
  gauges: {
    kind: 'gauges',
    unit: 'bar',
    decimals: 2,
    points: [
      { gauge: 1, seen: 1.02 },
      { gauge: 5, seen: 4.98 },
    ],
    allowed: 2,
  },
  guard: { kind: 'guard', guard: 'dryRun', act: { did: 'tripped', code: 12 } },
  sleep: { kind: 'sleep', seconds: 60, fell: 3 },
  preset: { kind: 'preset', frequency: 15 },
  selector: { kind: 'selector', hand: { did: 'ran', frequency: 25 }, off: { did: 'stood' } },
  emergency: { kind: 'emergency', seconds: 31, frequency: 45, through: 1 },
  holds: { kind: 'holds', off: 4, output: 11, back: 6, low: 41, high: 43, held: 20, range: { low: 0, high: 10, unit: 'bar', decimals: 2 } },
  staging: { kind: 'staging', together: [1, 2], left: [2] },
  replaced: { kind: 'replaced', gone: [2], come: [3] },
};

test('every kind of test is told with its figures and their units', () => {
  for (const f of Object.values(facts)) expect([f.kind, ajv.validate(proofFacts[f.kind], f)]).toEqual([f.kind, true]);
  expect(Object.fromEntries(Object.values(facts).map((f) => [f.kind, factsText(f)]))).toEqual({
    look: 'OK',
    insulation: '20.0 MΩ at 20 °C, 5.0 MΩ at 40 °C',
    // the worked example of NEMA MG 1 (from memory): mean 459 V, unbalance 1.96 %
    lineVoltages: '460, 467, 450 V: mean 459 V, unbalance 2.0 %',
    direction: 'the wrong way at up to 10.0 Hz, recording 7',
    tune: 'stator resistance 1.23 Ω',
    run: '50.0 Hz; peak motor current 9.5 A, outside; time to stop 5.2 s, inside; peak DC bus 610 V; recording 7',
    givenBack: 'nobody has command over the link',
    wires: 'D1 Start button; not tried: D2 Flow switch',
    gauges: 'gauge 1.00 bar, drive 1.02 bar; gauge 5.00 bar, drive 4.98 bar',
    guard: 'tripped: code 12',
    sleep: 'fell asleep, woke by itself 60 s later',
    preset: '15.0 Hz',
    selector: 'hand: ran at 25.0 Hz; off: stood still; auto: not tried',
    emergency: 'ran in emergency for 31 s at up to 45.0 Hz and ended with its contact; ran on through 1 trip',
    holds: '4.10 bar to 4.30 bar for 20 s, 6 s after a disturbance that moved the output by 11 % and the feedback by 4.0 % of the range',
    staging: 'pump 1 and 2 ran together, then pump 2',
    replaced: 'pump 2 was replaced by pump 3',
  });
});

test('a guard is called by the family’s own name where it is known; a range that was not kept leaves %', () => {
  expect(factsText(facts.guard, true, () => 'Ran dry')).toBe('tripped: Ran dry');
  expect(factsText({ kind: 'guard', guard: 'cleaning', act: { did: 'ran', seconds: 12 } })).toBe('cleaned itself for 12 s and went on');
  expect(factsText({ kind: 'guard', guard: 'fill', act: { did: 'ran', seconds: 40 } })).toBe('filled the pipe for 40 s, then held it');
  expect(factsText({ kind: 'guard', guard: 'runOn', act: { did: 'ran', seconds: 60 } })).toBe('ran on for 60 s');
  expect(factsText({ ...facts.holds, range: null })).toMatch(/^41.0 % to 43.0 % for 20 s/);
  expect(factsText({ ...facts.emergency, through: 0 })).not.toContain('trip');
});

test('what was written down before figures were kept stands as it was', () => {
  expect(proofText({ facts: null, told: 'right way', outcome: 'passed' })).toBe('right way');
  expect(proofText({ facts: facts.sleep, told: 'woke by itself', outcome: 'passed' })).toBe('woke by itself');
  expect(proofText({ facts: facts.look, told: null, outcome: 'failed' })).toBe('not OK');
  expect(proofText({ facts: null, told: null, outcome: 'taken back' })).toBe('');
});
