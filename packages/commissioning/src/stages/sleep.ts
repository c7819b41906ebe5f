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
    label: `Let the output go down to ${hertz(to)}, and sleep below ${hertz(sleepsAt)}`,
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
  if (kept.sensor.measures === 'level')
    return `Below about ${least} it lifts nothing (estimated), and it sleeps only below ${hertz(f)}: in between it turns without flow. At ${hertz(asleepAt)} it would sleep while less than ${under} flows in.`;
  const held = fromSi(kept.pressure, kept.sensor.unit);
  return `With nothing drawn the pump holds ${formatFigure(held, sensorDecimals(kept.sensor))} ${kept.sensor.unit} at about ${least} (estimated). It comes down to ${hertz(f)} only where taps are shut so fast that the pressure is left standing above its set point; with the least leak it never falls asleep. At ${hertz(asleepAt)} it would sleep while less than ${under} is drawn.`;
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
          : { label: `Sleep below ${hertz(sleepsAt)}`, changes: c.settings.change('sleepFrequency', sleepsAt, 'worked out') },
      },
    ];
  };
  if (f < low)
    return told(
      ...(['never reached', 'error'] as const),
      `The output never goes below ${hertz(low)}, so it never gets down to the sleep speed of ${hertz(f)}: it never falls asleep.`,
      Math.max(low + 1, asleepAt),
    );
  // what was found out at the pump beats what the plate makes of it
  if (!kept || c.measured?.(at.code)) return [];
  if (f < keptAt(kept) + clearOf)
    return told(kept.sensor.measures === 'level' ? 'lifts nothing' : 'never reached', 'warning', tooLow(kept, f, asleepAt), asleepAt);
  if (f > keptAt(kept, tooEarly))
    return told(
      ...(['sleeps too early', 'warning'] as const),
      `At ${hertz(f)} it still pumps more than ${formatFigure(3600 * tooEarly * kept.pump.bestFlow, 0)} m³/h (estimated): it falls asleep while it is needed, and hunts.`,
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
      sentence: `The feedback would have to fall by ${formatFigure(100 * fall, 1)} % of the range, and there are only ${formatFigure(100 * set, 1)} %: it never wakes.`,
      ...(set > usualFall && { remedy: { label: 'Wake at 4 % less', changes: settings.change('wakeFall', usualFall, 'chosen') } }),
    });
  const falls = sensorSpan(straightIn(settings), fall);
  if (wake && fall > 0 && falls < 0.01)
    out.push({
      ...{ id: 'wakes at once', code: wake.code, severity: 'warning' },
      sentence: `A fall of ${formatFigure(100 * falls, 1)} % of the range is little more than the noise of a sensor: it wakes as soon as it sleeps.`,
      remedy: { label: 'Wake at 4 % less', changes: settings.change('wakeFall', usualFall, 'chosen') },
    });
  const guard = settings.roleValue('highPressureLevel');
  const at = settings.find('sleepBoost');
  // the guard acts on the feedback as it comes, the boost is said in the loop's own scale
  const boosted = sensorPercent(straightIn(settings), 100 * (set + boost)) / 100;
  if (at && boost > 0 && guard > 0 && boosted >= guard)
    out.push({
      ...{ id: 'boost meets the guard', code: at.code, severity: 'error' },
      sentence: `The boost goes to ${formatFigure(100 * boosted, 1)} % of the range; the high-pressure guard acts at ${formatFigure(100 * guard, 1)} %.`,
      remedy: { label: 'No boost', changes: settings.change('sleepBoost', 0, 'chosen') },
    });
  const kept = boost > 0 ? keptPump(c) : null;
  if (at && kept?.sensor.measures === 'pressure') {
    const span = toSi(kept.sensor.high, kept.sensor.unit) - toSi(kept.sensor.low, kept.sensor.unit);
    const needed = holdingFrequency(kept.spec, kept.pump, kept.pressure + sensorSpan(straightIn(settings), boost) * span);
    if (needed > settings.parameters().maximumFrequency)
      out.push({
        ...{ id: 'boost never reached', code: at.code, severity: 'warning' },
        sentence: `The boost is more than the pump makes: it would take ${hertz(needed)} (estimated). It runs at full speed for the boost time, then sleeps all the same.`,
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
    { id: 'sleep', title: 'Falls asleep', roles: ['sleepFrequency', 'sleepDelay', 'leastRun'] },
    { id: 'boost', title: 'Boost before sleep', roles: ['sleepBoost', 'sleepBoostTime'] },
    { id: 'wake', title: 'Wakes', roles: ['wakeFall', 'wakeDelay', 'leastRest'] },
  ],
  proofs: [sleepsProof],
  check,
  standing: (m, { proofOf }) => {
    if (!maySleep({ settings: m.drafted })) return notNeeded('it never sleeps');
    return (
      against(m, 'sleep') ?? ofItems(m, [proofOf('sleep', sleepsProof.id)], { passed: 'seen to sleep and to wake', open: 'not seen to sleep yet' })
    );
  },
});
