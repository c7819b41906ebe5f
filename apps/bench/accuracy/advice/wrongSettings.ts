import type { DriveSettings, Setting } from '@yare/books';
import { refuseValue, storedValue } from '@yare/books';
import { afterWay, stageFindings, waysOut, type Checked, type Remedy, type StageFinding } from '@yare/commissioning';
import type { Random, SettingRole, StampedPlate } from '@yare/core';
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

/** One to four settings set otherwise than they should be. */
export function misset(settings: DriveSettings, r: Random, most = 4): DriveSettings {
  const may = settings.all.filter((s) => s.access !== 'read' && s.role && !leftAlone.has(s.role));
  const values = { ...settings.values };
  const n = Math.min(most, 1 + Math.floor(4 * r.uniform() ** 2));
  for (let i = 0; i < n; i++) {
    const s = may[Math.floor(r.uniform() * may.length)]!;
    const value = storedValue(s, wrongValue(s, settings.value(s), r));
    if (refuseValue(s, value) === null) values[s.code] = value;
  }
  return settings.with(values);
}
