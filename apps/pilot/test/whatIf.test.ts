import { planFor, unsureInertia, type MachineModel } from '@yare/commissioning';
import { demoPlant } from '@yare/demo-plant';
import type { MachineDetail, RecordingData } from '@yare/contract';
import { lookAheadRun, whatIf, whatIfs, present } from '@yare/core';
import { searchedStop } from '../src/features/motion/searchedStop';
import { driveRecord, learnedRows } from '../src/data/learn';
import { motionFindings } from '@yare/commissioning';
import { demoModel } from './demoModel';
import { answerOf, resistorText } from '@yare/commissioning';

function modelOf(tag: string, learned: MachineDetail['learned'] = null, changes: Record<string, number> = {}): MachineModel {
  const own = Object.fromEntries(present(demoPlant.find((m) => m.tag === tag)).draft.map((d) => [d.code, d.value]));
  const values = { ...own, ...changes };
  return demoModel(tag, { draft: values, inDrive: values, machine: { learned } });
}
const specOf = (model: MachineModel) => {
  if (!model.draftSpec.ok) throw new Error(model.draftSpec.sentence);
  return model.draftSpec.spec;
};

test.each(demoPlant.map((m) => m.tag))('%s: every family gives a model, and every question an answer with its margin', (tag) => {
  const spec = specOf(modelOf(tag));
  for (const question of whatIfs) {
    if (tag === 'F-32' && question !== 'supply dip') continue;
    const answer = answerOf(spec, question, whatIf(spec, question, spec.drive.maximumFrequency, 4000));
    expect(answer.sentence).toMatch(/\.$/);
    expect(answer.sentence).not.toMatch(/NaN|undefined|Infinity/);
    if (answer.severity !== 'error' && question !== 'load step') expect(answer.sentence).toMatch(/trips at\s[\d\u2009]+\sV/);
  }
});

test('what was learned changes the look-ahead, and the estimate it was learned against does not move', () => {
  const values = { inertia: { times: 2, spread: 0.05 } };
  const learned = modelOf('P-11', { revision: 1, values, recordingId: 3, alsoRecordingId: null, author: 'Ines Calder', at: 'x' });
  const plain = modelOf('P-11');
  expect(specOf(learned).inertia).toBeCloseTo(2 * specOf(plain).inertia, 12);
  expect(learned.inDriveEstimate).toEqual(plain.inDriveEstimate);
  const aside = modelOf('P-11', { revision: 2, values: null, recordingId: null, alsoRecordingId: null, author: 'Ines Calder', at: 'x' });
  expect(specOf(aside)).toEqual(specOf(plain));
});

test('a fit that tells little of the inertia says how little; a better one and none say nothing of it', () => {
  const fitted = (spread: number) =>
    modelOf('P-11', { revision: 1, values: { inertia: { times: 1, spread } }, recordingId: 3, alsoRecordingId: null, author: 'x', at: 'x' });
  expect(unsureInertia(fitted(0.07))).toBeCloseTo(13.72, 1);
  expect(unsureInertia(fitted(0.03))).toBeNull();
  expect(unsureInertia(modelOf('P-11'))).toBeNull();
});

test('an estimate carries its band, in the unit of the figure', () => {
  const spec = specOf(modelOf('P-11', null, { '3b': 20 }));
  const ahead = lookAheadRun(spec, planFor(spec, 50));
  const sentences = motionFindings(spec, ahead, (q) => (q === 'peak bus' ? 0.1 : null)).map((f) => f.sentence);
  expect(sentences.find((x) => x.startsWith('The DC bus peaks'))).toMatch(/peaks at 5\d\d V, at worst 6\d\d V; it trips at 800 V/);
  expect(motionFindings(spec, ahead).some((f) => /at worst|not known/.test(f.sentence))).toBe(false);
});

// 761 V ± 202 V of 820 V stood in a green sentence
test('a band that reaches a limit is a warning, the bus as well as the current', () => {
  const spec = specOf(modelOf('P-11', null, { '3b': 20 }));
  const ahead = lookAheadRun(spec, planFor(spec, 50));
  const told = (share: number) => motionFindings(spec, ahead, () => share).map((f) => [f.row, f.severity]);
  expect(told(0.1)).toEqual([
    ['decelerationTime', 'good'],
    ['currentLimit', 'good'],
  ]);
  const wide = Math.max(spec.rating.overvoltageTrip / ahead.summary.peakBus, spec.drive.currentLimit / ahead.summary.peakCurrent) - 1;
  expect(told(wide + 0.01)).toEqual([
    ['decelerationTime', 'warning'],
    ['currentLimit', 'warning'],
  ]);
  // held back by the bus, the peak is the regulator's
  const held: typeof ahead = { ...ahead, summary: { ...ahead.summary, heldStopping: 'high bus', peakBus: 761 } };
  const bus = motionFindings(spec, held, () => 0.3).filter((f) => f.row === 'decelerationTime');
  expect(bus).toEqual([expect.objectContaining({ severity: 'warning', sentence: expect.stringContaining('the DC bus is held at 761 V') })]);
});

