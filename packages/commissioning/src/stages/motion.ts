import type { SettingChange } from '@yare/books';
import { formatFigure, ControlMethod, InputJob, ReversePermit, StopMode, Switch } from '@yare/core';
import { amperes, hasOneWay, hertz, type Checked, type Finding } from '../checked';
import { against, defineStage, ofItems, type ProofDefinition } from '../stage';

/** A run up to full speed and down again, as set. */
export const runProof: ProofDefinition = {
  id: 'run',
  facts: 'run',
  relies: {
    roles: [
      'accelerationTime',
      'decelerationTime',
      'maximumFrequency',
      'currentLimit',
      'stopMode',
      'controlMethod',
      'startBoost',
      'sShare',
      'chopper',
    ],
  },
};

/** Every preset that turns backwards, turned round. */
const forwards = ({ settings }: Checked): SettingChange[] =>
  settings.all.flatMap((s) => (s.role?.startsWith('preset') && settings.value(s) < 0 ? settings.change(s.role, -settings.inRole(s), 'chosen') : []));

/** What has to turn it backwards is set up. */
function turnsBack({ settings }: Checked): boolean {
  const { cleaning, emergency } = settings.controls();
  return cleaning.strokes > 0 || (emergency.frequency > 0 && emergency.reverse);
}

/** Braking, presets, ramps, brake and speeds against each other and the machine. */
function check(c: Checked): Finding[] {
  const out: Finding[] = [];
  out.push(...chopperFindings(c));
  const reverse = c.settings.find('reversePermit');
  const backwards = c.settings.all.filter((s) => s.role?.startsWith('preset') && c.settings.value(s) < 0);
  if (reverse && c.settings.role('reversePermit') === ReversePermit.forbidden && backwards.length > 0)
    out.push({
      id: 'negative preset',
      code: reverse.code,
      severity: 'warning',
      sentence: `${backwards.map((s) => `${s.name} ${s.code}`).join(', ')} ${backwards.length === 1 ? 'is' : 'are'} below zero, which is reverse, and reverse is forbidden: chosen, ${backwards.length === 1 ? 'it stands' : 'they stand'} still.`,
      ...(hasOneWay(c.driven)
        ? { remedy: { label: 'Turn forward instead', changes: forwards(c) } }
        : {
            remedy: { label: 'Permit reverse', changes: c.settings.change('reversePermit', ReversePermit.permitted, 'chosen') },
            more: [{ label: 'Turn forward instead', changes: forwards(c) }],
          }),
    });
  out.push(...secondRampFindings(c), ...brakeFindings(c), ...speedFindings(c));
  return out;
}

/** The chopper against the drive's trip level, and its resistor against the least it may carry. */
function chopperFindings(c: Checked): Finding[] {
  const out: Finding[] = [];
  const { rating, levels } = c.settings;
  const chopperLevel = c.settings.find('chopperLevel');
  if (c.settings.role('chopper') === Switch.on && chopperLevel) {
    const level = c.settings.inRole(chopperLevel);
    if (level >= levels.overvoltageTrip)
      out.push({
        id: 'chopper above trip',
        code: chopperLevel.code,
        severity: 'error',
        sentence: `The chopper begins at ${level} V and the drive trips at ${levels.overvoltageTrip} V: it can never act.`,
        remedy: { label: `Use ${levels.overvoltageTrip - 40} V`, changes: c.settings.change('chopperLevel', levels.overvoltageTrip - 40) },
      });
    const resistor = c.settings.find('brakeResistance');
    const ohms = c.settings.roleValue('brakeResistance');
    if (resistor && ohms < rating.leastResistance)
      out.push({
        id: 'resistor too small',
        code: resistor.code,
        severity: 'error',
        sentence: `${formatFigure(ohms, 1)} Ω is below the ${rating.leastResistance} Ω this size may carry: the chopper would take ${amperes(level / ohms)} and burn. Another resistor, or two in series.`,
        remedy: {
          label: `Enter ${rating.leastResistance} Ω, once it is fitted`,
          changes: c.settings.change('brakeResistance', rating.leastResistance, 'chosen'),
        },
      });
  }
  return out;
}

function secondRampFindings(c: Checked): Finding[] {
  const second = c.settings.find('secondAccelerationTime');
  if (!second) return [];
  const change = c.settings.roleValue('rampChangeOver');
  const input = c.settings.input(InputJob.secondRamp);
  const [up, down] = [c.settings.role('accelerationTime'), c.settings.role('decelerationTime')];
  const [up2, down2] = [c.settings.role('secondAccelerationTime'), c.settings.role('secondDecelerationTime')];
  const top = c.settings.roleValue('maximumFrequency');
  const touched = c.settings.having(['secondAccelerationTime', 'secondDecelerationTime']).some((x) => c.settings.value(x) !== c.settings.factory(x));
  // as from the factory and never in force: nothing to tell
  if (change <= 0 && !input && !touched) return [];
  const sentence =
    change > 0 && change < top
      ? `Two ramps: below ${hertz(change)} ${up} s up and ${down} s down, from ${hertz(change)} on ${up2} s up and ${down2} s down, at start and stop alike.`
      : change >= top && change > 0
        ? `The change-over at ${hertz(change)} lies above the maximum of ${hertz(top)}: the second ramps never act.`
        : input
          ? `While ${input.name.replace(/ job$/, '')} is closed the second ramps are in force, ${up2} s up and ${down2} s down; otherwise ${up} s and ${down} s.`
          : `Second ramps of ${up2} s up and ${down2} s down are set, but no input chooses them and there is no change-over: they never act.`;
  return [{ id: 'two ramps', code: second.code, severity: change >= top || (change <= 0 && !input) ? 'warning' : 'good', sentence }];
}

