import type { ActCode, ActDetail, ActStep, AuditPage } from '@yare/contract';
import { typedFigure } from '@yare/core/units';
import { factsText } from '@yare/words';
import { leftOpen, testName } from '@yare/words/stages';
import { say } from '@yare/words/log';
import { figureRows } from './plateFigures';

type Event = AuditPage['events'][number];

/** What was only intended is told once it is done or has failed. */
export const isTold = ({ detail }: Event): boolean => (detail as { step?: string } | null)?.step !== 'intended';

type Change = ActDetail<'edit draft'>['changes'][number];

/** How many changes of one edit are told one by one. */
const mostTold = 3;
const listed = (changes: string[]): string =>
  changes.length > mostTold
    ? say.andMore({ changes: changes.slice(0, mostTold).join('; '), changes2: changes.length - mostTold })
    : changes.join('; ');

const changeText = ({ code, name, unit = '', from, to }: Change): string =>
  name === undefined ? code : say.text({ name, from, to: to ?? '', unit }).trim();

type Fields = Record<string, unknown>;
const surveyLabels: Readonly<Record<string, readonly [label: string, unit: string]>> = {
  voltage: [say.supplyVoltage, 'V'],
  frequency: [say.supplyFrequency, say.hz],
  phases: [say.phases, ''],
  ambient: [say.ambient, '°C'],
  altitude: [say.altitude, 'm'],
  cableLength: [say.motorCable, 'm'],
  why: [say.reasonForTheWork, ''],
  screened: [say.screenedCable, ''],
  insulation: [say.insulationReading, ''],
  lineVoltages: [say.lineVoltages, 'V'],
  driven: [say.whatItDrives, ''],
};
const plateLabels: Readonly<Record<string, readonly [label: string, unit: string]>> = Object.fromEntries(
  figureRows.map((r) => [r.field, [r.label, r.unit] as const]),
);

const wiringLabels: typeof surveyLabels = { inputs: [say.whatHangsAtTheInputs, ''], unit: [say.theUnitOfSpeed, ''] };

/** What a field of a plate or a survey is called on the screen, with its unit. */
export const fieldName = (kind: 'plate' | 'survey' | 'wiring', field: string): readonly [label: string, unit: string] =>
  ({ plate: plateLabels, survey: surveyLabels, wiring: wiringLabels })[kind][field] ?? [field, ''];

/** A value as it is written; empty for what has parts. */
export const valueText = (value: unknown): string => {
  if (value === null || value === undefined || value === '') return '–';
  if (typeof value === 'number') return typedFigure(value);
  return typeof value === 'string' ? value : typeof value === 'boolean' ? (value ? 'yes' : 'no') : '';
};

/** What changed between two of a kind, by the labels of its fields. */
function fieldChanges(before: unknown, after: unknown, labels: typeof surveyLabels): string[] {
  const [a, b] = [before, after].map((x) => (typeof x === 'object' && x !== null ? (x as Fields) : {}));
  return Object.keys({ ...a, ...b })
    .filter((k) => JSON.stringify(a?.[k] ?? null) !== JSON.stringify(b?.[k] ?? null))
    .map((k) => {
      const [label, unit] = labels[k] ?? [k, ''];
      const [from, to] = [valueText(a?.[k]), valueText(b?.[k])];
      return to === '' || from === '' ? say.changed({ label }) : `${label} ${from} → ${to} ${unit}`.trim();
    });
}

const loggedProof = ({ facts, measured }: ActDetail<'proof passed'>, passed: boolean): string => measured ?? (facts ? factsText(facts, passed) : '');

const outcomes: Readonly<Partial<Record<ActDetail<'write to drive'>['outcome'], string>>> = {
  kept: say.keptThroughPowerOff,
  'link lost': say.brokenOffLinkLost,
};
const count = (n: number, word: string) => say.text2({ n, word });
const failed = ({ step }: Partial<ActStep>) => step === 'failed';
const changed = (what: string, { before, after }: { before: unknown; after: unknown }, labels: typeof surveyLabels) =>
  `${what}: ${listed(fieldChanges(before, after, labels)) || 'set'}`;
const written = (how: string) => (d: ActDetail<'write to drive'>, tag: string) =>
  say.toTheDrive({ tag, count: count(d.codes.length, 'setting'), how, outcomes: outcomes[d.outcome] ?? d.outcome });

const benchText = ({ fault, pace, drill }: ActDetail<'bench'>): string =>
  [
    fault && (fault.trigger === null ? say.faultPutRight({ id: fault.id }) : say.faultSet({ id: fault.id, trigger: fault.trigger })),
    pace && say.timesAsFast({ pace }),
    drill && (drill === 'begin' ? say.aHiddenFaultSetTo : say.hiddenFaultToldAndPut),
  ]
    .filter(Boolean)
    .join('; ');

type Line<A extends ActCode> = (detail: ActDetail<A> & Partial<ActStep>, tag: string) => string;

/** What is told of a machine without more. */
const told =
  (what: string) =>
  (_: unknown, tag: string): string =>
    `${tag}: ${what}`;

