import type { DriveSettings, SettingChange } from '@yare/books';
import {
  busAtRest,
  formatFigure,
  HealthyContact,
  AnalogueSignal,
  StartMode,
  type Circuit,
  type SettingRole,
  type StampedPlate,
  type Supply,
  type TripCause,
} from '@yare/core';
import type { RemedyKind } from '@yare/core/trips';
import { say } from '@yare/words/trips';

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

/** What a remedy is worked out from. */
export interface RemedyGrounds {
  settings: DriveSettings;
  plate: StampedPlate;
  supply: Supply;
  trip: TripCause;
  /** s of the shortest stop that is safe, as Motion offers it; null while it is worked out */
  shortest: number | null;
  /** of the motor; null where its plate makes none */
  circuit: Pick<Circuit, 'r1'> | null;
  /** what the sensor's label says it gives, where somebody has read it */
  signalType?: string | undefined;
}

/** Ways to set a drive so that a trip of this cause does not come again; none where nothing is set about it. */
export function remediesOf(kind: RemedyKind, g: RemedyGrounds): TripRemedy[] {
  if (kind !== 'signal as wired') return [remedyOf(kind, g)].filter((r) => r !== null);
  const ways = { '0 to 20 mA': AnalogueSignal.zeroTo20, '0 to 10 V': AnalogueSignal.volts } as const;
  return Object.entries(ways)
    .filter(([type]) => g.signalType === undefined || !(g.signalType in ways) || g.signalType === type)
    .flatMap(([, signal]): TripRemedy[] => {
      const changes = g.settings.change('analogueSignal', signal).filter((x) => x.value !== g.settings.values[x.code]);
      const [first] = changes;
      const option = first && g.settings.at(first.code)?.options?.find((o) => o.value === first.value);
      return option ? [{ changes, label: say.analogueInputIfItsLabel({ label: option.label }), stop: false }] : [];
    });
}

/** Share of rated volts that the stator's resistance takes at rated current: what a boost is for. */
const statorDrop = ({ plate, circuit }: RemedyGrounds): number | null => circuit && (Math.sqrt(3) * plate.current * circuit.r1) / plate.voltage;

function remedyOf(kind: RemedyKind, g: RemedyGrounds): TripRemedy | null {
  const { settings, plate, supply, trip, shortest } = g;
  const set = (role: SettingRole, x: number, told: (text: string) => string, stop = false): TripRemedy | null => {
    const changes = settings.change(role, x).filter((c) => c.value !== settings.values[c.code]);
    const [first] = changes;
    const s = first && settings.at(first.code);
    if (!first || !s) return null;
    const text = s.options ? (s.options.find((o) => o.value === first.value)?.label ?? '') : `${formatFigure(first.value, s.decimals)} ${s.unit}`;
    return { changes, label: told(text), stop };
  };
  const drive = settings.parameters();
  const rating = settings.hardware();
  const guard = guards[trip];
  switch (kind) {
    case 'longer stop': {
      if (shortest === null) return null;
      const time = Math.max(shortest, drive.decelerationTime * 1.1);
      return set('decelerationTime', time < 10 ? Math.ceil(10 * time) / 10 : Math.ceil(time), (t) => say.decelerationTime({ t }), true);
    }
    case 'chopper below the trip': {
      const rest = busAtRest(supply);
      const level = Math.round((rest + chopperAt * (rating.overvoltageTrip - rest)) / 5) * 5;
      return set('chopperLevel', level, (t) => say.chopperActsAt({ t }), true);
    }
    case 'overload as stamped':
      return set('overloadCurrent', plate.current, (t) => say.overloadCurrent({ t }));
    case 'less boost':
      // what the stator takes at rated current is what a boost makes up for; a small motor drops a tenth there
      return set('startBoost', Math.min(0.8 * drive.startBoost, statorDrop(g) ?? 0.02), (t) => say.startBoost({ t }));
    case 'more boost':
      return set('startBoost', Math.max(1.2 * drive.startBoost, statorDrop(g) ?? 0.03), (t) => say.startBoost({ t }));
    case 'longer run-up':
      return set('accelerationTime', Math.max(3, 3 * drive.accelerationTime), (t) => say.accelerationTime({ t }));
    case 'higher limit':
      return set('currentLimit', Math.min(1.5 * plate.current, 1.5 * rating.current), (t) => say.currentLimit({ t }));
    case 'longer time-out':
      return set('linkTimeout', Math.max(1, 3 * drive.linkTimeout), (t) => say.linkTimeOut({ t }));
    case 'contact as wired':
      return set('externalTripSense', HealthyContact.closed, (t) => say.externalTrip({ t }));
    case 'guard further out': {
      const now = guard?.level ? settings.role(guard.level) : null;
      return guard?.level && now !== null ? set(guard.level, now * guard.out, (t) => say.guardAt({ t })) : null;
    }
    case 'guard later': {
      const now = guard ? settings.role(guard.delay) : null;
      return guard && now !== null ? set(guard.delay, Math.max(10, 2 * now), (t) => say.guardWaits({ t })) : null;
    }
    case 'motor as stamped': {
      const changes = settings
        .plate(plate)
        .flatMap(({ code, value }): SettingChange[] => (settings.values[code] === value ? [] : [{ code, value, source: 'plate' }]));
      return changes.length > 0 ? { changes, label: say.figuresOfThePlate({ changes: changes.length }), stop: false } : null;
    }
    case 'overspeed further out':
      return set('overspeedLevel', 1.15, (t) => say.overspeedAt({ t }));
    case 'catch it':
      return set('startMode', StartMode.catchSpinning, (t) => say.start({ t }));
    case 'settings agree':
      return set('minimumFrequency', 0, (t) => say.minimumFrequency({ t }));
    case 'ride through':
      return set('autoRestarts', 3, (t) => say.automaticRestartsAfterSuchA({ t }));
    default:
      return null;
  }
}
