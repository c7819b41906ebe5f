import { formatFigure } from '@yare/core';
import { levelsOf, ratingOf, wordsOf } from '../book';
import { amperes, hertz, type Look, type StageFinding } from './look';

/** Braking, presets, ramps, brake and speeds against each other and the machine. */
export function motionSettingFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const rating = ratingOf(c.book, c.size);
  const levels = levelsOf(c.book, c.size);
  const chopperLevel = look.find('chopperLevel');
  if (look.role('chopper') === 1 && chopperLevel) {
    const level = look.role('chopperLevel')!;
    if (level >= levels.overvoltageTrip)
      out.push({
        id: 'chopper above trip',
        stage: 'motion',
        code: chopperLevel.code,
        severity: 'error',
        sentence: `The chopper begins at ${level} V and the drive trips at ${levels.overvoltageTrip} V: it can never act.`,
        remedy: { label: `Use ${levels.overvoltageTrip - 40} V`, changes: look.change('chopperLevel', levels.overvoltageTrip - 40) },
      });
    const resistor = look.find('brakeResistance');
    const ohms = look.role('brakeResistance')!;
    if (resistor && ohms < rating.leastResistance)
      out.push({
        id: 'resistor too small',
        stage: 'motion',
        code: resistor.code,
        severity: 'error',
        sentence: `${formatFigure(ohms, 1)} Ω is below the ${rating.leastResistance} Ω this size may carry: the chopper would take ${amperes(level / ohms)} and burn. Another resistor, or two in series.`,
        remedy: {
          label: `Enter ${rating.leastResistance} Ω, once it is fitted`,
          changes: look.change('brakeResistance', rating.leastResistance, 'chosen'),
        },
      });
  }
  const reverse = look.find('reversePermit');
  const backwards = look.settings.filter((s) => s.role?.startsWith('preset') && look.raw(s) < 0);
  if (reverse && look.role('reversePermit') === 0 && backwards.length > 0)
    out.push({
      id: 'negative preset',
      stage: 'motion',
      code: reverse.code,
      severity: 'warning',
      sentence: `${backwards.map((s) => `${s.name} ${s.code}`).join(', ')} ${backwards.length === 1 ? 'is' : 'are'} below zero, which is reverse, and reverse is forbidden: chosen, ${backwards.length === 1 ? 'it stands' : 'they stand'} still.`,
      remedy: { label: 'Permit reverse', changes: look.change('reversePermit', 1, 'chosen') },
    });
  out.push(...secondRampFindings(look), ...brakeFindings(look), ...speedFindings(look));
  return out;
}

function secondRampFindings(look: Look): StageFinding[] {
  const second = look.find('secondAccelerationTime');
  if (!second) return [];
  const change = look.role('rampChangeOver') ?? 0;
  const input = look.settings.find((s) => s.role?.startsWith('job ') && wordsOf(s, look.raw(s)) === 'Second ramp');
  const [up, down] = [look.role('accelerationTime')!, look.role('decelerationTime')!];
  const [up2, down2] = [look.role('secondAccelerationTime')!, look.role('secondDecelerationTime')!];
  const top = look.role('maximumFrequency') ?? 50;
  const sentence =
    change > 0 && change < top
      ? `Two ramps: below ${hertz(change)} ${up} s up and ${down} s down, from ${hertz(change)} on ${up2} s up and ${down2} s down, at start and stop alike.`
      : change >= top && change > 0
        ? `The change-over at ${hertz(change)} lies above the maximum of ${hertz(top)}: the second ramps never act.`
        : input
          ? `While ${input.name.replace(/ job$/, '')} is closed the second ramps are in force, ${up2} s up and ${down2} s down; otherwise ${up} s and ${down} s.`
          : `No input chooses the second ramps and there is no change-over: they never act.`;
  return [{ id: 'two ramps', stage: 'motion', code: second.code, severity: change >= top && change > 0 ? 'warning' : 'good', sentence }];
}