/** What each act is called. */
const lines: { readonly [A in ActCode]: Line<A> } = {
  'demo plant brought up to date': told(say.demoMachineBroughtUpTo),
  'new machine': (d, tag) => say.addedAs({ tag, name: d.name }),
  record: told(say.nameAreaOrAddressChanged),
  note: told(say.noteChanged),
  'edit draft': (d, tag) => say.draft({ tag, listed: listed(d.changes.map(changeText)) }),
  'edit plate': (d, tag) => changed(say.nameplate({ tag }), d, plateLabels),
  'edit survey': (d, tag) => changed(say.survey({ tag }), d, surveyLabels),
  'edit wiring': (d, tag) => changed(say.wiring({ tag }), d, wiringLabels),
  drive: (d, tag) => say.driveOnRecordChangedTo({ tag, string: String(d.to[1]) }),
  'photo of the plate': told(say.photoOfThePlateTaken),
  'remove photo': told(say.photoOfThePlateRemoved),
  'proof passed': (d, tag) => say.proved({ tag, testName: testName(d.stage, d.item), loggedProof: loggedProof(d, true) }),
  'proof failed': (d, tag) => say.failed({ tag, testName: testName(d.stage, d.item), loggedProof: loggedProof(d, false) }),
  'proof taken back': (d, tag) => say.undone({ tag, testName: testName(d.stage, d.item) }),
  'left the work': (d, tag) => say.workLeftOpen({ tag, stages: d.stages ? leftOpen({ stages: d.stages, told: null }) : (d.measured ?? '') }),
  'work goes on': told(say.theWorkGoesOn),
  'write to drive': written('written'),
  'go on writing to drive': written(say.writtenGoingOnWhereIt),
  'keep in drive': (d, tag) => say.settingsKeptThroughPowerOff({ tag, failed: failed(d), kept: d.kept === false }),
  'lock settings': told(say.settingsLocked),
  'unlock settings': (d, tag) => say.settingsLockOpenedWithoutIts({ tag, without: d.without }),
  'hold to run': (d, tag) => say.heldToRunAtHz({ tag, frequency: d.frequency }),
  'tune standstill': told(say.motorMeasuredAtStandstill),
  'tune rotating': told(say.motorMeasuredTurning),
  'step test': told(say.stepTestRun),
  'steady speeds': told(say.runAtSteadySpeeds),
  'stop over link': told(say.stoppedOverTheLink),
  'tried wires': told(say.wiresTriedCommandGivenBack),
  bench: (d, tag) => say.benchWhichFailed({ tag, benchText: benchText(d), failed: failed(d) }),
  'put on the bench': (d, tag) => say.putOnTheBenchWhich({ tag, failed: failed(d) }),
  tripped: (d, tag) => say.tripped({ tag, name: d.name }),
  'trip gone': told(say.theTripIsGone),
  'reset trip': (d, tag) => say.tripResetWhichFailed({ tag, failed: failed(d) }),
  'trip told': (d, tag) => say.tripEnteredByHand({ tag, code: d.code }),
  'trip answered': (d, tag) => say.tripMeasured({ tag, trip: d.trip, keys: Object.keys(d.answers).length }),
  'trip closed': (d, tag) => say.tripClosed({ tag, trip: d.trip, cure: d.cure }),
  'trip reopened': (d, tag) => say.tripOpenedAgain({ tag, trip: d.trip }),
  learn: (d, tag) => say.learnedFromRecording({ tag, recording: d.recording ?? '–' }),
  'put learning aside': told(say.whatWasLearnedWasPut),
  'mark recording': (d, tag) => say.markInRecording({ tag, label: d.label, recording: d.recording }),
  'recording taken in': (d, tag) => say.recordingTakenInFromA({ tag, recording: d.recording, title: d.title }),
  'remove recording': (d, tag) => say.recordingRemoved({ tag, recording: d.recording, why: d.why }),
  'thin recording': (d, tag) => say.recordingThinnedOfSamplesKept({ tag, recording: d.recording, after: d.after, before: d.before }),
  'recorder armed': told('recorder armed'),
  'recorder ended': told('recorder ended'),
  // of no machine
  seed: (d) => say.demoPlantWith({ count: count(d.machines, 'machine') }),
  'history of the demo plant': (d) => say.demoPlantOfBeforePut({ count: count(d.trips, 'trip') }),
  'save motor': (d) => say.motorSaved({ name: d.name }),
  'remove saved motor': (d) => say.savedMotorRemoved({ name: d.name }),
  'keep recordings': () => say.howLongRecordingsAreKept,
  'pair device': () => say.devicePaired,
  'put out device': (d) => say.deviceRemoved({ name: d.name }),
};

/** An act of the log as a sentence: what, from, to. One of an older log that is no longer known stands as it was noted. */
export function sentenceOf({ action, tag, detail }: Event): string {
  const line = Object.entries(lines).find(([code]) => code === (action === 'survey' ? 'edit survey' : action))?.[1];
  const noted = `${tag ?? ''} ${action}`.trim();
  try {
    return line ? (line as (detail: unknown, tag: string) => string)(detail, tag ?? say.aMachineOfBefore) : noted;
  } catch {
    // an older log kept less of it
    return noted;
  }
}
