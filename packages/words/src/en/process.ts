import { formatFigure } from '@yare/core/units';

export const say = {
  theFileIsLongerThan: 'The file is longer than 60 MB. Cut out the part that matters and take in that.',
  theFileHasLinesToo: ({ lines }: { lines: number }) =>
    `The file has ${lines} lines: too few for a recording. Take in a table with a line for each sample.`,
  noTwoColumnsOfFigures: 'No two columns of figures were found in the file. Take in a table with time, output and feedback side by side.',
  onlyLinesOfFiguresWere: ({ rows }: { rows: number }) => `Only ${rows} lines of figures were found: too few for a recording.`,
  column: ({ k }: { k: number }) => `Column ${k}`,
  chooseAColumnForTime: 'Choose a column for time, for output and for feedback.',
  timeOutputAndFeedbackEach: 'Time, output and feedback each want a column of their own.',
  timeGoesBackInLine: ({ i, name }: { i: number; name: string }) =>
    `Time goes back in line ${i} of the figures: ${name} is not the time, or the file holds two recordings.`,
  tooFewLinesHaveA: 'Too few lines have a figure in all three columns.',
  noteAtLeastThreeSpeeds: 'Note at least three speeds, over the whole range it works in.',
  theFeedbackTurnsBackAt:
    'The feedback turns back: at some speeds more output gives less of it. No controller holds that; look at pump, check valve and sensor.',
  theFeedbackHardlyMovesFrom: 'The feedback hardly moves from the lowest to the highest speed: the sensor does not see what the machine does.',
  upAndDownGiveDifferent: 'Up and down give different figures at the same speed: something sticks. Find it before anything is tuned.',
  theProcessAnswersNearlyThe: 'The process answers nearly the same at every speed noted: one set of values suits them all.',
  theProcessIsTimesAs: ({ slopes }: { slopes: number }) =>
    `The process is ${formatFigure(slopes, 1)} times as steep at one end as at the other: the values below are judged where it is steepest.`,
  upAndDownDifferBy: ({ percent }: { percent: string }) => ` Up and down differ by ${percent} % of the range.`,
  straighteningIsNotWorthIt: ({ percent }: { percent: string }) =>
    `Straightening is not worth it: the feedback is within ${percent} % of the output already.`,
  oneLineBringsItFrom: ({ percent, percent2 }: { percent: string; percent2: string }) =>
    `One line brings it from ${percent} to within ${percent2} % of the output.`,
  twoLinesThatMeetAt: ({ percent, percent2 }: { percent: string; percent2: string }) =>
    ` Two lines that meet at ${percent} % would leave ${percent2} %; a drive has one.`,
  oneLineCannotStraightenIt: ({ percent, two }: { percent: string; two: string }) =>
    `One line cannot straighten it: ${percent} % of the range is left.${two}`,
  lineIsNotASpeed: ({ i, line }: { i: number; line: string }) => `Line ${i}, “${line}”, is not a speed and a feedback. Enter two figures a line.`,
  noFiguresWereFoundEnter: 'No figures were found. Enter a speed and a feedback, a line each.',
  theTwoPointsLieToo: ({ apartBy }: { apartBy: number }) =>
    `The two points lie too near to each other: take them at least ${apartBy} % of the range apart, one of them at rest.`,
  low: ({ abs, x }: { abs: number; x: number }) => `${formatFigure(abs, 1)} % ${x < 0 ? 'low' : 'high'}`,
  theSensorAgreesWithThe: ({ said, said2, allowed }: { said: string; said2: string; allowed: number }) =>
    `The sensor agrees with the gauge: ${said} and ${said2}, ${allowed} % is allowed.`,
  itReadsLikeASensor: ({ low, high, unit, low2, high2 }: { low: number; high: number; unit: string; low2: number; high2: number }) =>
    `It reads like a sensor of ${low} to ${high} ${unit}, not ${low2} to ${high2}: look at its plate.`,
  bothAreOffByThe: 'Both are off by the same: look at its zero, and at how much higher or lower than the gauge it is mounted.',
  lookAtItsRangeAt: 'Look at its range, at its wiring, and at the gauge.',
  theSensorReadsAtThe: ({ said, said2, allowed, why }: { said: string; said2: string; allowed: number; why: string }) =>
    `The sensor reads ${said} at the first point and ${said2} at the second; ${allowed} % is allowed. ${why}`,
  theRecordingIsTooShort:
    'The recording is too short to tell anything. Record some seconds at rest, the step, and then until nothing moves any more.',
  theOutputDoesNotStep: 'The output does not step in this recording. Change the speed in hand by 8 to 15 % at once, with the loop open.',
  theOutputChangesMoreThan: 'The output changes more than once. Cut one step out of the recording, or make the test again with one.',
  theFeedbackWasStillMoving:
    'The feedback was still moving before the step. Wait until it stands, then step; leave a few seconds of rest in the recording.',
  theFeedbackChangesTooLittle:
    'The feedback changes too little against its noise. Take a larger step, or look whether the sensor sees the process at all.',
  theRecordingEndsBeforeThe: 'The recording ends before the feedback has settled. Record three times as long as it takes to get half of the way.',
  somethingElseMovedTheFeedback:
    'Something else moved the feedback during the test, a tap or another machine. Make it again when nothing else changes.',
  theFeedbackRanAgainstThe: 'The feedback ran against the end of the sensor’s range. Step the other way, or take a smaller step.',
  firmForThisMachine: 'Firm, for this machine',
  simcTight: 'SIMC, tight',
  simcSmooth: 'SIMC, smooth',
  lambda: 'Lambda',
  itaeForDisturbancesPi: 'ITAE for disturbances, PI',
  itaeForDisturbancesPid: 'ITAE for disturbances, PID',
  itaeForSetPointPi: 'ITAE for set point, PI',
  itaeForSetPointPid: 'ITAE for set point, PID',
  cohenCoonPi: 'Cohen–Coon, PI',
  zieglerNicholsPi: 'Ziegler–Nichols, PI',
  doesNotSettle: 'does not settle',
  settlesInS: ({ s, s2 }: { s: number; s2: number }) => `settles in ${formatFigure(s, s2)} s`,
  theDriveStoresNoIntegral: ({ integralTime }: { integralTime: number }) =>
    ` The drive stores no integral time as long as ${formatFigure(integralTime, 0)} s: it comes to none, and the set point is not quite held.`,
  roundedAsTheDriveStores: ({ rounding }: { rounding: number }) =>
    ` Rounded as the drive stores it, which changes Ms by ${formatFigure(rounding, 2)}.`,
  afterAChangeOfDemand: ({
    settledText,
    gainMargin,
    sensitivity,
    tooNear,
    roundingText,
  }: {
    settledText: string;
    gainMargin: number;
    sensitivity: number;
    tooNear: number;
    roundingText: string;
  }) =>
    `After a change of demand it ${settledText}, and its gain could be ${formatFigure(gainMargin, 1)} times as high before it swings, where it is hardest to hold (Ms ${formatFigure(sensitivity, 2)}; above ${tooNear} is too near).${roundingText}`,
  ms: ({ sensitivity }: { sensitivity: number }) => `Ms ${formatFigure(sensitivity, 2)}`,
  wouldSwingMoreAndMore: 'would swing more and more',
  tooNearToSwinging: ({ ms }: { ms: string }) => `too near to swinging: ${ms}`,
  shakesTheOutputByAt: ({ kick }: { kick: number }) => `shakes the output by ${formatFigure(kick, 0)} % at every step or noise of the sensor`,
  nearToSwinging: ({ ms }: { ms: string }) => `near to swinging: ${ms}`,
  comesToNoRestWhere: 'comes to no rest where little is drawn, or on the drive’s ramp',
  aNewSetPointAnd: 'A new set point, and back',
  moreDemandAndBack: 'More demand, and back',
  theFilterClogsAndIs: 'The filter clogs, and is changed',
  littleIsDrawn: 'Little is drawn',
  aStartWithEverythingShut: 'A start with everything shut',
  theSensorWireBreaks: 'The sensor wire breaks',
  more: ({ setpoint, sensorDecimals, unit }: { setpoint: number; sensorDecimals: number; unit: string }) =>
    `${formatFigure(setpoint, sensorDecimals)} ${unit} more`,
  aQuarterMoreFlowsIn: 'a quarter more flows in',
  theDamperGoesTo: ({ least }: { least: number }) => `the damper goes to ${least} %`,
  tapsFurtherOpen: ({ demand }: { demand: number }) => `taps ${formatFigure(demand, 0)} % further open`,
  itTakesTimesWhatA: ({ clogged }: { clogged: number }) => `it takes ${clogged} times what a clean one does`,
  tapsShutUntilOfThe: ({ leastDrawn }: { leastDrawn: number }) => `taps shut until ${formatFigure(leastDrawn, 0)} % of the pump’s best flow is left`,
  nothingFlows: 'nothing flows',
  afterFiveSeconds: 'after five seconds',
  afterS: ({ what, tripClause, time }: { what: string; tripClause: string; time: number }) =>
    `${what}: ${tripClause} after ${formatFigure(time, 1)} s.`,
  itSwingsBetweenAndAnd: ({ what, figure, figure2 }: { what: string; figure: string; figure2: string }) =>
    `${what}: it swings between ${figure} and ${figure2} and does not come to rest.`,
  to: ({ figure, figure2 }: { figure: string; figure2: string }) => `${figure} to ${figure2}`,
  itHasNotComeBack: ({ what, between, output }: { what: string; between: string; output: number }) =>
    `${what}: ${between}; it has not come back to its set point in the time looked at, and stands at ${formatFigure(output, 1)} Hz.`,
  itHardlyMoves: ({ what, between }: { what: string; between: string }) => `${what}: it hardly moves, ${between}.`,
  itComesToItsSet: ({ what, time, figure, asleep }: { what: string; time: string; figure: string; asleep: null | number }) =>
    `${what}: it comes to its set point in ${time}, at most ${figure}${asleep === null ? '' : `, and falls asleep after ${formatFigure(asleep, 0)} s`}.`,
  backWithin: ({ what, between, time }: { what: string; between: string; time: string }) => `${what}: ${between}, back within ${time}.`,
  itTripsAfterSAnd: ({ time }: { time: number }) => `It trips after ${formatFigure(time, 1)} s, and the motor runs out.`,
  itStopsByItsRamp: 'It stops by its ramp.',
  itGoesOnAtHz: ({ output, figure }: { output: number; figure: string }) =>
    `It goes on at ${formatFigure(output, 1)} Hz, and comes to ${figure} with nobody watching. Choose what a lost signal does.`,
  theControllerIsTooFirm: 'The controller is too firm for this process.',
  theControllerAsksForMore:
    'The controller asks for more than the drive’s ramp gives: the output goes up and down on its ramp. Less gain calms it, or a shorter ramp where the machine allows one.',
  theOutputGoesInStraight:
    'The output goes in straight lines while the feedback holds still: something sticks, a damper, a valve or a float. No values cure that; free it first.',
  itGoesToAndFro: 'It goes to and fro between two steps of the sensor. A finer range or a little filter cures it, no values do.',
  theOutputStandsTheSwing: 'The output stands: the swing comes from elsewhere, another machine or a loop that shares this pipe.',
  andGrows: ', and grows',
  andDiesAway: ', and dies away',
  itSwingsByEveryS: ({
    size,
    unit,
    period,
    period2,
    grows,
    swingCauses,
  }: {
    size: string;
    unit: string;
    period: number;
    period2: number;
    grows: string;
    swingCauses: string;
  }) => `It swings by ±${size} ${unit} every ${formatFigure(period, period2)} s${grows}. ${swingCauses}`,
};
