import { formatFigure } from '@yare/core/units';

export const say = {
  shutTheSuctionValveOr: 'Shut the suction valve, or let the well run empty, for no longer than the guard needs.',
  runItInHandShut: 'Run it in hand, shut the valve behind the pump and wait for its delay.',
  setTheLevelBelowWhat: 'Set the level below what it takes now, see it act, and set it back.',
  takeTheBeltOrThe: 'Take the belt or the coupling off with the drive isolated, then run it at the speed of its work.',
  runItInHandAbove: 'Run it in hand above its usual speed with little drawn until the feedback is over the level.',
  runItInHandSo: 'Run it in hand so slowly that the feedback stays under the level.',
  noFlowIsToldFrom: ({ byLoad }: { byLoad: boolean }) =>
    `${byLoad ? 'No flow' : 'Dry running'} is told from the load against a shut valve, and that was never measured: the guard never acts. Run it against the shut valve below.`,
  theGuardLooksAtA: 'The guard looks at a flow switch, and no input has one: give an input that job under Terminals, or let it go by the load.',
  letItGoByThe: 'Let it go by the load',
  goToTerminals: 'Go to Terminals',
  ofTheUsualLoadIs: ({ percent }: { percent: string }) =>
    `${percent} of the usual load is so near to it that a little more of its own work trips it.`,
  use: 'Use 130 %',
  ofTheUsualLoadIs2: ({ percent }: { percent: string }) =>
    `${percent} of the usual load is so near to it that a little less of its own work trips it.`,
  use2: 'Use 60 %',
  itActsAboveOfThe: ({ percent, percent2 }: { percent: string; percent2: string }) =>
    `It acts above ${percent} of the range, and ${percent2} is held: it acts as soon as the set point is reached.`,
  setItOverTheSet: 'Set it 15 % over the set point',
  itActsBelowOfThe: ({ percent, wake, percent2, percent3 }: { percent: string; wake: boolean; percent2: string; percent3: string }) =>
    `It acts below ${percent} of the range, and ${wake ? `it wakes at ${percent2}` : `${percent3} is held`}: it acts in ordinary running.`,
  setItToHalfThe: 'Set it to half the set point',
  withNothingDrawnItShould: ({ sleeps, delay }: { sleeps: number; delay: number }) =>
    `With nothing drawn it should fall asleep after ${formatFigure(sleeps, 0)} s; the no-flow guard stops it after ${formatFigure(delay, 0)} s. Every quiet hour would be a trip.`,
  letTheGuardWaitS: ({ sleeps }: { sleeps: number }) => `Let the guard wait ${formatFigure(sleeps, 0)} s`,
  sleepAfterS: ({ soonest }: { soonest: number }) => `Sleep after ${formatFigure(soonest, 0)} s`,
  turnTheGuardOff: 'Turn the guard off',
  aDryPumpMovesNothing: ({ delay, delay2 }: { delay: number; delay2: number }) =>
    `A dry pump moves nothing either: the no-flow guard acts after ${formatFigure(delay, 0)} s, before dry running is told after ${formatFigure(delay2, 0)} s. It never acts.`,
  tellDryRunningAfterS: ({ max }: { max: number }) => `Tell dry running after ${formatFigure(max, 0)} s`,
  theDryRunningDelayOf: ({ delay }: { delay: number }) =>
    `The dry-running delay of ${formatFigure(delay, 0)} s is longer than the sleep delay: it falls asleep first and the guard never acts.`,
  aGuardIsToRest: 'A guard is to rest and try again, and no tries are left to it: it trips at once.',
  letItTryTimes: 'Let it try 3 times',
  cleaningTurnsThePumpBackwards:
    'Cleaning turns the pump backwards, and reverse is forbidden: it would only stand and go on. First make sure that the impeller cannot unscrew.',
  permitReverse: 'Permit reverse',
  itIsToCleanAt: 'It is to clean at high load, and the high-load guard is off: nothing begins it.',
  setTheGuardTo: 'Set the guard to 130 %',
  thePipeCountsAsFull: ({ percent, percent2 }: { percent: string; percent2: string }) =>
    `The pipe counts as full at ${percent} of the range, and ${percent2} is held: it fills until it trips.`,
  fullAtHalfTheSet: 'Full at half the set point',
  itIsToTurnAt: ({ hertz }: { hertz: string }) =>
    `It is to turn at ${hertz} against frost, and no input has the frost thermostat: nothing begins it. Give an input that job under Terminals.`,
  afterAGuard: 'After a guard',
  fillingThePipe: 'Filling the pipe',
  runningOn: 'Running on',
  cleaningThePump: 'Cleaning the pump',
  cloggedFilter: 'Clogged filter',
  againstFrost: 'Against frost',
  againstAShutValve: 'Against a shut valve',
  usualLoad: 'Usual load',
  noneInUse: 'none in use',
  eachSeenToAct: 'each seen to act',
  inUseNoneSeenTo: ({ used }: { used: number }) => `${used} in use, none seen to act yet`,
};