function brakeFindings(look: Look): StageFinding[] {
  const brake = look.find('holdingBrake');
  const { driven } = look.c;
  const fitted = driven.kind === 'conveyor' && driven.brakeShare !== null;
  if (!brake) return [];
  const out: StageFinding[] = [];
  const works = look.role('holdingBrake') === 1;
  if (works && look.role('stopMode') === 1) {
    const stop = look.find('stopMode')!;
    out.push({
      id: 'brake on coasting',
      stage: 'motion',
      code: stop.code,
      severity: 'error',
      sentence: 'It stops by coasting and has a holding brake: the brake then falls in at full speed and wears out.',
      remedy: { label: 'Stop by ramp', changes: look.change('stopMode', 0, 'chosen') },
    });
  }
  if (!works && fitted)
    out.push({
      id: 'brake not worked',
      stage: 'motion',
      code: brake.code,
      severity: 'error',
      sentence: 'The machine has a holding brake and the drive does not work it: the motor would run against a closed brake.',
      remedy: { label: 'Let the drive work it', changes: look.change('holdingBrake', 1, 'chosen') },
    });
  return out;
}

function speedFindings(look: Look): StageFinding[] {
  const { c } = look;
  const out: StageFinding[] = [];
  const top = look.find('maximumFrequency');
  const limit = look.role('maximumFrequency') ?? 0;
  if (top && limit > c.plate.frequency * 1.02)
    out.push({
      id: 'above plate frequency',
      stage: 'motion',
      code: top.code,
      severity: 'warning',
      sentence: `${hertz(limit)} is above the plate’s ${hertz(c.plate.frequency)}: torque falls, and motor, machine and bearings must be made for ${formatFigure((limit / c.plate.frequency) * 100, 0)} % speed${c.driven.kind === 'pump' || c.driven.kind === 'fan' ? `; power grows with its cube, to ${formatFigure((limit / c.plate.frequency) ** 3 * 100, 0)} %` : ''}.`,
      remedy: { label: `Use ${hertz(c.plate.frequency)}`, changes: look.change('maximumFrequency', c.plate.frequency) },
    });
  const method = look.find('controlMethod');
  if (method && look.role('controlMethod') === 1 && (c.driven.kind === 'conveyor' || c.driven.kind === 'agitator'))
    out.push({
      id: 'bent curve on constant torque',
      stage: 'motion',
      code: method.code,
      severity: 'error',
      sentence: `The quadratic law gives a ${c.driven.kind} too little flux at low speed: it will not break away under load.`,
      remedy: { label: 'Use the linear law', changes: look.change('controlMethod', 0, 'chosen') },
    });
  const reverse = look.find('reversePermit');
  if (reverse && look.role('reversePermit') === 1 && (c.driven.kind === 'pump' || c.driven.kind === 'fan'))
    out.push({
      id: 'reverse permitted',
      stage: 'motion',
      code: reverse.code,
      severity: 'warning',
      sentence: `A ${c.driven.kind} has one way round: backwards it moves little${c.driven.kind === 'pump' ? ' and a screwed wheel comes off' : ' and looks as if it ran'}.`,
      remedy: { label: 'Forbid reverse', changes: look.change('reversePermit', 0, 'chosen') },
    });
  return out;
}

/** Who may start it. */
export function commandFindings(look: Look): StageFinding[] {
  const s = look.find('startSource');
  if (!s || look.role('startSource') === 0) return [];
  return [
    {
      id: 'start source away',
      stage: 'direction',
      code: s.code,
      severity: 'warning',
      sentence: `${s.name} ${s.code} says ${wordsOf(s, look.raw(s))}: the selector and the buttons on the panel start nothing. Hold to run does not need it; command over the link goes back by itself when you let go.`,
      remedy: { label: 'Give start back to the terminals', changes: look.change('startSource', 0, 'chosen') },
    },
  ];
}
