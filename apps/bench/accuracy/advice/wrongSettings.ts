import type { DriveSettings, Setting } from '@yare/books';
import { refuseValue, storedValue } from '@yare/books';
import { afterWay, stageFindings, waysOut, type Checked, type Remedy, type StageFinding } from '@yare/commissioning';
import {
  GuardAction,
  InputJob,
  NoFlowSource,
  OutputJob,
  StartContact,
  StopMode,
  Switch,
  type Random,
  type SettingRole,
  type StampedPlate,
  nth,
} from '@yare/core';
import { demoDraft, demoMachine, type DemoMachine } from '@yare/demo-plant';

/** A machine's figures while its advice is taken: what is drafted, and what is typed from its plate. */
export interface Figures {
  settings: DriveSettings;
  plate: StampedPlate;
}

const checked = (demo: DemoMachine, { settings, plate }: Figures): Checked => ({ settings, plate, supply: demo.supply, driven: demo.driven });

export const findingsOf = (demo: DemoMachine, now: Figures): StageFinding[] => stageFindings(checked(demo, now));

/** Which finding it is, wherever it stands. */
export const keyOf = (f: StageFinding): string => `${f.stage}/${f.id}`;
/** What is offered, without its figures. */
export const offerOf = (f: StageFinding, way: Remedy): string => `${keyOf(f)}: ${way.label.replace(/[\d.,]+/g, '…')}`;

/** What is offered about one of the findings of these figures, as the page offers it. */
export const waysOf = (demo: DemoMachine, now: Figures, found: readonly StageFinding[], f: StageFinding): Remedy[] =>
  waysOut(checked(demo, now), found, f);
/** What one tap does by itself; the others lead to a page. */
export const acts = (w: Remedy): boolean => (w.changes?.length ?? 0) > 0 || w.plate !== undefined;

export const taken = (demo: DemoMachine, now: Figures, way: Remedy): Figures => afterWay(checked(demo, now), way);

const most = 12;

/** The demo machine as somebody leaves it who has taken the first way out of everything that was found. */
export function sound(tag: string): Figures {
  const demo = demoMachine(tag);
  let now: Figures = { settings: demoDraft(demo), plate: demo.plate };
  for (let i = 0; i < most; i++) {
    const found = findingsOf(demo, now).filter((f) => f.severity !== 'good');
    const way = found.flatMap((f) => waysOf(demo, now, found, f)).find(acts);
    if (!way) return now;
    now = taken(demo, now, way);
  }
  throw new Error(`${tag}: taking every way out comes to no end`);
}

const logBetween = (r: Random, low: number, high: number): number => low * (high / low) ** r.uniform();

/** A value somebody might have left there: an end of the range, another choice, anything between. */
function wrongValue(s: Setting, now: number, r: Random): number {
  if (s.options) return s.options[Math.floor(r.uniform() * s.options.length)]?.value ?? now;
  const x = r.uniform();
  if (x < 0.15) return s.min;
  if (x < 0.3) return s.max;
  if (x < 0.65) return s.min + (s.max - s.min) * r.uniform();
  return Math.min(s.max, Math.max(s.min, (now === 0 ? s.step : now) * logBetween(r, 0.2, 5)));
}

/** What differs from one sound machine to the next, and by how much. */
const harmless: ReadonlyArray<readonly [SettingRole, number, number]> = [
  ['accelerationTime', 1, 1.6],
  ['decelerationTime', 1, 1.6],
  ['sleepDelay', 0.8, 1.2],
  ['wakeFall', 0.8, 1.5],
  ['wakeDelay', 1, 2],
  ['proportionalGain', 0.7, 1.3],
  ['integralTime', 0.8, 1.4],
  ['preset2', 0.95, 1.05],
];

/** The same machine as another hand would have set it, nothing wrong with it either. */
export function varied({ settings, plate }: Figures, r: Random): Figures {
  const changes = harmless.flatMap(([role, low, high]) => {
    const now = settings.role(role);
    return now === null || now === 0 ? [] : settings.change(role, now * (low + (high - low) * r.uniform()));
  });
  return { plate, settings: settings.with({ ...settings.values, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) }) };
}

/** What is not set by hand, or is nobody's mistake to make. */
const leftAlone: ReadonlySet<SettingRole> = new Set(['settingsLock', 'linkAddress', 'phaseOrder']);

