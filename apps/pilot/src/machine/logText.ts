import type { ActCode, ActDetail, ActStep, AuditPage } from '@yare/contract';
import { typedFigure } from '@yare/core/units';
import { factsText } from '@yare/words';
import { leftOpen, proofName, stageName } from '@yare/words/stages';
import { figureRows } from './plateFigures';

type Event = AuditPage['events'][number];

/** What was only intended is told once it is done or has failed. */
export const isTold = ({ detail }: Event): boolean => (detail as { step?: string } | null)?.step !== 'intended';

type Change = ActDetail<'edit draft'>['changes'][number];

/** How many changes of one edit are told one by one. */
const mostTold = 3;
const listed = (changes: string[]): string =>
  changes.length > mostTold ? `${changes.slice(0, mostTold).join('; ')}; and ${changes.length - mostTold} more` : changes.join('; ');

const changeText = ({ code, name, unit = '', from, to }: Change): string =>
  name === undefined ? code : `${name} ${from === undefined ? '' : `${from} → `}${to ?? ''} ${unit}`.trim();

type Fields = Record<string, unknown>;
const surveyLabels: Readonly<Record<string, readonly [label: string, unit: string]>> = {
  voltage: ['Supply voltage', 'V'],
  frequency: ['Supply frequency', 'Hz'],
  phases: ['Phases', ''],
  ambient: ['Ambient', '°C'],
  altitude: ['Altitude', 'm'],
  cableLength: ['Motor cable', 'm'],
  why: ['Reason for the work', ''],
  screened: ['Screened cable', ''],
  insulation: ['Insulation reading', ''],
  lineVoltages: ['Line voltages', 'V'],
  driven: ['What it drives', ''],
};
const plateLabels: Readonly<Record<string, readonly [label: string, unit: string]>> = Object.fromEntries(
  figureRows.map((r) => [r.field, [r.label, r.unit] as const]),
);

const wiringLabels: typeof surveyLabels = { inputs: ['what hangs at the inputs', ''], unit: ['the unit of speed', ''] };

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
      return to === '' || from === '' ? `${label} changed` : `${label} ${from} → ${to} ${unit}`.trim();
    });
}

/** What a proof is called on its page. */
const testName = ({ stage, item }: { stage: string; item: string }): string => {
  const name = proofName(stage, item);
  return name === stageName(stage) ? name : `${stageName(stage)}, ${name.toLowerCase()},`;
};

const loggedProof = ({ facts, measured }: ActDetail<'proof passed'>, passed: boolean): string => measured ?? (facts ? factsText(facts, passed) : '');

const outcomes: Readonly<Partial<Record<ActDetail<'write to drive'>['outcome'], string>>> = {
  kept: 'kept through power-off',
  'link lost': 'broken off, link lost',
};
const count = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;
const failed = ({ step }: Partial<ActStep>) => step === 'failed';
const changed = (what: string, { before, after }: { before: unknown; after: unknown }, labels: typeof surveyLabels) =>
  `${what}: ${listed(fieldChanges(before, after, labels)) || 'set'}`;
const written = (how: string) => (d: ActDetail<'write to drive'>, tag: string) =>
  `${tag}: ${count(d.codes.length, 'setting')} ${how} to the drive, ${outcomes[d.outcome] ?? d.outcome}`;

