import { straightOf } from '@yare/books';
import {
  formatFigure,
  InputJob,
  LiveZeroAction,
  loadFromDriven,
  ProcessAction,
  pumpOperatingPoint,
  completePlate,
  fanOperatingPoint,
  SpeedSource,
  Switch,
  toSi,
  type ProcessSensor,
  type SettingRole,
} from '@yare/core';
import { say } from '@yare/words/stages/process';
import type { Checked, Finding } from '../checked';
import { loopRoles } from '../process/roles';
import { loopPercent, readingOf, sensorDecimals, sensorOf, sensorPercent, straightenChanges, straightenKeeps, straightIn } from '../process/scale';
import { against, defineStage, ofItems, type ProofDefinition, notNeeded } from '../stage';

const roles: readonly SettingRole[] = [...loopRoles, 'analogueSignal', 'liveZeroLoss', 'maximumFrequency'];

/** The loop was seen to hold its set point through a change of demand. */
export const holdsProof: ProofDefinition = { id: 'holds', facts: 'holds', relies: { roles } };

/** The sensor was held against a gauge at two points of its range. */
export const sensorProof: ProofDefinition = {
  id: 'sensor',
  facts: 'gauges',
  relies: { roles: ['analogueSignal'] },
};

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
    const top = (c.settings.roleValue('maximumFrequency') / plate.frequency) * ((plate.speed * 2 * Math.PI) / 60);
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

/** A percentage of the loop's own scale in the sensor's unit. */
function inUnit(c: Checked, sensor: ProcessSensor, percent: number): string {
  const r = readingOf(sensor, c.settings.roleValue('analogueSignal'), sensorPercent(straightIn(c.settings), percent));
  return `${formatFigure(r.figure, r.decimals)} ${r.unit}`;
}

/** Which way the output has to go. */
function wrongAction(c: Checked, sensor: ProcessSensor, wants: number): Finding[] {
  const action = c.settings.find('processAction');
  if (!action || sensor.measures === 'temperature' || c.settings.role('processAction') === wants) return [];
  return [
    {
      id: 'wrong action',
      code: action.code,
      severity: 'error',
      sentence: wants === ProcessAction.reverse ? say.withThisActionARising : say.withThisActionAFalling({ measures: sensor.measures }),
      remedy: { label: say.turnTheActionRound, changes: c.settings.change('processAction', wants, 'worked out') },
    },
  ];
}

/** Set points the machine never makes, or the sensor hardly sees. */
function setpoints(c: Checked, sensor: ProcessSensor): Finding[] {
  const straight = straightIn(c.settings);
  const most = mostReached(c);
  const used = (['setpoint', ...(c.settings.input(InputJob.secondSetpoint) ? (['secondSetpoint'] as const) : [])] as const).flatMap(
    (role) => c.settings.find(role) ?? [],
  );
  return used.flatMap((s): Finding[] => {
    const held = 100 * c.settings.inRole(s);
    const share = sensorPercent(straight, held);
    const text = inUnit(c, sensor, held);
    const second = s.role === 'secondSetpoint';
    if (share < 0 || share > 100)
      return [
        {
          id: `outside the sensor${second ? ', second' : ''}`,
          code: s.code,
          severity: 'error',
          sentence: say.liesOutsideTheSensorsRange({ text, unit: sensor.unit }),
        },
      ];
    if (most !== null && share > most)
      return [
        {
          id: `never reached${second ? ', second' : ''}`,
          code: s.code,
          severity: 'error',
          sentence: say.isMoreThanTheMachine({ text, inUnit: inUnit(c, sensor, loopPercent(straight, most)) }),
        },
      ];
    if (share >= 5 && share <= 95) return [];
    return [
      {
        id: `at the end of the range${second ? ', second' : ''}`,
        code: s.code,
        severity: 'warning',
        sentence: say.isOfTheSensorsRange({ text, share }),
      },
    ];
  });
}

