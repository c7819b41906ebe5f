import { formatFigure } from '@yare/core/units';

export const say = {
  kw: ({ watts }: { watts: number }) => `${formatFigure(watts, 2)} kW`,
  aBrakeResistorBetweenAnd: ({ ohms, ohms2, kilowatts }: { ohms: string; ohms2: string; kilowatts: string }) =>
    `a brake resistor between ${ohms} and ${ohms2} Ω that carries ${kilowatts} for ever`,
  aLargerDriveThisOne: ({ ohms, ohms2 }: { ohms: string; ohms2: string }) =>
    `a larger drive: this one may not have less than ${ohms} Ω, and ${ohms2} Ω would be wanted`,
  atHz: ({ top }: { top: number }) => `at ${formatFigure(top, 1)} Hz`,
  loweringTheLoadGivesBack: ({ at, kilowatts }: { at: string; kilowatts: string }) =>
    `Lowering the load ${at} gives back ${kilowatts} for as long as it goes down`,
  theLoadDrivesTheMotor: ({ at, kilowatts }: { at: string; kilowatts: string }) =>
    `The load drives the motor: ${at} it gives back ${kilowatts} for as long as it runs`,
  withDoesNotTakeThat: ({ brakeResistance, kilowatts }: { brakeResistance: number; kilowatts: string }) =>
    `${formatFigure(brakeResistance, 0)} Ω with ${kilowatts} does not take that`,
  theResistorGetsTooHot: 'the resistor gets too hot and the drive trips',
  theDcBusTrips: 'the DC bus trips',
  theDcBusTripsWhatever: 'the DC bus trips whatever the ramps',
  theBrakeResistorOfCarries: ({ back, brakeResistance, kilowatts }: { back: string; brakeResistance: number; kilowatts: string }) =>
    `${back}; the brake resistor of ${formatFigure(brakeResistance, 0)} Ω carries ${kilowatts}.`,
  andAndTheHoldingBrake: ({
    back,
    on,
    fitted,
    trips,
    lowers,
    wanted,
  }: {
    back: string;
    on: boolean;
    fitted: string;
    trips: string;
    lowers: boolean;
    wanted: string;
  }) =>
    `${back}, and ${on ? fitted : 'nothing takes that'}: ${trips}${lowers ? ' and the holding brake has to catch the load' : ''}. It wants ${wanted}.`,
  theDcBusReachesIts: ({ v }: { v: string }) => `the DC bus reaches its trip level of ${v}`,
  theDcBusFallsTo: ({ v }: { v: string }) => `the DC bus falls to ${v}`,
  theCurrentReachesTheHardware: ({ a }: { a: string }) => `the current reaches the hardware level of ${a}`,
  theMotorOverloadTrips: 'the motor overload trips',
  theDriveOverloadTrips: 'the drive overload trips',
  theMotorStandsAtThe: 'the motor stands at the current limit',
  theBrakeResistorIsToo: 'the brake resistor is too hot',
  theLoadDrivesTheMotor2: 'the load drives the motor faster than it may turn',
  theDriveIsTooHot: 'the drive is too hot',
  theUnderloadProtectionTrips: 'the underload protection trips',
  theNoFlowProtectionTrips: 'the no-flow protection trips',
  twoSettingsContradictEachOther: 'two settings contradict each other',
  aProtectionTrips: 'a protection trips',
  setItsLevelBelowWhat: 'Set its level below what the machine draws, or longer to act.',
  letItWaitUntilThere: 'Let it wait until there is flow.',
  seeTheSettingsSheet: 'See the settings sheet.',
  theCurrentLimitOf: ({ a }: { a: string }) => `the current limit of ${a}`,
  theTorqueLimitOf: ({ torqueLimit }: { torqueLimit: number }) => `the torque limit of ${formatFigure(torqueLimit, 0)} %`,
  theHighDcBus: 'the high DC bus',
  raiseTheLimitWithinWhat: 'Raise the limit within what motor and drive carry',
  raiseTheTorqueLimitWithin: 'Raise the torque limit within what motor and machine carry',
  allowMoreTime: 'Allow more time',
  about: ({ text }: { text: string }) => `about ${text}`,
  atWorst: ({ text, text2 }: { text: string; text2: string }) => `${text}, at worst ${text2}`,
  theIsNotKnownWell: ({ ofText, ofText2 }: { ofText: string; ofText2: number }) =>
    ` The ${ofText} ${ofText2 === 1 ? 'is' : 'are'} not known well enough: fit the model to a run.`,
  useTheShortestSafe: 'Use the shortest safe',
  stoppingInAfterTheDrive: ({ s, tripClause, s2, id }: { s: string; tripClause: string; s2: string; id: undefined | string }) =>
    `Stopping in ${s}, ${tripClause} after ${s2}: the drive switches off and ${id === 'overhauling' ? 'the load drives the motor on: only a brake holds it then' : 'the motor coasts'}.`,
  startingInAfter: ({ s, tripClause, s2, startWayOut }: { s: string; tripClause: string; s2: string; startWayOut: string }) =>
    `Starting in ${s}, ${tripClause} after ${s2}. ${startWayOut}`,
  itDoesNotReachHz: ({ top }: { top: number }) => `It does not reach ${formatFigure(top, 1)} Hz within the look-ahead: the ramp is longer than that.`,
  itIsHeldBackFrom: ({ top, holder, wayOut }: { top: number; holder: string; wayOut: string }) =>
    `It does not reach ${formatFigure(top, 1)} Hz within the look-ahead: ${holder} holds it back. ${wayOut}, or lower the maximum frequency.`,
  holdsTheRampItTakes: ({ cap, s, top, s2 }: { cap: string; s: string; top: number; s2: string }) =>
    `${cap} holds the ramp: it takes ${s} to reach ${formatFigure(top, 1)} Hz, not ${s2}.`,
  startedColdTheRunUp: ({ percent, ofText, percent2, warm }: { percent: string; ofText: string; percent2: string; warm: boolean }) =>
    `Started cold the run-up takes ${percent} of what ${ofText === 'drive' ? 'the drive’s own overload' : 'the motor overload'} carries; started again warm from running it comes to ${percent2}${warm ? ': it trips' : ', which is close'}. A longer ramp takes less current.`,
  rampHoldOnHighDc: ({ s }: { s: string }) =>
    `Ramp hold on high DC bus acts almost all the way: set to ${s}, it still turns when the look-ahead ends. A longer time stops it sooner.`,
  useTheShortestRampWithout: 'Use the shortest ramp without ramp hold',
  rampHoldOnHighDc2: ({ s, s2, v, v2 }: { s: string; s2: string; v: string; v2: string }) =>
    `Ramp hold on high DC bus lengthens the stop: it takes ${s}, not ${s2}. Nothing trips: the DC bus is held at ${v} and trips at ${v2}. A ramp without ramp hold has to be longer: the motor gives back the most at full speed.`,
  theDcBusPeaksAt: ({ peak, trips, stops, unknown }: { peak: string; trips: string; stops: string; unknown: string }) =>
    `The DC bus peaks at ${peak}; it trips at ${trips}. ${stops}${unknown}`,
  itDoesNotComeToRest: 'It does not come to rest within the look-ahead.',
  theMotorStopsIn: ({ time }: { time: string }) => `The motor stops in ${time}.`,
  theMotorDrawsAtMost: ({ within, a }: { within: string; a: string }) => `The motor draws at most ${within}; the limit is ${a}.`,
  stopByRamp: 'Stop by ramp',
  stopByCoasting: 'Stop by coasting',
  stopByDirectCurrent: 'Stop by direct current',
  quickStop: 'Quick stop',
  loadHigherAtOnce: ({ loadStepShare }: { loadStepShare: number }) => `Load ${formatFigure(loadStepShare, 0)} % higher at once`,
  supplyAtForS: ({ share, time }: { share: number; time: number }) => `Supply at ${formatFigure(share, 0)} % for ${time} s`,
  trips: ({ tripClause }: { tripClause: string }) => `Trips: ${tripClause}.`,
  itDoesNotGetTo: 'It does not get to speed, so there is nothing to see.',
  drawsLimitTheSpeedFalls: ({ a, a2, lowestSpeed, held }: { a: string; a2: string; lowestSpeed: number; held: boolean }) =>
    `Draws ${a}, limit ${a2}; the speed falls to ${formatFigure(lowestSpeed, 0)} rpm${held ? ' and the limit holds it there' : ''}.`,
  theDcBusFallsTo2: ({ v, v2 }: { v: string; v2: string }) => `The DC bus falls to ${v}, trips at ${v2}.`,
  theDcBusPeaksAt2: ({ v, v2 }: { v: string; v2: string }) => `the DC bus peaks at ${v}, trips at ${v2}`,
  itDoesNotComeTo: ({ margin }: { margin: string }) => `It does not come to rest within the look-ahead; ${margin}.`,
  current: ({ dcCurrent }: { dcCurrent: number }) => `${formatFigure(dcCurrent, 0)} % current. `,
  theMotorStopsInS: ({
    by,
    s,
    margin,
    heldStopping,
    late,
    s2,
  }: {
    by: string;
    s: string;
    margin: string;
    heldStopping: null | string;
    late: boolean;
    s2: string;
  }) =>
    `${by}The motor stops in ${s} s; ${margin}${heldStopping ? '; ramp hold acts on the high bus' : ''}.${late ? ` That is no quick stop: the ramp is set to ${s2} s.` : ''}`,
  aStopInSCannot: ({ s }: { s: string }) => `A stop in ${s} s cannot be made even with the smallest resistor the drive allows.`,
  aStopInSTakes: ({ s, kilojoules }: { s: string; kilojoules: string }) =>
    `A stop in ${s} s takes ${kilojoules} kJ if the machine is as heavy as it is thought to be. It may be heavier than any resistor of this drive stops in that time: record a run and learn from it, or give it longer.`,
  aStopInSNeeds: ({ s }: { s: string }) => `A stop in ${s} s needs no resistor: losses and load take the energy.`,
  andForAsLongAs: ({ kilowatts }: { kilowatts: string }) => `and ${kilowatts} for as long as the load drives, which it has to carry for ever`,
  upToWOnAverage: ({ meanPower, meanPower2, every, roundUp }: { meanPower: number; meanPower2: number; every: number; roundUp: number }) =>
    `up to ${formatFigure(meanPower, meanPower2)} W on average at a stop every ${formatFigure(every, 0)} min. Rated for ${formatFigure(roundUp, 0)} W or more, because one stop heats it before the next`,
  kjAStopUpTo: ({ kilojoules, kilojoules2 }: { kilojoules: string; kilojoules2: string }) =>
    `${kilojoules} kJ a stop, up to ${kilojoules2} kJ if it is heavier than thought`,
  forTheStopInS: ({
    s,
    leastResistance,
    min,
    energy,
    peakPower,
    carried,
  }: {
    s: string;
    leastResistance: number;
    min: number;
    energy: string;
    peakPower: number;
    carried: string;
  }) =>
    `For the stop in ${s} s: ${formatFigure(leastResistance, 0)} Ω or more, at most ${formatFigure(min, 0)} Ω; ${energy}, ${formatFigure(peakPower, 1)} kW at the peak, ${carried}.`,
};
