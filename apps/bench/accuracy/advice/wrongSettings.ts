import type { DriveSettings, Setting } from '@yare/books';
import { refuseValue, storedValue } from '@yare/books';
import { stageFindings, type Finding, type StageFinding } from '@yare/commissioning';
import type { Random, SettingRole, StampedPlate } from '@yare/core';
import { demoDraft, demoMachine, type DemoMachine } from '@yare/demo-plant';

/** A machine's figures while its advice is taken: what is drafted, and what is typed from its plate. */
export interface Figures {
  settings: DriveSettings;
  plate: StampedPlate;
}

export type Way = NonNullable<Finding['remedy']>;

export const findingsOf = (demo: DemoMachine, { settings, plate }: Figures): StageFinding[] =>
  stageFindings({ settings, plate, supply: demo.supply, driven: demo.driven });

/** Which finding it is, wherever it stands. */
export const keyOf = (f: StageFinding): string => `${f.stage}/${f.id}`;
/** What is offered, without its figures. */
export const offerOf = (f: StageFinding, way: Way): string => `${keyOf(f)}: ${way.label.replace(/[\d.,]+/g, '…')}`;

export const waysOf = (f: StageFinding): Way[] => [f.remedy, ...(f.more ?? [])].filter((w) => w !== undefined);
/** What one tap does by itself; the others lead to a page. */
export const acts = (w: Way): boolean => (w.changes?.length ?? 0) > 0 || w.plate !== undefined;

export const taken = ({ settings, plate }: Figures, way: Way): Figures => ({
  settings: settings.with({ ...settings.values, ...Object.fromEntries((way.changes ?? []).map((c) => [c.code, c.value])) }),
  plate: { ...plate, ...way.plate },
});

const most = 12;

/** The demo machine as somebody leaves it who has taken the first way out of everything that was found. */
export function sound(tag: string): Figures {
  const demo = demoMachine(tag);
  let now: Figures = { settings: demoDraft(demo), plate: demo.plate };
  for (let i = 0; i < most; i++) {
    const way = findingsOf(demo, now)
      .filter((f) => f.severity !== 'good')
      .flatMap(waysOf)
      .find(acts);
    if (!way) return now;
    now = taken(now, way);
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

/** What is not set by hand, or is nobody's mistake to make. */
const leftAlone: ReadonlySet<SettingRole> = new Set(['settingsLock', 'linkAddress', 'phaseOrder']);

/** One to four settings set otherwise than they should be. */
export function misset(settings: DriveSettings, r: Random): DriveSettings {
  const may = settings.all.filter((s) => s.access !== 'read' && s.role && !leftAlone.has(s.role));
  const values = { ...settings.values };
  const n = 1 + Math.floor(4 * r.uniform() ** 2);
  for (let i = 0; i < n; i++) {
    const s = may[Math.floor(r.uniform() * may.length)]!;
    const value = storedValue(s, wrongValue(s, settings.value(s), r));
    if (refuseValue(s, value) === null) values[s.code] = value;
  }
  return settings.with(values);
}