function brakeFindings(c: Checked): Finding[] {
  const brake = c.settings.find('holdingBrake');
  const { driven } = c;
  const fitted = (driven.kind === 'conveyor' || driven.kind === 'hoist') && driven.brakeShare !== null;
  if (!brake) return [];
  const out: Finding[] = [];
  if (driven.kind === 'hoist' && !fitted)
    out.push({
      id: 'no brake on a hoist',
      code: brake.code,
      severity: 'error',
      sentence:
        'No holding brake is given for this hoist: when the drive lets go, by a stop or a trip, the load falls. Fit one, and enter it on the survey.',
    });
  const works = c.settings.role('holdingBrake') === Switch.on;
  const stop = c.settings.find('stopMode');
  if (works && stop && c.settings.role('stopMode') === StopMode.coast)
    out.push({
      id: 'brake on coasting',
      code: stop.code,
      severity: 'error',
      sentence: 'It stops by coasting and has a holding brake: the brake then falls in at full speed and wears out.',
      remedy: { label: 'Stop by ramp', changes: c.settings.change('stopMode', StopMode.ramp, 'chosen') },
    });
  if (!works && fitted)
    out.push({
      id: 'brake not worked',
      code: brake.code,
      severity: 'error',
      sentence: 'The machine has a holding brake and the drive does not work it: the motor would run against a closed brake.',
      remedy: { label: 'Let the drive work it', changes: c.settings.change('holdingBrake', Switch.on, 'chosen') },
    });
  return out;
}

function speedFindings(c: Checked): Finding[] {
  const out: Finding[] = [];
  const top = c.settings.find('maximumFrequency');
  const limit = c.settings.roleValue('maximumFrequency');
  if (top && limit > c.plate.frequency * 1.02)
    out.push({
      id: 'above plate frequency',
      code: top.code,
      severity: 'warning',
      sentence: `${hertz(limit)} is above the plate’s ${hertz(c.plate.frequency)}: torque falls, and motor, machine and bearings must be made for ${formatFigure((limit / c.plate.frequency) * 100, 0)} % speed${c.driven.kind === 'pump' || c.driven.kind === 'fan' ? `; power grows with its cube, to ${formatFigure((limit / c.plate.frequency) ** 3 * 100, 0)} %` : ''}.`,
      remedy: { label: `Use ${hertz(c.plate.frequency)}`, changes: c.settings.change('maximumFrequency', c.plate.frequency) },
    });
  const method = c.settings.find('controlMethod');
  if (
    method &&
    c.settings.role('controlMethod') === ControlMethod.quadratic &&
    (c.driven.kind === 'conveyor' || c.driven.kind === 'hoist' || c.driven.kind === 'agitator')
  )
    out.push({
      id: 'bent curve on constant torque',
      code: method.code,
      severity: 'error',
      sentence: `The quadratic law gives a ${c.driven.kind} too little flux at low speed: it will not break away under load.`,
      remedy: { label: 'Use the linear law', changes: c.settings.change('controlMethod', ControlMethod.linear, 'chosen') },
    });
  const reverse = c.settings.find('reversePermit');
  if (reverse && c.settings.role('reversePermit') === ReversePermit.permitted && hasOneWay(c.driven) && !turnsBack(c))
    out.push({
      id: 'reverse permitted',
      code: reverse.code,
      severity: 'warning',
      sentence: `A ${c.driven.kind} has one way round: backwards it moves little${c.driven.kind === 'pump' ? ' and a screwed wheel comes off' : ' and looks as if it ran'}.`,
      remedy: { label: 'Forbid reverse', changes: [...c.settings.change('reversePermit', ReversePermit.forbidden, 'chosen'), ...forwards(c)] },
    });
  return out;
}

/** A run proves the ramps once it came to this share of maximum frequency and down again. */
export const provingSpeed = 0.95;

/** How the machine starts, runs and stops. */
export const motionStage = defineStage({
  path: 'motion',
  sections: [
    { id: 'ramps', title: 'Ramps', roles: ['accelerationTime', 'decelerationTime'] },
    { id: 'limits', title: 'Limits', roles: ['minimumFrequency', 'maximumFrequency', 'currentLimit'] },
    { id: 'stopping', title: 'Stopping', roles: ['stopMode', 'busRampHold', 'quickStopTime', 'dcCurrent', 'dcTime'] },
    { id: 'braking', title: 'Braking', roles: ['chopper', 'chopperLevel', 'brakeResistance', 'resistorPower'] },
    { id: 'direction', title: 'Direction', roles: ['reversePermit'] },
    { id: 'starting', title: 'Starting', roles: ['controlMethod', 'startBoost', 'startMode', 'torqueLimit'] },
    { id: 'moreRamps', title: 'More on ramps', roles: ['sShare', 'secondAccelerationTime', 'secondDecelerationTime', 'rampChangeOver'] },
    { id: 'avoid', title: 'Speeds to avoid', roles: ['skipCentre', 'skipWidth', 'skipCentre2', 'skipWidth2'] },
    { id: 'brake', title: 'Holding brake', roles: ['holdingBrake', 'brakeFrequency', 'brakeOpenDelay', 'brakeCloseDelay'] },
  ],
  proofs: [runProof],
  check,
  standing: (m, { proofOf }) => {
    if (!m.draftSpec.ok) return { proof: 'stale', text: 'needs a plate that fits' };
    const text = {
      passed: 'run and recorded as set',
      open: `wants a run to ${formatFigure(provingSpeed * m.drafted.roleValue('maximumFrequency'), 0)} Hz or more and down again`,
    };
    return against(m, 'motion') ?? ofItems(m, [proofOf('motion', runProof.id)], text);
  },
});
