export const say = {
  itRunsAtItsEmergency: 'It runs at its emergency speed, and every trip stops it as ever. Nothing is put at risk, and a small fault ends it.',
  itRunsOnThroughTrips:
    'It runs on through trips of process and wiring, and clears the others itself, again and again. What they save, the product or a belt, may be lost. The drive logs each trip it ran on through.',
  itRunsUntilItBreaks:
    'It runs until it breaks: overload and heat no longer stop it. Motor and drive may be damaged or catch fire, and makers refuse the warranty once a trip was run through. The drive logs each of them for good.',
  inputWaitsForSmokeAnd: ({ name }: { name: string }) => `Input ${name} waits for smoke, and no emergency speed is set: the contact does nothing.`,
  runAt: ({ hertz }: { hertz: string }) => `Run at ${hertz}`,
  noInputAsksForEmergency: 'No input asks for emergency ventilation: it never runs. Give an input that job under Terminals.',
  goToTerminals: 'Go to Terminals',
  itIsToTurnBackwards: 'It is to turn backwards in an emergency, and reverse is forbidden: the fan would stand.',
  permitReverse: 'Permit reverse',
  turnForward: 'Turn forward',
  liesOutsideTheSpeedsIt: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) =>
    `${hertz} lies outside the speeds it may run at: it would run at ${hertz2}.`,
  theContactClosesToAsk: 'The contact closes to ask: when its wire burns through, nobody asks. One that opens also asks then.',
  askByOpening: 'Ask by opening',
  anyTripEndsItSmoke:
    'Any trip ends it: smoke then goes where it likes. It may run on through trips of process and wiring; those watch the motor too, and without them it is the motor that is risked first.',
  runOnThroughProcessAnd: 'Run on through process and wiring',
  itRunsUntilPowerIs: 'It runs until power is switched off and on again, whatever the contact does. Then what is given at hand or auto counts.',
  itEndsWhenTheContact: 'It ends when the contact goes back. Then what is given at hand or auto counts: in auto it goes on by itself.',
  howItRuns: 'How it runs',
  whichTripsItRunsThrough: 'Which trips it runs through',
  whatTheDriveHasLogged: 'What the drive has logged',
  thisDriveKnowsOfNone: 'this drive knows of none',
  noInputAsksForIt: 'no input asks for it',
  seenToRun: 'seen to run',
  notTestedYet: 'not tested yet',
};
