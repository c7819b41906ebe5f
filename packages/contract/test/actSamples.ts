import { demoPlant } from '@yare/demo-plant';
import { present } from '@yare/core';
import type { ActCode, ActDetail, Survey } from '../src';

const { plate } = present(demoPlant[0]);
const survey: Survey = {
  ...{ why: 'old drive failed', voltage: 400, frequency: 50, phases: 3, ambient: 30, altitude: 120, cableLength: 25, screened: true },
  ...{ lineVoltages: [401, 399, 400], insulation: null },
};
const wiring = { inputs: {}, unit: { name: 'm/min', value: 12.4, frequency: 10 } };
const run = { frequency: 12.5, recording: 41 };
const proof = { stage: 'motion', item: 'run', measured: 'It ran up and down again without a trip: 50.0 Hz' };
const written = { revision: 7, outcome: 'kept' as const, codes: ['3a', '3b'] };
const place = { name: 'Steep water pump', area: 'Steep house', unit_id: 1 };

/** Every act as it may be logged. */
export const actSamples: { readonly [A in ActCode]: ActDetail<A> } = {
  seed: { machines: 8 },
  'demo plant brought up to date': { from: 'withy', to: 'sallow' },
  'history of the demo plant': { trips: 1, recordings: 3 },
  'new machine': { name: 'Sump pump', unitId: 12 },
  record: { before: place, after: { ...place, area: 'Kiln' } },
  note: { note: 'Listen to its bearing' },
  'edit plate': { revision: 2, before: plate, after: { ...plate, speed: plate.speed + 5 } },
  'edit survey': { revision: 2, before: survey, after: { ...survey, ambient: 35.5 } },
  'edit wiring': { revision: 1, before: null, after: wiring },
  'edit draft': {
    revision: 3,
    changes: [{ code: '3a', value: 5, before: 10, source: 'chosen', name: 'Acceleration time', unit: 's', from: '10.0', to: '5.0' }],
  },
  drive: { from: ['withy', 'W2.2', 50], to: ['osier-g', 'G4', 50] },
  'photo of the plate': { photo: 3, bytes: 204_800 },
  'remove photo': { photo: 3, takenBy: 'Ines Calder', at: '2026-11-23T13:05:09.000Z' },
  'save motor': { name: 'Pump 7.5 kW' },
  'remove saved motor': { name: 'Pump 7.5 kW' },
  'proof passed': proof,
  'proof failed': proof,
  'proof taken back': proof,
  'left the work': { stages: ['tune', 'direction'] },
  'work goes on': {},
  'write to drive': written,
  'go on writing to drive': { ...written, outcome: 'link lost' },
  'keep in drive': { kept: true },
  'lock settings': {},
  'unlock settings': { without: 'code' },
  'hold to run': run,
  'tune standstill': run,
  'tune rotating': run,
  'step test': { ...run, guide: { kind: 'step', by: 5 } },
  'steady speeds': { ...run, guide: { kind: 'speeds', speeds: [20, 30, 40] } },
  'stop over link': {},
  'tried wires': {},
  bench: { fault: { id: 'jam', trigger: 'now' }, pace: null },
  'put on the bench': { unitId: 12 },
  tripped: { code: 4, name: 'Overvoltage' },
  'trip gone': { code: 4 },
  'reset trip': {},
  'trip told': { trip: 9, code: null },
  'trip answered': { trip: 9, answers: { turnByHand: 'turns easily' } },
  'trip closed': { trip: 9, cause: 'stop too short', cure: 'Deceleration 7.7 s', proof: 'stopped three times' },
  'trip reopened': { trip: 9 },
  learn: { recording: 41, values: { inertia: { times: 1.2, spread: 0.05 } } },
  'put learning aside': { recording: null, values: null },
  'mark recording': { recording: 41, time: 3.2, label: 'valve opened' },
  'recording taken in': { recording: 42, title: 'Start of P-11' },
  'remove recording': {
    ...{ recording: 42, why: 'taken twice', title: 'Start of P-11', madeBy: 'Ines Calder', startedAt: '2026-11-23T13:05:09.000Z' },
    ...{ duration: 28, samples: 560 },
  },
  'thin recording': { recording: 41, before: 56_000, after: 2800 },
  'keep recordings': { before: { wholeDays: null, thinnedDays: null }, after: { wholeDays: 90, thinnedDays: 400 } },
  'recorder armed': { arming: { trigger: { kind: 'trip' }, channels: ['current'], before: 10, after: 20, every: 20, again: true } },
  'recorder ended': {},
  'pair device': { device: 2 },
  'put out device': { device: 2, name: 'Phone' },
};