const benchText = ({ fault, pace, drill }: ActDetail<'bench'>): string =>
  [
    fault && (fault.trigger === null ? `fault ${fault.id} put right` : `fault ${fault.id} set, ${fault.trigger}`),
    pace && `${pace} times as fast`,
    drill && (drill === 'begin' ? 'a hidden fault set to be found' : 'hidden fault told and put right'),
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
  'demo plant brought up to date': told('demo machine brought up to date'),
  'new machine': (d, tag) => `${tag}: added as “${d.name}”`,
  record: told('name, area or address changed'),
  note: told('note changed'),
  'edit draft': (d, tag) => `${tag} draft: ${listed(d.changes.map(changeText))}`,
  'edit plate': (d, tag) => changed(`${tag} nameplate`, d, plateLabels),
  'edit survey': (d, tag) => changed(`${tag} survey`, d, surveyLabels),
  'edit wiring': (d, tag) => changed(`${tag} wiring`, d, wiringLabels),
  drive: (d, tag) => `${tag}: drive on record changed to size ${String(d.to[1])}`,
  'photo of the plate': told('photo of the plate taken'),
  'remove photo': told('photo of the plate removed'),
  'proof passed': (d, tag) => `${tag}: ${testName(d)} proved: ${loggedProof(d, true)}`,
  'proof failed': (d, tag) => `${tag}: ${testName(d)} failed: ${loggedProof(d, false)}`,
  'proof taken back': (d, tag) => `${tag}: ${testName(d)} undone`,
  'left the work': (d, tag) => `${tag}: work left open: ${d.stages ? leftOpen({ stages: d.stages, told: null }) : (d.measured ?? '')}`,
  'work goes on': told('the work goes on'),
  'write to drive': written('written'),
  'go on writing to drive': written('written, going on where it broke off,'),
  'keep in drive': (d, tag) =>
    `${tag}: settings kept through power-off${failed(d) ? ', which failed' : d.kept === false ? ', which it refused' : ''}`,
  'lock settings': told('settings locked'),
  'unlock settings': (d, tag) => `${tag}: settings lock opened${d.without ? ' without its code' : ''}`,
  'hold to run': (d, tag) => `${tag}: held to run at ${d.frequency} Hz`,
  'tune standstill': told('motor measured at standstill'),
  'tune rotating': told('motor measured turning'),
  'step test': told('step test run'),
  'steady speeds': told('run at steady speeds'),
  'stop over link': told('stopped over the link'),
  'tried wires': told('wires tried, command given back'),
  bench: (d, tag) => `${tag}: bench: ${benchText(d)}${failed(d) ? ', which failed' : ''}`,
  'put on the bench': (d, tag) => `${tag}: put on the bench${failed(d) ? ', which failed' : ''}`,
  tripped: (d, tag) => `${tag} tripped: ${d.name}`,
  'trip gone': told('the trip is gone'),
  'reset trip': (d, tag) => `${tag}: trip reset${failed(d) ? ', which failed' : ''}`,
  'trip told': (d, tag) => `${tag}: trip entered by hand${d.code === null ? '' : `, code ${d.code}`}`,
  'trip answered': (d, tag) => `${tag}: trip ${d.trip}, measured: ${Object.keys(d.answers).length}`,
  'trip closed': (d, tag) => `${tag}: trip ${d.trip} closed: ${d.cure}`,
  'trip reopened': (d, tag) => `${tag}: trip ${d.trip} opened again`,
  learn: (d, tag) => `${tag}: learned from recording ${d.recording ?? '–'}`,
  'put learning aside': told('what was learned was put aside'),
  'mark recording': (d, tag) => `${tag}: mark “${d.label}” in recording ${d.recording}`,
  'recording taken in': (d, tag) => `${tag}: recording ${d.recording} taken in from a file, “${d.title}”`,
  'remove recording': (d, tag) => `${tag}: recording ${d.recording} removed: ${d.why}`,
  'thin recording': (d, tag) => `${tag}: recording ${d.recording} thinned, ${d.after} of ${d.before} samples kept`,
  'recorder armed': told('recorder armed'),
  'recorder ended': told('recorder ended'),
  // of no machine
  seed: (d) => `Demo plant with ${count(d.machines, 'machine')}`,
  'history of the demo plant': (d) => `Demo plant: ${count(d.trips, 'trip')} of before put on record`,
  'save motor': (d) => `Motor “${d.name}” saved`,
  'remove saved motor': (d) => `Saved motor “${d.name}” removed`,
  'keep recordings': () => 'How long recordings are kept was changed',
  'pair device': () => 'Device paired',
  'put out device': (d) => `Device removed: ${d.name}`,
};

/** An act of the log as a sentence: what, from, to. One of an older log that is no longer known stands as it was noted. */
export function sentenceOf({ action, tag, detail }: Event): string {
  const line = Object.entries(lines).find(([code]) => code === (action === 'survey' ? 'edit survey' : action))?.[1];
  const noted = `${tag ?? ''} ${action}`.trim();
  try {
    return line ? (line as (detail: unknown, tag: string) => string)(detail, tag ?? 'A machine of before') : noted;
  } catch {
    // an older log kept less of it
    return noted;
  }
}
