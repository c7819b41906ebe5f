import {
  estimateMachine,
  formatFigure,
  fromSi,
  gravity,
  holdingFrequency,
  toSi,
  waterDensity,
  type MachineSpec,
  type ProcessSensor,
  type PumpLoad,
  type SettingRole,
} from '@yare/core';
import { say } from '@yare/words/stages/sleep';
import { fedBy } from '../fedBy';
import { hertz, type Checked, type Finding, type Remedy } from '../checked';
import { sensorDecimals, sensorOf, sensorPercent, sensorSpan, straightIn } from '../process/scale';
import { against, defineStage, ofItems, type ProofDefinition, notNeeded } from '../stage';
import { usesProcess } from './process';

const roles: readonly SettingRole[] = [
  'sleepFrequency',
  'sleepDelay',
  'sleepBoost',
  'sleepBoostTime',
  'wakeFall',
  'wakeDelay',
  'leastRun',
  'leastRest',
];

/** It was seen to fall asleep by itself and to wake by itself. */
export const sleepsProof: ProofDefinition = {
  id: 'sleeps',
  facts: 'sleep',
  relies: { roles: [...roles, 'setpoint'] },
};

/** Share of the rated flow below which a pump is proposed to sleep, and above which falling asleep is told as too early (common practice). */
export const sleepsUnder = 0.15;
const tooEarly = 0.4;
/** Share of the range a pump usually wakes below its set point (common practice). */
const usualFall = 0.04;
/** Hz by which a sleep speed has to lie above what only just holds the set point: less is lost in the drive's own steps. */
const clearOf = 0.05;

/** The pump of a machine whose process keeps a pressure or a level. */
export interface KeptPump {
  spec: MachineSpec;
  /** with the way up the pipe in its valve's fall, where a level is kept */
  pump: PumpLoad;
  /** Pa behind it; none where a level is kept */
  pressure: number;
  sensor: ProcessSensor;
}

/** The pump that keeps a pressure or a level; null where it is none, or its plate makes no motor. */
export function keptPump(c: Checked): KeptPump | null {
  const sensor = sensorOf(c.driven);
  if (c.driven.kind !== 'pump' || (sensor?.measures !== 'pressure' && sensor?.measures !== 'level')) return null;
  const supply = fedBy(c.settings, c.supply);
  const estimate = estimateMachine(c.plate, c.driven, c.settings.parameters(), c.settings.hardware(), supply);
  if (!estimate.ok || estimate.spec.load.kind !== 'pump') return null;
  const { spec } = estimate;
  const pump = estimate.spec.load;
  if (sensor.measures === 'level') {
    const pipe = 1 / (waterDensity * gravity * pump.demand * pump.demand);
    return { spec, pump: { ...pump, valveFall: pump.valveFall + pipe }, pressure: 0, sensor };
  }
  const share = sensorPercent(straightIn(c.settings), 100 * c.settings.roleValue('setpoint')) / 100;
  const [low, high] = [toSi(sensor.low, sensor.unit), toSi(sensor.high, sensor.unit)];
  return { spec, pump, pressure: low + share * (high - low), sensor };
}

/** Hz at which a kept pump gives a share of its rated flow; with none, the least that comes while a pressure is kept, or that lifts anything. */
export const keptAt = ({ spec, pump, pressure }: KeptPump, share = 0): number => holdingFrequency(spec, pump, pressure, share * pump.bestFlow);

/** Lowest output the settings let the loop come to, Hz. */
export function lowestOutput({ settings }: Pick<Checked, 'settings'>): number {
  const { minimumFrequency, maximumFrequency } = settings.parameters();
  return Math.max(minimumFrequency, settings.roleValue('processLow') * maximumFrequency);
}

/** The output let down to a little below a sleep speed in Hz, and sleeping there. */
function lowered({ settings }: Checked, sleepsAt: number): Remedy {
  const to = Math.max(0, sleepsAt - 2);
  const { minimumFrequency, maximumFrequency } = settings.parameters();
  return {
    label: say.letTheOutputGoDown({ hertz: hertz(to), hertz2: hertz(sleepsAt) }),
    changes: [
      ...(minimumFrequency > to ? settings.change('minimumFrequency', to, 'worked out') : []),
      ...(settings.roleValue('processLow') * maximumFrequency > to ? settings.change('processLow', to / maximumFrequency, 'worked out') : []),
      ...settings.change('sleepFrequency', Math.round(10 * sleepsAt) / 10, 'worked out'),
    ],
  };
}

/** What a sleep speed under the least of its pump means. */
function tooLow(kept: KeptPump, f: number, asleepAt: number): string {
  const least = hertz(keptAt(kept));
  const under = `${formatFigure(3600 * sleepsUnder * kept.pump.bestFlow, 0)} m³/h`;
  if (kept.sensor.measures === 'level') return say.belowAboutItLiftsNothing({ least, hertz: hertz(f), hertz2: hertz(asleepAt), under });
  const held = fromSi(kept.pressure, kept.sensor.unit);
  return say.withNothingDrawnThePump({
    held,
    sensorDecimals: sensorDecimals(kept.sensor),
    unit: kept.sensor.unit,
    least,
    hertz: hertz(f),
    hertz2: hertz(asleepAt),
    under,
  });
}