/** Faults that take several settings, or one that chance seldom finds: what is put to use without what belongs to it. In the figures of their roles. */
const together: ReadonlyArray<Partial<Record<SettingRole, number>>> = [
  { sleepBoost: 0.2, highPressureLevel: 0.5 },
  { shutLoad: 0.4, dryRunLevel: 0.6, dryRunDelay: 90, noFlowDelay: 60, noFlowAction: GuardAction.trip, noFlowSource: NoFlowSource.load },
  { loadCurve1: 0.2, loadCurve2: 0.5, loadCurve3: 0.9, highLoadLevel: 1.04 },
  { loadCurve1: 0.2, loadCurve2: 0.5, loadCurve3: 0.9, lowLoadLevel: 0.96 },
  { noFlowDelay: 60, shutLoad: 0.4, noFlowSource: NoFlowSource.load, noFlowAction: GuardAction.rest, guardTries: 0 },
  { fillFrequency: 30, fillLevel: 0.6 },
  { cleanStrokes: 3, cleanAtLoad: 1, highLoadLevel: 0 },
  { chopper: Switch.on, chopperLevel: 900 },
  { thresholdFrequency: 400 },
  { wakeFall: 0.002 },
  { wakeFall: 0.95 },
  { sleepFrequency: 25 },
  { noFlowSource: NoFlowSource.flowSwitch, noFlowDelay: 60, shutLoad: 0.4 },
  { holdingBrake: Switch.on, stopMode: StopMode.coast },
  { emergencySense: 1, startContact: StartContact.level },
];

/** A plate read or entered wrongly. */
const slips: ReadonlyArray<(plate: StampedPlate) => Partial<StampedPlate>> = [
  (p) => ({ voltage: Math.round(p.voltage / Math.sqrt(3)), connection: p.connection === 'star' ? 'delta' : 'star' }),
  (p) => ({ voltage: Math.round(p.voltage * Math.sqrt(3)) }),
  (p) => ({ connection: p.connection === 'star' ? 'delta' : 'star' }),
  () => ({ base: 'raised' }),
];

/** The first output given the job of the threshold, for what is set wrong about it. */
function withThreshold(settings: DriveSettings, values: Record<string, number>): void {
  const [output] = settings.outputs;
  const job = output && settings.valueFor(output, OutputJob.aboveThreshold);
  if (output && job !== null && job !== undefined) values[output.code] = job;
}

/** A job of its own in local, so that one input does two. */
function withLocal(settings: DriveSettings, values: Record<string, number>, r: Random): void {
  const [local, other] = [...settings.inputs].sort(() => r.uniform() - 0.5);
  const own = other && settings.localOf(other);
  const job = local && settings.valueFor(local, InputJob.local);
  const run = own && settings.valueFor(own, InputJob.runForward);
  if (!local || !own || typeof job !== 'number' || typeof run !== 'number') return;
  values[local.code] = job;
  values[own.code] = run;
}

/** How often a fault of several settings is made, and a plate misread. */
const often = { together: 0.3, local: 0.05, slips: 0.1 };

/** One to four settings set otherwise than they should be, or a plate misread. */
export function misset({ settings, plate }: Figures, r: Random, most = 4): Figures {
  const may = settings.all.filter((s) => s.access !== 'read' && s.role && !leftAlone.has(s.role));
  const values = { ...settings.values };
  const put = (s: Setting, figure: number) => {
    const value = storedValue(s, Math.min(s.max, Math.max(s.min, figure)));
    if (refuseValue(s, value) === null) values[s.code] = value;
  };
  const n = Math.min(most, 1 + Math.floor(4 * r.uniform() ** 2));
  for (let i = 0; i < n; i++) {
    const s = nth(may, Math.floor(r.uniform() * may.length));
    put(s, wrongValue(s, settings.value(s), r));
  }
  if (r.uniform() < often.together) {
    const roles = nth(together, Math.floor(r.uniform() * together.length));
    for (const [role, x] of Object.entries(roles)) {
      const s = settings.find(role as SettingRole);
      const figure = s && settings.valueFor(s, x ?? 0);
      if (s && typeof figure === 'number') put(s, figure);
    }
    if (roles.thresholdFrequency !== undefined) withThreshold(settings, values);
  }
  if (r.uniform() < often.local) withLocal(settings, values, r);
  const slip = r.uniform() < often.slips ? nth(slips, Math.floor(r.uniform() * slips.length))(plate) : {};
  return { settings: settings.with(values), plate: { ...plate, ...slip } };
}
