import type { DriveSettings, SettingChange } from '@yare/books';
import {
  busAtRest,
  formatFigure,
  HealthyContact,
  AnalogueSignal,
  type SettingRole,
  type StampedPlate,
  type Supply,
  type TripCause,
} from '@yare/core';
import type { RemedyKind } from '@yare/core/trips';

/** Share by which a stop is set longer than the shortest the model makes. */
const stopMargin = 1.25;

/** A change of settings that cures a cause, with the stage it belongs to; no changes where the cure is at the machine. */
export interface TripRemedy {
  changes: SettingChange[];
  /** what is set, as a line */
  label: string;
  /** a stop is looked ahead to before and after */
  stop: boolean;
}

const guards: Partial<Record<TripCause, { level?: SettingRole; delay: SettingRole; out: number }>> = {
  noFlow: { delay: 'noFlowDelay', out: 1 },
  dryRun: { level: 'dryRunLevel', delay: 'dryRunDelay', out: 0.8 },
  lowLoad: { level: 'lowLoadLevel', delay: 'lowLoadDelay', out: 0.75 },
  highLoad: { level: 'highLoadLevel', delay: 'highLoadDelay', out: 1.3 },
  highPressure: { level: 'highPressureLevel', delay: 'highPressureDelay', out: 1.15 },
  lowPressure: { level: 'lowPressureLevel', delay: 'lowPressureDelay', out: 0.8 },
  notFilled: { delay: 'fillTime', out: 1 },
};

/** Shares between the bus at rest and its trip level at which a chopper is set to act. */
const chopperAt = 0.72;

/**
 * What the draft needs so that a trip of this cause does not come again; null where nothing is set about it.
 * @param shortest s of the shortest stop by the model, or null while it is worked out
 */
export function remedyOf(
  kind: RemedyKind,
  {
    settings,
    plate,
    supply,
    trip,
    shortest,
  }: { settings: DriveSettings; plate: StampedPlate; supply: Supply; trip: TripCause; shortest: number | null },
): TripRemedy | null {
  const set = (role: SettingRole, x: number, say: (text: string) => string, stop = false): TripRemedy | null => {
    const changes = settings.change(role, x).filter((c) => c.value !== settings.values[c.code]);
    const [first] = changes;
    const s = first && settings.at(first.code);
    if (!first || !s) return null;
    const text = s.options ? (s.options.find((o) => o.value === first.value)?.label ?? '') : `${formatFigure(first.value, s.decimals)} ${s.unit}`;
    return { changes, label: say(text), stop };
  };
  const drive = settings.parameters();
  const rating = settings.hardware();
  const guard = guards[trip];
  switch (kind) {
    case 'longer stop': {
      if (shortest === null) return null;
      const time = Math.max(shortest * stopMargin, drive.decelerationTime * 1.1);
      return set('decelerationTime', time < 10 ? Math.ceil(10 * time) / 10 : Math.ceil(time), (t) => `Deceleration time ${t}`, true);
    }
    case 'chopper below the trip': {
      const rest = busAtRest(supply);
      const level = Math.round((rest + chopperAt * (rating.overvoltageTrip - rest)) / 5) * 5;
      return set('chopperLevel', level, (t) => `Chopper acts at ${t}`, true);
    }
    case 'overload as stamped':
      return set('overloadCurrent', plate.current, (t) => `Overload current ${t}`);
    case 'less boost':
      return set('startBoost', 0.02, (t) => `Start boost ${t}`);
    case 'more boost':
      return set('startBoost', Math.min(0.06, Math.max(0.03, 2 * drive.startBoost)), (t) => `Start boost ${t}`);
    case 'longer run-up':
      return set('accelerationTime', Math.max(3, 3 * drive.accelerationTime), (t) => `Acceleration time ${t}`);
    case 'higher limit':
      return set('currentLimit', Math.min(1.5 * plate.current, 1.5 * rating.current), (t) => `Current limit ${t}`);
    case 'longer time-out':
      return set('linkTimeout', Math.max(1, 3 * drive.linkTimeout), (t) => `Link time-out ${t}`);
    case 'signal as wired':
      return set('analogueSignal', AnalogueSignal.zeroTo20, (t) => `Analogue input ${t}`);
    case 'contact as wired':
      return set('externalTripSense', HealthyContact.closed, (t) => `External trip: ${t}`);
    case 'guard further out': {
      const now = guard?.level ? settings.role(guard.level) : null;
      return guard?.level && now !== null ? set(guard.level, now * guard.out, (t) => `Guard at ${t}`) : null;
    }
    case 'guard later': {
      const now = guard ? settings.role(guard.delay) : null;
      return guard && now !== null ? set(guard.delay, Math.max(10, 2 * now), (t) => `Guard waits ${t}`) : null;
    }
    case 'motor as stamped': {
      const changes = settings
        .plate(plate)
        .flatMap(({ code, value }): SettingChange[] => (settings.values[code] === value ? [] : [{ code, value, source: 'plate' }]));
      return changes.length > 0 ? { changes, label: `${changes.length} figures of the plate`, stop: false } : null;
    }
    case 'overspeed further out':
      return set('overspeedLevel', 1.15, (t) => `Overspeed at ${t}`);
    case 'settings agree':
      return set('minimumFrequency', 0, (t) => `Minimum frequency ${t}`);
    case 'ride through':
      return set(
        'autoRestarts',
        3,
        (t) => `Automatic restarts ${t}: after such a trip the machine then starts by itself, so only where nobody can be hurt by it`,
      );
    default:
      return null;
  }
}
