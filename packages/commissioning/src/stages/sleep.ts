import {
  estimateMachine,
  formatFigure,
  holdingFrequency,
  rectifierOn,
  toSi,
  type MachineSpec,
  type ProcessSensor,
  type PumpLoad,
  type SettingRole,
} from '@yare/core';
import { hertz, type Checked, type Finding } from '../checked';
import { readingOf, sensorOf, sensorPercent, straightIn } from '../process/scale';
import { against, defineStage, ofItems, type ProofDefinition } from '../stage';
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
export const sleepsProof: ProofDefinition = { id: 'sleeps', name: 'It falls asleep and wakes', relies: { roles: [...roles, 'setpoint'] } };

/** Share of the rated flow below which a pump is proposed to sleep, and above which falling asleep is told as too early (common practice). */
export const sleepsUnder = 0.15;
const tooEarly = 0.4;
/** Hz by which a sleep speed has to lie above what only just holds the set point: less is lost in the drive's own steps. */
const clearOf = 0.05;

/** The pump of a machine with its set pressure in Pa; null where it is none, or keeps no pressure. */
export function pressurePump(c: Checked): { spec: MachineSpec; pump: PumpLoad; pressure: number; sensor: ProcessSensor } | null {
  const sensor = sensorOf(c.driven);
  if (c.driven.kind !== 'pump' || sensor?.measures !== 'pressure') return null;
  const supply = { ...c.supply, rectifier: rectifierOn(c.settings.rating.input, undefined) };
  const estimate = estimateMachine(c.plate, c.driven, c.settings.parameters(), c.settings.hardware(), supply);
  if (!estimate.ok || estimate.spec.load.kind !== 'pump') return null;
  const share = sensorPercent(straightIn(c.settings), 100 * (c.settings.role('setpoint') ?? 0)) / 100;
  const [low, high] = [toSi(sensor.low, sensor.unit), toSi(sensor.high, sensor.unit)];
  return { spec: estimate.spec, pump: estimate.spec.load, pressure: low + share * (high - low), sensor };
}

/** A sleep speed that never comes while the set point is kept, or that sleeps while much is drawn. */
function sleepSpeed(c: Checked): Finding[] {
  const at = c.settings.find('sleepFrequency');
  const f = c.settings.role('sleepFrequency') ?? 0;
  if (!at || f <= 0) return [];
  const { minimumFrequency, maximumFrequency } = c.settings.parameters();
  const low = Math.max(minimumFrequency, (c.settings.role('processLow') ?? 0) * maximumFrequency);
  const kept = pressurePump(c);
  const asleepAt = kept && holdingFrequency(kept.spec, kept.pump, kept.pressure, sleepsUnder * kept.pump.bestFlow);
  const below = (x: number): Pick<Finding, 'remedy'> => ({
    remedy: { label: `Sleep below ${hertz(x)}`, changes: c.settings.change('sleepFrequency', Math.round(10 * x) / 10, 'worked out') },
  });
  if (f < low)
    return [
      {
        ...{ id: 'never reached', code: at.code, severity: 'error' as const },
        sentence: `The output never goes below ${hertz(low)}, so it never gets down to the sleep speed of ${hertz(f)}: it never falls asleep.`,
        ...below(Math.max(low + 1, asleepAt ?? 0)),
      },
    ];
  if (!kept || asleepAt === null) return [];
  const said = (share: number) => `${formatFigure(3600 * share * kept.pump.bestFlow, 0)} m³/h`;
  const held = readingOf(
    kept.sensor,
    0,
    (100 * (kept.pressure - toSi(kept.sensor.low, kept.sensor.unit))) /
      (toSi(kept.sensor.high, kept.sensor.unit) - toSi(kept.sensor.low, kept.sensor.unit)),
  );
  const least = holdingFrequency(kept.spec, kept.pump, kept.pressure);
  if (f < least + clearOf)
    return [
      {
        ...{ id: 'never reached', code: at.code, severity: 'warning' as const },
        sentence: `With nothing drawn the pump holds ${formatFigure(held.figure, held.decimals)} ${held.unit} at about ${hertz(least)} (estimated): it never gets down to ${hertz(f)}, and never falls asleep. At ${hertz(asleepAt)} it would sleep while less than ${said(sleepsUnder)} is drawn.`,
        ...below(asleepAt),
      },
    ];
  if (f > holdingFrequency(kept.spec, kept.pump, kept.pressure, tooEarly * kept.pump.bestFlow))
    return [
      {
        ...{ id: 'sleeps too early', code: at.code, severity: 'warning' as const },
        sentence: `At ${hertz(f)} more than ${said(tooEarly)} is still drawn (estimated): it falls asleep while water is needed, and hunts.`,
        ...below(asleepAt),
      },
    ];
  return [];
}