test('a quick stop that takes longer than the ramp is told', () => {
  const spec = specOf(modelOf('P-11'));
  const ahead = whatIf(spec, 'quick stop', 50, 7500);
  const slow = { ...ahead, summary: { ...ahead.summary, trip: null, stopTime: 278, peakBus: 700 } };
  expect(answerOf(spec, 'quick stop', slow)).toMatchObject({ severity: 'warning', sentence: expect.stringContaining('That is no quick stop') });
  expect(answerOf(spec, 'ramp', slow).sentence).not.toContain('no quick stop');
});

test('a small coarse drive speaks rpm and percent; the model gets hertz and amperes', () => {
  const spec = specOf(modelOf('M-55'));
  expect(spec.drive.maximumFrequency).toBeCloseTo(50, 9);
  expect(spec.drive.currentLimit).toBeCloseTo(1.2, 9);
  expect(spec.drive.reversePermit).toBe(1);
  expect(specOf(modelOf('F-32')).drive.controlMethod).toBe(1);
});

test('a recording becomes what the core learns from, its feedback in pascals', () => {
  const recording: RecordingData = {
    meta: { id: 1, kind: 'run', tag: 'P-11', title: '', author: '', startedAt: '', duration: 1, samples: 2, complete: true, channels: [], marks: [] },
    time: [0, 0.05],
    data: { outputFrequency: [0, 1], motorCurrent: [0, 2], busVoltage: [566, 560], torque: [0, 5], feedback: [0, 42] },
  };
  expect(driveRecord(modelOf('P-11'), recording).process).toEqual([0, 420000]);
  expect(driveRecord(modelOf('C-21'), recording).process).toBeUndefined();
  expect(learnedRows({ inertia: { times: 1.25, spread: 0.04 }, capacitance: { times: 1, spread: 0.08 } })).toEqual([
    { key: 'inertia', label: 'Total inertia', percent: 125, spread: 9.8 },
  ]);
});

test('a stop that was not found is not told as the end of the search', () => {
  expect(searchedStop(600)).toBe('over 600 s');
  expect(searchedStop(4.25)).toMatch(/^4\.[23] s$/);
});

test('a resistor in words: rated for the machine as hard to stop as it may be', () => {
  const likely = { leastResistance: 56, mostResistance: 400, peakPower: 1500, meanPower: 5, ratedPower: 71, energy: 3000 };
  const most = { leastResistance: 56, mostResistance: 300, peakPower: 1900, meanPower: 9, ratedPower: 125, energy: 5300 };
  const none = { ...likely, meanPower: 0, ratedPower: 0, energy: 0.2 };
  expect(resistorText(null, null, 2, 600)).toContain('cannot be made even with the smallest resistor');
  expect(resistorText(likely, null, 2, 600)).toContain('It may be heavier than any resistor of this drive stops in that time: record a run');
  expect(resistorText(none, none, 5, 600)).toContain('needs no resistor');
  expect(resistorText(none, most, 5, 600)).toContain('0.0 kJ a stop, up to 5.3 kJ');
  expect(resistorText(likely, most, 5, 600)).toBe(
    'For the stop in 5.0 s: 56 Ω or more, at most 300 Ω; 3.0 kJ a stop, up to 5.3 kJ if it is heavier than thought, 1.9 kW at the peak, up to 9.0 W on average at a stop every 10 min. Rated for 130 W or more, because one stop heats it before the next.',
  );
  // a load that drives its motor brings far more than its stops: 2.4 W on average stood beside 0.80 kW for ever
  const driven = { power: 800, mostResistance: 250 };
  expect(resistorText(likely, most, 5, 600, driven)).toMatch(
    /56 Ω or more, at most 250 Ω; .* and 0\.80\skW for as long as the load drives, which it has to carry for ever\.$/,
  );
  expect(resistorText(none, none, 5, 600, driven)).not.toContain('no resistor');
});
