import type { AuditPage } from '@yare/contract';
import { proofAt, stages } from '@yare/commissioning';
import { typedFigure } from '@yare/core';
import { figureRows } from './plateFigures';

type Event = AuditPage['events'][number];

/** What was only intended is told once it is done or has failed. */
export const isTold = ({ detail }: Event): boolean => (detail as { step?: string } | null)?.step !== 'intended';

/** What an edit of a setting keeps of it; events of before the names were kept have none. */
interface Change {
  code: string;
  name?: string;
  unit?: string;
  from?: string;
  to?: string;
}

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
const testName = ({ stage, item }: Fields): string => {
  const stageName = stages.find((s) => s.path === stage)?.name ?? String(stage);
  const name = proofAt(String(stage), String(item))?.name ?? String(item);
  return name === stageName ? name : `${stageName}, ${name.toLowerCase()},`;
};

const outcomes: Readonly<Record<string, string>> = {
  kept: 'kept through power-off',
  'put back': 'put back',
  'link lost': 'broken off, link lost',
};

/** An audit event as a sentence: what, from, to. */
export function sentenceOf({ action, tag, detail }: Event): string {
  const d = detail as Record<string, unknown>;
  const count = (list: unknown) => (Array.isArray(list) ? list.length : 0);
  const plural = (n: number, word: string) => `${n} ${word}${n === 1 ? '' : 's'}`;
  switch (action) {
    case 'seed':
      return `Demo plant with ${String(d.machines)} machines`;
    case 'new machine':
      return `${tag}: added as “${String(d.name)}”`;
    case 'record':
      return `${tag}: name, area or address changed`;
    case 'edit draft':
      return `${tag} draft: ${listed((d.changes as Change[]).map(changeText))}`;
    case 'edit plate':
      return `${tag} nameplate: ${listed(fieldChanges(d.before, d.after, plateLabels)) || 'set'}`;
    case 'edit wiring':
      return `${tag} wiring: ${listed(fieldChanges(d.before, d.after, wiringLabels)) || 'set'}`;
    case 'tried wires':
      return `${tag} wires tried, command given back`;
    case 'survey':
    case 'edit survey':
      return `${tag} survey: ${listed(fieldChanges(d.before, d.after, surveyLabels)) || 'set'}`;
    case 'proof passed':
      return `${tag}: ${testName(d)} proved: ${String(d.measured)}`;
    case 'proof failed':
      return `${tag}: ${testName(d)} failed: ${String(d.measured)}`;
    case 'proof taken back':
      return `${tag}: ${testName(d)} undone`;
    case 'tripped':
      return `${tag} tripped: ${String(d.name)}`;
    case 'reset trip':
      return `${tag}: trip reset${d.step === 'failed' ? ', which failed' : ''}`;
    case 'trip told':
      return `${tag}: trip entered by hand${d.code === null ? '' : `, code ${String(d.code)}`}`;
    case 'trip answered':
      return `${tag}: trip ${String(d.trip)}, measured: ${Object.keys((d.answers as object | undefined) ?? {}).length}`;
    case 'trip closed':
      return `${tag}: trip ${String(d.trip)} closed: ${String(d.cure)}`;
    case 'trip reopened':
      return `${tag}: trip ${String(d.trip)} opened again`;
    case 'note':
      return `${tag}: note changed`;
    case 'write to drive':
      return `${tag}: ${plural(count(d.codes), 'setting')} written to the drive, ${outcomes[String(d.outcome)] ?? String(d.outcome)}`;
    case 'hold to run':
      return `${tag}: held to run at ${String(d.frequency)} Hz`;
    case 'stop over link':
      return `${tag}: stopped over the link`;
    case 'keep in drive':
      return `${tag}: settings kept through power-off${d.step === 'failed' ? ', which failed' : d.kept === false ? ', which it refused' : ''}`;
    case 'pair device':
      return 'Device paired';
    case 'put out device':
      return `Device removed: ${String(d.name)}`;
    case 'remove photo':
      return `${tag}: photo of the plate removed`;
    case 'remove recording':
      return `${tag}: recording ${String(d.recording)} removed: ${String(d.why)}`;
    case 'thin recording':
      return `${tag}: recording ${String(d.recording)} thinned, ${String(d.after)} of ${String(d.before)} samples kept`;
    case 'keep recordings':
      return 'How long recordings are kept was changed';
    case 'unlock settings':
      return `${tag}: settings lock opened${d.without ? ' without its code' : ''}`;
    case 'lock settings':
      return `${tag}: settings locked`;
    case 'mark recording':
      return `${tag}: mark “${String(d.label)}” in recording ${String(d.recording)}`;
    case 'recorder armed':
    case 'recorder ended':
      return `${tag}: ${action}`;
    case 'recording taken in':
      return `${tag}: recording ${String(d.recording)} taken in from a file, “${String(d.title)}”`;
    case 'history of the demo plant':
      return `Demo plant: ${String(d.trips)} trips of before put on record`;
    default:
      return `${tag ?? ''} ${action}`.trim();
  }
}