/** A sleep speed that never comes, under which nothing is pumped, or that sleeps while much is wanted. */
function sleepSpeed(c: Checked): Finding[] {
  const at = c.settings.find('sleepFrequency');
  const f = c.settings.roleValue('sleepFrequency');
  if (!at || f <= 0) return [];
  const low = lowestOutput(c);
  const kept = keptPump(c);
  const asleepAt = kept ? keptAt(kept, sleepsUnder) : low + 1;
  const told = (id: string, severity: 'error' | 'warning', sentence: string, below: number): Finding[] => {
    const sleepsAt = Math.round(10 * below) / 10;
    // where the output does not go down far enough, the sleep speed is not what is wrong
    const early = kept !== null && sleepsAt > keptAt(kept, tooEarly);
    return [
      {
        ...{ id, code: at.code, severity, sentence },
        remedy: early
          ? lowered(c, Math.min(f, asleepAt))
          : { label: say.sleepBelow({ hertz: hertz(sleepsAt) }), changes: c.settings.change('sleepFrequency', sleepsAt, 'worked out') },
      },
    ];
  };
  if (f < low)
    return told(
      ...(['never reached', 'error'] as const),
      say.theOutputNeverGoesBelow({ hertz: hertz(low), hertz2: hertz(f) }),
      Math.max(low + 1, asleepAt),
    );
  // what was found out at the pump beats what the plate makes of it
  if (!kept || c.measured?.(at.code)) return [];
  if (f < keptAt(kept) + clearOf)
    return told(kept.sensor.measures === 'level' ? say.liftsNothing : 'never reached', 'warning', tooLow(kept, f, asleepAt), asleepAt);
  if (f > keptAt(kept, tooEarly))
    return told(
      ...(['sleeps too early', 'warning'] as const),
      say.atItStillPumpsMore({ hertz: hertz(f), tooEarly: 3600 * tooEarly * kept.pump.bestFlow }),
      asleepAt,
    );
  return [];
}

/** Waking and boost against the rest of the loop. */
function wakeAndBoost(c: Checked): Finding[] {
  const { settings } = c;
  const [fall, set, boost] = [settings.roleValue('wakeFall'), settings.roleValue('setpoint'), settings.roleValue('sleepBoost')];
  const out: Finding[] = [];
  const wake = settings.find('wakeFall');
  const sensor = sensorOf(c.driven);
  if (wake && sensor && sensor.measures !== 'level' && fall >= set)
    out.push({
      ...{ id: 'never wakes', code: wake.code, severity: 'error' },
      sentence: say.theFeedbackWouldHaveTo({ fall: 100 * fall, set: 100 * set }),
      ...(set > usualFall && { remedy: { label: say.wakeAtLess, changes: settings.change('wakeFall', usualFall, 'chosen') } }),
    });
  const falls = sensorSpan(straightIn(settings), fall);
  if (wake && fall > 0 && falls < 0.01)
    out.push({
      ...{ id: 'wakes at once', code: wake.code, severity: 'warning' },
      sentence: say.aFallOfOfThe({ falls: 100 * falls }),
      remedy: { label: say.wakeAtLess, changes: settings.change('wakeFall', usualFall, 'chosen') },
    });
  const guard = settings.roleValue('highPressureLevel');
  const at = settings.find('sleepBoost');
  // the guard acts on the feedback as it comes, the boost is said in the loop's own scale
  const boosted = sensorPercent(straightIn(settings), 100 * (set + boost)) / 100;
  if (at && boost > 0 && guard > 0 && boosted >= guard)
    out.push({
      ...{ id: 'boost meets the guard', code: at.code, severity: 'error' },
      sentence: say.theBoostGoesToOf({ boosted: 100 * boosted, guard: 100 * guard }),
      remedy: { label: say.noBoost, changes: settings.change('sleepBoost', 0, 'chosen') },
    });
  const kept = boost > 0 ? keptPump(c) : null;
  if (at && kept?.sensor.measures === 'pressure') {
    const span = toSi(kept.sensor.high, kept.sensor.unit) - toSi(kept.sensor.low, kept.sensor.unit);
    const needed = holdingFrequency(kept.spec, kept.pump, kept.pressure + sensorSpan(straightIn(settings), boost) * span);
    if (needed > settings.parameters().maximumFrequency)
      out.push({
        ...{ id: 'boost never reached', code: at.code, severity: 'warning' },
        sentence: say.theBoostIsMoreThan({ hertz: hertz(needed) }),
      });
  }
  return out;
}

function check(c: Checked): Finding[] {
  if (!c.settings.find('sleepFrequency') || !usesProcess(c) || c.settings.roleValue('sleepFrequency') <= 0) return [];
  return [...sleepSpeed(c), ...wakeAndBoost(c)];
}

/** Whether it may sleep at all. */
export const maySleep = (c: Pick<Checked, 'settings'>): boolean => usesProcess(c) && c.settings.roleValue('sleepFrequency') > 0;

/** When a pump may stand still, and when it must run again. */
export const sleepStage = defineStage({
  path: 'sleep',
  key: 'y',
  sections: [
    { id: 'sleep', title: say.fallsAsleep, roles: ['sleepFrequency', 'sleepDelay', 'leastRun'] },
    { id: 'boost', title: say.boostBeforeSleep, roles: ['sleepBoost', 'sleepBoostTime'] },
    { id: 'wake', title: say.wakes, roles: ['wakeFall', 'wakeDelay', 'leastRest'] },
  ],
  proofs: [sleepsProof],
  check,
  standing: (m, { proofOf }) => {
    if (!maySleep({ settings: m.drafted })) return notNeeded(say.itNeverSleeps);
    return against(m, 'sleep') ?? ofItems(m, [proofOf('sleep', sleepsProof.id)], { passed: say.seenToSleepAndTo, open: say.notSeenToSleepYet });
  },
});