/** Gain and offset without their enable, and ends that cross. */
function scales(c: Checked, sensor: ProcessSensor): Finding[] {
  const { settings } = c;
  const out: Finding[] = [];
  const enable = settings.find('straightening');
  const stored = straightOf(settings);
  const off = settings.role('straightening') !== Switch.on;
  const setBack = {
    label: say.setThemBack,
    changes: [...settings.change('feedbackGain', 1, 'chosen'), ...settings.change('feedbackOffset', 0, 'chosen')],
  };
  const used = straightenKeeps(settings, stored) ? { label: say.putThemToUse, changes: straightenChanges(settings, stored) } : null;
  if (enable && off && (stored.gain !== 1 || stored.offset !== 0))
    out.push({
      id: 'straightening not in use',
      code: enable.code,
      severity: 'warning',
      sentence: say.aGainOfAndAn({ gain: stored.gain, offset: stored.offset }),
      remedy: used ?? setBack,
      more: used ? [setBack] : [],
    });
  const ends = [
    ['setpointLow', 'setpointHigh', 'set point'],
    ['processLow', 'processHigh', 'output'],
  ] as const;
  for (const [low, high, what] of ends) {
    const at = settings.find(high);
    const [a, b] = [settings.role(low), settings.role(high)];
    if (at && a !== null && b !== null && a >= b)
      out.push({
        id: `${what} ends cross`,
        code: at.code,
        severity: 'error',
        sentence: say.theLowestIsNotBelow({ what }),
      });
  }
  const [low, high] = [settings.roleValue('setpointLow'), settings.roleValue('setpointHigh')];
  const at = settings.find('setpoint');
  const now = settings.roleValue('setpoint');
  if (at && low < high && (now < low || now > high))
    out.push({
      id: 'set point beyond its ends',
      code: at.code,
      severity: 'warning',
      sentence: say.itIsHeldToTo({ inUnit: inUnit(c, sensor, 100 * low), inUnit2: inUnit(c, sensor, 100 * high) }),
    });
  return out;
}

/** A contact for a second set point that nothing asks, or a second that is the first. */
function secondSetpoint(c: Checked): Finding[] {
  const contact = c.settings.input(InputJob.secondSetpoint);
  const s = c.settings.find('secondSetpoint');
  if (!contact || !s || c.settings.role('secondSetpoint') !== c.settings.role('setpoint')) return [];
  return [
    {
      id: 'second is the first',
      code: s.code,
      severity: 'warning',
      sentence: say.theContactForTheSecond,
    },
  ];
}

/** What a broken sensor wire does. */
function brokenWire(c: Checked, sensor: ProcessSensor, wants: number): Finding[] {
  const loss = c.settings.find('liveZeroLoss');
  if (!loss || c.settings.role('liveZeroLoss') !== LiveZeroAction.ignore) return [];
  return [
    {
      id: 'broken wire ignored',
      code: loss.code,
      severity: 'error',
      sentence: say.aBrokenSensorWireReads({
        low: sensor.low,
        sensorDecimals: sensorDecimals(sensor),
        unit: sensor.unit,
        wants: wants === ProcessAction.direct,
      }),
      remedy: { label: say.tripOnIt, changes: c.settings.change('liveZeroLoss', LiveZeroAction.trip, 'chosen') },
    },
  ];
}

/** Set point and limits against sensor, machine and direction. */
function check(c: Checked): Finding[] {
  if (!c.settings.find('setpoint') || !usesProcess(c)) return [];
  const sensor = sensorOf(c.driven);
  if (!sensor)
    return [
      {
        id: 'no sensor',
        severity: 'error',
        sentence: say.theSpeedComesFromThe,
      },
    ];
  const wants = sensor.measures === 'level' ? ProcessAction.reverse : ProcessAction.direct;
  return [...wrongAction(c, sensor, wants), ...setpoints(c, sensor), ...scales(c, sensor), ...secondSetpoint(c), ...brokenWire(c, sensor, wants)];
}

/** What a drive holds by itself: sensor, set point, step test and controller. */
export const processStage = defineStage({
  path: 'process',
  key: 'f',
  sections: [
    { id: 'signal', title: say.signal, roles: ['analogueSignal', 'analogueFilter', 'liveZeroLoss'] },
    { id: 'straight', title: say.gainAndOffset, roles: ['straightening', 'feedbackGain', 'feedbackOffset'] },
    {
      id: 'loop',
      title: say.controller,
      roles: ['proportionalGain', 'integralTime', 'derivativeTime', 'processAction', 'processLow', 'processHigh'],
    },
  ],
  proofs: [holdsProof, sensorProof],
  check,
  standing: (m, { proofOf }) => {
    if (!usesProcess({ settings: m.drafted })) return notNeeded(say.itsSpeedDoesNotCome);
    return against(m, 'process') ?? ofItems(m, [proofOf('process', holdsProof.id)], { passed: say.seenToHoldItsSet, open: say.notSeenToHoldYet });
  },
});
