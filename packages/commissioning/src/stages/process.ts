import {
  formatFigure,
  LiveZeroAction,
  loadFromDriven,
  ProcessAction,
  pumpOperatingPoint,
  completePlate,
  fanOperatingPoint,
  SpeedSource,
  toSi,
  type SettingRole,
} from '@yare/core';
import type { Checked, Finding } from '../checked';
import { readingOf, sensorOf } from '../process/scale';
import { against, defineStage, ofItems, type ProofDefinition } from '../stage';

const roles: readonly SettingRole[] = [
  'setpoint',
  'proportionalGain',
  'integralTime',
  'processAction',
  'analogueSignal',
  'liveZeroLoss',
  'maximumFrequency',
];

/** The loop was seen to hold its set point through a change of demand. */
export const holdsProof: ProofDefinition = { id: 'holds', name: 'It holds its set point', relies: { roles } };

/** Whether the process gives the speed on one of the places it may come from. */
export const usesProcess = ({ settings }: Pick<Checked, 'settings'>): boolean =>
  settings.role('speedSource') === SpeedSource.process || settings.role('localSpeed') === SpeedSource.process;

/** % of the sensor's range that the machine makes at its highest speed with the demand it was built for; null where nothing tells. */
function mostReached(c: Checked): number | null {
  const sensor = sensorOf(c.driven);
  if (!sensor || sensor.measures === 'level' || sensor.measures === 'temperature') return null;
  try {
    const plate = completePlate(c.plate);
    const load = loadFromDriven(c.driven, plate);
    const top = ((c.settings.role('maximumFrequency') ?? plate.frequency) / plate.frequency) * ((plate.speed * 2 * Math.PI) / 60);
    if (load.kind !== 'pump' && load.kind !== 'fan') return null;
    const at = load.kind === 'pump' ? pumpOperatingPoint(load, top) : fanOperatingPoint(load, top);
    const reached = sensor.measures === 'flow' ? at.flow : at.pressure;
    const [low, high] = [toSi(sensor.low, sensor.unit), toSi(sensor.high, sensor.unit)];
    return (100 * (reached - low)) / (high - low);
  } catch {
    // the plate's own stage says what is wrong with it
    return null;
  }
}

/** Set point and limits against sensor, machine and direction. */
function check(c: Checked): Finding[] {
  const setpoint = c.settings.find('setpoint');
  if (!setpoint || !usesProcess(c)) return [];
  const out: Finding[] = [];
  const sensor = sensorOf(c.driven);
  if (!sensor)
    return [
      {
        id: 'no sensor',
        severity: 'error',
        sentence:
          'The speed comes from the process, and no sensor is recorded: nobody can say what the set point is in its own unit. Enter its range below.',
      },
    ];
  const action = c.settings.find('processAction');
  const wants = sensor.measures === 'level' ? ProcessAction.reverse : ProcessAction.direct;
  if (action && sensor.measures !== 'temperature' && c.settings.role('processAction') !== wants)
    out.push({
      id: 'wrong action',
      code: action.code,
      severity: 'error',
      sentence:
        wants === ProcessAction.reverse
          ? 'With this action a rising level slows the pump down: the sump runs over. A pump that empties a sump wants the output to rise with the level.'
          : `With this action a falling ${sensor.measures} slows the machine down, and a rising one drives it to full speed. The output has to rise when the ${sensor.measures} falls.`,
      remedy: { label: 'Turn the action round', changes: c.settings.change('processAction', wants, 'worked out') },
    });
  const share = 100 * (c.settings.role('setpoint') ?? 0);
  const reading = readingOf(sensor, c.settings.role('analogueSignal') ?? 0, share);
  const text = `${formatFigure(reading.figure, reading.decimals)} ${reading.unit}`;
  const most = mostReached(c);
  if (most !== null && share > most)
    out.push({
      id: 'never reached',
      code: setpoint.code,
      severity: 'error',
      sentence: `${text} is more than the machine makes: at full speed it comes to about ${formatFigure(sensor.low + (most / 100) * (sensor.high - sensor.low), reading.decimals)} ${sensor.unit} (estimated). It would run at full speed for ever.`,
    });
  else if (share < 5 || share > 95)
    out.push({
      id: 'at the end of the range',
      code: setpoint.code,
      severity: 'warning',
      sentence: `${text} is ${formatFigure(share, 1)} % of the sensor’s range, so near to its end that the loop sees a change on one side only. A sensor whose range is about twice the set point suits better.`,
    });
  const loss = c.settings.find('liveZeroLoss');
  if (loss && c.settings.role('liveZeroLoss') === LiveZeroAction.ignore)
    out.push({
      id: 'broken wire ignored',
      code: loss.code,
      severity: 'error',
      sentence: `A broken sensor wire reads as ${formatFigure(sensor.low, reading.decimals)} ${sensor.unit}, and is ignored: ${wants === ProcessAction.direct ? 'the machine would go to full speed and stay there' : 'the pump would stop and the sump run over'}.`,
      remedy: { label: 'Trip on it', changes: c.settings.change('liveZeroLoss', LiveZeroAction.trip, 'chosen') },
    });
  return out;
}

/** What a drive holds by itself: sensor, set point, step test and controller. */
export const processStage = defineStage({
  path: 'process',
  name: 'Process',
  key: 'f',
  sections: [
    { id: 'signal', title: 'Signal', roles: ['analogueSignal', 'analogueFilter', 'liveZeroLoss'] },
    { id: 'loop', title: 'Controller', roles: ['proportionalGain', 'integralTime', 'processAction'] },
  ],
  proofs: [holdsProof],
  check,
  standing: (m, { proofOf }) => {
    if (!usesProcess({ settings: m.drafted })) return { proof: 'proved', text: 'its speed does not come from a process' };
    return (
      against(m, 'process') ?? ofItems(m, [proofOf('process', holdsProof.id)], { passed: 'seen to hold its set point', open: 'not seen to hold yet' })
    );
  },
});