/** Waking and boost against the rest of the loop. */
function wakeAndBoost(c: Checked): Finding[] {
  const { settings } = c;
  const [fall, set, boost] = [settings.role('wakeFall') ?? 0, settings.role('setpoint') ?? 0, settings.role('sleepBoost') ?? 0];
  const out: Finding[] = [];
  const wake = settings.find('wakeFall');
  const sensor = sensorOf(c.driven);
  if (wake && sensor && sensor.measures !== 'level' && fall >= set)
    out.push({
      ...{ id: 'never wakes', code: wake.code, severity: 'error' },
      sentence: `The feedback would have to fall by ${formatFigure(100 * fall, 1)} % of the range, and there are only ${formatFigure(100 * set, 1)} %: it never wakes.`,
      remedy: { label: 'Wake at 4 % less', changes: settings.change('wakeFall', 0.04, 'chosen') },
    });
  if (wake && fall > 0 && fall < 0.01)
    out.push({
      ...{ id: 'wakes at once', code: wake.code, severity: 'warning' },
      sentence: `A fall of ${formatFigure(100 * fall, 1)} % is little more than the noise of a sensor: it wakes as soon as it sleeps.`,
      remedy: { label: 'Wake at 4 % less', changes: settings.change('wakeFall', 0.04, 'chosen') },
    });
  const guard = settings.role('highPressureLevel') ?? 0;
  const at = settings.find('sleepBoost');
  if (at && boost > 0 && guard > 0 && set + boost >= guard)
    out.push({
      ...{ id: 'boost meets the guard', code: at.code, severity: 'error' },
      sentence: `The boost goes to ${formatFigure(100 * (set + boost), 1)} % of the range; the high-pressure guard acts at ${formatFigure(100 * guard, 1)} %.`,
      remedy: { label: 'No boost', changes: settings.change('sleepBoost', 0, 'chosen') },
    });
  const kept = boost > 0 ? pressurePump(c) : null;
  if (at && kept) {
    const span = toSi(kept.sensor.high, kept.sensor.unit) - toSi(kept.sensor.low, kept.sensor.unit);
    const needed = holdingFrequency(kept.spec, kept.pump, kept.pressure + boost * span);
    if (needed > settings.parameters().maximumFrequency)
      out.push({
        ...{ id: 'boost never reached', code: at.code, severity: 'warning' },
        sentence: `The boost is more than the pump makes: it would take ${hertz(needed)} (estimated). It runs at full speed for the boost time, then sleeps all the same.`,
      });
  }
  return out;
}

function check(c: Checked): Finding[] {
  if (!c.settings.find('sleepFrequency') || !usesProcess(c) || (c.settings.role('sleepFrequency') ?? 0) <= 0) return [];
  return [...sleepSpeed(c), ...wakeAndBoost(c)];
}

/** Whether it may sleep at all. */
export const maySleep = (c: Pick<Checked, 'settings'>): boolean => usesProcess(c) && (c.settings.role('sleepFrequency') ?? 0) > 0;

/** When a pump may stand still, and when it must run again. */
export const sleepStage = defineStage({
  path: 'sleep',
  name: 'Sleep and wake',
  key: 'y',
  sections: [
    { id: 'sleep', title: 'Falls asleep', roles: ['sleepFrequency', 'sleepDelay', 'leastRun'] },
    { id: 'boost', title: 'Boost before sleep', roles: ['sleepBoost', 'sleepBoostTime'] },
    { id: 'wake', title: 'Wakes', roles: ['wakeFall', 'wakeDelay', 'leastRest'] },
  ],
  proofs: [sleepsProof],
  check,
  standing: (m, { proofOf }) => {
    if (!maySleep({ settings: m.drafted })) return { proof: 'proved', text: 'it never sleeps' };
    return (
      against(m, 'sleep') ?? ofItems(m, [proofOf('sleep', sleepsProof.id)], { passed: 'seen to sleep and to wake', open: 'not seen to sleep yet' })
    );
  },
});
