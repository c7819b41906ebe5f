import { formatFigure } from '@yare/core/units';

export const say = {
  isBelowZeroWhichIs: ({ backwards, backwards2 }: { backwards: string; backwards2: number }) =>
    `${backwards} ${backwards2 === 1 ? 'is' : 'are'} below zero, which is reverse, and reverse is forbidden: chosen, ${backwards2 === 1 ? 'it stands' : 'they stand'} still.`,
  turnForwardInstead: 'Turn forward instead',
  permitReverse: 'Permit reverse',
  theChopperBeginsAtV: ({ level, overvoltageTrip }: { level: number; overvoltageTrip: number }) =>
    `The chopper begins at ${level} V and the drive trips at ${overvoltageTrip} V: it can never act.`,
  useV: ({ overvoltageTrip }: { overvoltageTrip: number }) => `Use ${overvoltageTrip} V`,
  isBelowTheThisSize: ({ ohms, leastResistance, amperes }: { ohms: number; leastResistance: number; amperes: string }) =>
    `${formatFigure(ohms, 1)} Ω is below the ${leastResistance} Ω this size may carry: the chopper would take ${amperes} and burn. Another resistor, or two in series.`,
  enterOnceItIsFitted: ({ leastResistance }: { leastResistance: number }) => `Enter ${leastResistance} Ω, once it is fitted`,
  twoRampsBelowSUp: ({ hertz, up, down, up2, down2 }: { hertz: string; up: number; down: number; up2: number; down2: number }) =>
    `Two ramps: below ${hertz} ${up} s up and ${down} s down, from ${hertz} on ${up2} s up and ${down2} s down, at start and stop alike.`,
  theChangeOverAtLies: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) =>
    `The change-over at ${hertz} lies above the maximum of ${hertz2}: the second ramps never act.`,
  whileIsClosedTheSecond: ({ name, up2, down2, up, down }: { name: string; up2: number; down2: number; up: number; down: number }) =>
    `While ${name} is closed the second ramps are in force, ${up2} s up and ${down2} s down; otherwise ${up} s and ${down} s.`,
  secondRampsOfSUp: ({ up2, down2 }: { up2: number; down2: number }) =>
    `Second ramps of ${up2} s up and ${down2} s down are set, but no input chooses them and there is no change-over: they never act.`,
  noHoldingBrakeIsGiven:
    'No holding brake is given for this hoist: when the drive lets go, by a stop or a trip, the load falls. Fit one, and enter it on the survey.',
  itStopsByCoastingAnd: 'It stops by coasting and has a holding brake: the brake then falls in at full speed and wears out.',
  stopByRamp: 'Stop by ramp',
  theMachineHasAHolding: 'The machine has a holding brake and the drive does not work it: the motor would run against a closed brake.',
  letTheDriveWorkIt: 'Let the drive work it',
  isAboveThePlatesTorque: ({ hertz, hertz2, limit, kind, limit2 }: { hertz: string; hertz2: string; limit: number; kind: boolean; limit2: number }) =>
    `${hertz} is above the plate’s ${hertz2}: torque falls, and motor, machine and bearings must be made for ${formatFigure(limit, 0)} % speed${kind ? `; power grows with its cube, to ${formatFigure(limit2, 0)} %` : ''}.`,
  use: ({ hertz }: { hertz: string }) => `Use ${hertz}`,
  theQuadraticLawGivesA: ({ kind }: { kind: string }) =>
    `The quadratic law gives a ${kind} too little flux at low speed: it will not break away under load.`,
  useTheLinearLaw: 'Use the linear law',
  aHasOneWayRound: ({ kind }: { kind: string }) =>
    `A ${kind} has one way round: backwards it moves little${kind === 'pump' ? ' and a screwed wheel comes off' : ' and looks as if it ran'}.`,
  forbidReverse: 'Forbid reverse',
  ramps: 'Ramps',
  limits: 'Limits',
  stopping: 'Stopping',
  braking: 'Braking',
  direction: 'Direction',
  starting: 'Starting',
  moreOnRamps: 'More on ramps',
  speedsToAvoid: 'Speeds to avoid',
  holdingBrake: 'Holding brake',
  needsAPlateThatFits: 'needs a plate that fits',
  runAndRecordedAsSet: 'run and recorded as set',
  wantsARunToHz: ({ provingSpeed }: { provingSpeed: number }) => `wants a run to ${formatFigure(provingSpeed, 0)} Hz or more and down again`,
};
