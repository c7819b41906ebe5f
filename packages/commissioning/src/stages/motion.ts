import type { SettingChange } from '@yare/books';
import { ControlMethod, InputJob, ReversePermit, StopMode, Switch } from '@yare/core';
import { say } from '@yare/words/stages/motion';
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
      sentence: say.isBelowZeroWhichIs({ backwards: backwards.map((s) => `${s.name} ${s.code}`).join(', '), backwards2: backwards.length }),
      ...(hasOneWay(c.driven)
        ? { remedy: { label: say.turnForwardInstead, changes: forwards(c) } }
        : {
            remedy: { label: say.permitReverse, changes: c.settings.change('reversePermit', ReversePermit.permitted, 'chosen') },
            more: [{ label: say.turnForwardInstead, changes: forwards(c) }],
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
        sentence: say.theChopperBeginsAtV({ level, overvoltageTrip: levels.overvoltageTrip }),
        remedy: {
          label: say.useV({ overvoltageTrip: levels.overvoltageTrip - 40 }),
          changes: c.settings.change('chopperLevel', levels.overvoltageTrip - 40),
        },
      });
    const resistor = c.settings.find('brakeResistance');
    const ohms = c.settings.roleValue('brakeResistance');
    if (resistor && ohms < rating.leastResistance)
      out.push({
        id: 'resistor too small',
        code: resistor.code,
        severity: 'error',
        sentence: say.isBelowTheThisSize({ ohms, leastResistance: rating.leastResistance, amperes: amperes(level / ohms) }),
        remedy: {
          label: say.enterOnceItIsFitted({ leastResistance: rating.leastResistance }),
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
      ? say.twoRampsBelowSUp({ hertz: hertz(change), up, down, up2, down2 })
      : change >= top && change > 0
        ? say.theChangeOverAtLies({ hertz: hertz(change), hertz2: hertz(top) })
        : input
          ? say.whileIsClosedTheSecond({ name: input.name.replace(/ job$/, ''), up2, down2, up, down })
          : say.secondRampsOfSUp({ up2, down2 });
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
      sentence: say.noHoldingBrakeIsGiven,
    });
  const works = c.settings.role('holdingBrake') === Switch.on;
  const stop = c.settings.find('stopMode');
  if (works && stop && c.settings.role('stopMode') === StopMode.coast)
    out.push({
      id: 'brake on coasting',
      code: stop.code,
      severity: 'error',
      sentence: say.itStopsByCoastingAnd,
      remedy: { label: say.stopByRamp, changes: c.settings.change('stopMode', StopMode.ramp, 'chosen') },
    });
  if (!works && fitted)
    out.push({
      id: 'brake not worked',
      code: brake.code,
      severity: 'error',
      sentence: say.theMachineHasAHolding,
      remedy: { label: say.letTheDriveWorkIt, changes: c.settings.change('holdingBrake', Switch.on, 'chosen') },
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
      sentence: say.isAboveThePlatesTorque({
        hertz: hertz(limit),
        hertz2: hertz(c.plate.frequency),
        limit: (limit / c.plate.frequency) * 100,
        kind: c.driven.kind === 'pump' || c.driven.kind === 'fan',
        limit2: (limit / c.plate.frequency) ** 3 * 100,
      }),
      remedy: { label: say.use({ hertz: hertz(c.plate.frequency) }), changes: c.settings.change('maximumFrequency', c.plate.frequency) },
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
      sentence: say.theQuadraticLawGivesA({ kind: c.driven.kind }),
      remedy: { label: say.useTheLinearLaw, changes: c.settings.change('controlMethod', ControlMethod.linear, 'chosen') },
    });
  const reverse = c.settings.find('reversePermit');
  if (reverse && c.settings.role('reversePermit') === ReversePermit.permitted && hasOneWay(c.driven) && !turnsBack(c))
    out.push({
      id: 'reverse permitted',
      code: reverse.code,
      severity: 'warning',
      sentence: say.aHasOneWayRound({ kind: c.driven.kind }),
      remedy: { label: say.forbidReverse, changes: [...c.settings.change('reversePermit', ReversePermit.forbidden, 'chosen'), ...forwards(c)] },
    });
  return out;
}

/** A run proves the ramps once it came to this share of maximum frequency and down again. */
export const provingSpeed = 0.95;

/** How the machine starts, runs and stops. */
export const motionStage = defineStage({
  path: 'motion',
  sections: [
    { id: 'ramps', title: say.ramps, roles: ['accelerationTime', 'decelerationTime'] },
    { id: 'limits', title: say.limits, roles: ['minimumFrequency', 'maximumFrequency', 'currentLimit'] },
    { id: 'stopping', title: say.stopping, roles: ['stopMode', 'busRampHold', 'quickStopTime', 'dcCurrent', 'dcTime'] },
    { id: 'braking', title: say.braking, roles: ['chopper', 'chopperLevel', 'brakeResistance', 'resistorPower'] },
    { id: 'direction', title: say.direction, roles: ['reversePermit'] },
    { id: 'starting', title: say.starting, roles: ['controlMethod', 'startBoost', 'startMode', 'torqueLimit'] },
    { id: 'moreRamps', title: say.moreOnRamps, roles: ['sShare', 'secondAccelerationTime', 'secondDecelerationTime', 'rampChangeOver'] },
    { id: 'avoid', title: say.speedsToAvoid, roles: ['skipCentre', 'skipWidth', 'skipCentre2', 'skipWidth2'] },
    { id: 'brake', title: say.holdingBrake, roles: ['holdingBrake', 'brakeFrequency', 'brakeOpenDelay', 'brakeCloseDelay'] },
  ],
  proofs: [runProof],
  check,
  standing: (m, { proofOf }) => {
    if (!m.draftSpec.ok) return { proof: 'stale', text: say.needsAPlateThatFits };
    const text = {
      passed: say.runAndRecordedAsSet,
      open: say.wantsARunToHz({ provingSpeed: provingSpeed * m.drafted.roleValue('maximumFrequency') }),
    };
    return against(m, 'motion') ?? ofItems(m, [proofOf('motion', runProof.id)], text);
  },
});
