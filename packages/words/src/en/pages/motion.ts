import { formatFigure } from '@yare/core/units';

export const say = {
  output: 'Output',
  hz: 'Hz',
  motor: 'Motor',
  limit: ({ currentLimit }: { currentLimit: number }) => `limit ${formatFigure(currentLimit, 1)}`,
  dcBus: 'DC bus',
  tripsAt: ({ overvoltageTrip }: { overvoltageTrip: number }) => `trips at ${overvoltageTrip}`,
  tripsAt2: ({ undervoltageTrip }: { undervoltageTrip: number }) => `trips at ${undervoltageTrip}`,
  lookingAhead: 'Looking ahead…',
  solidDraftDashedWhatIs: 'Solid: draft. Dashed: what is in the drive now.',
  noRampUpToS: ({ longestStopSearched }: { longestStopSearched: number }) =>
    `no ramp up to ${longestStopSearched} s does without ramp hold or a trip`,
  shortestWithoutRampHoldWith: ({ searchedStop, searchedStop2 }: { searchedStop: string; searchedStop2: string }) =>
    `shortest without ramp hold ${searchedStop}, with a resistor ${searchedStop2}`,
  hz2: ({ frequency }: { frequency: number }) => `${formatFigure(frequency, 0)} Hz`,
  to: ({ base }: { base: string }) => `0 to ${base}`,
  to2: ({ base }: { base: string }) => `${base} to 0`,
  toShortestComputing: ({ base }: { base: string }) => `${base} to 0 · shortest: computing…`,
  toShortest: ({ base, shortest }: { base: string; shortest: string }) => `${base} to 0 · ${shortest}`,
  plate: ({ base }: { base: string }) => `plate ${base}`,
  belowAboutHzItMoves: ({ hertz, setPressure }: { hertz: number; setPressure: number }) =>
    `below about ${formatFigure(hertz, 0)} Hz it moves no water at ${setPressure} bar (estimate)`,
  learnedFromARecording: 'learned from a recording',
  estimateFromThePlate: 'estimate from the plate',
  motion: 'Motion',
  lookAheadStartRunStop: 'Look-ahead: start, run, stop',
  computing: 'computing…',
  noLookAhead: ({ sentence }: { sentence: string }) => `No look-ahead: ${sentence}`,
  goToTheSurvey: 'Go to the survey',
  goToThePlate: 'Go to the plate',
  shortestStopWithoutAResistor: 'Shortest stop without a resistor',
  jKj: ({ inertia, omega, kj }: { inertia: number; omega: number; kj: string }) =>
    `½ J ω² = ½ · ${formatFigure(inertia, 3)} · ${formatFigure(omega, 0)}² = ${kj} kJ`,
  busTakesCKj: ({ overvoltageTrip, rest, kj }: { overvoltageTrip: number; rest: number; kj: string }) =>
    `bus takes ½ C (${overvoltageTrip}² − ${formatFigure(rest, 0)}²) = ${kj} kJ`,
  lossesAndLoadMustTake: 'losses and load must take the rest',
  byTheModelVBelow: 'by the model, 15 V below the trip:',
  busPeakOfTheDraft: ({ peakBus, learned }: { peakBus: number; learned: boolean }) =>
    `Bus peak of the draft ${formatFigure(peakBus, 0)} V. ${learned ? 'Inertia as learned from a recording.' : 'Inertia is an estimate: rotor by size, plus the load as known.'}`,
  runComputedInMs: ({ took }: { took: number }) => `Run computed in ${formatFigure(took, 0)} ms.`,
  setTheStopTo: ({ seconds }: { seconds: string }) => `Set the stop to ${seconds}`,
  goToTestRun: 'Go to Test run',
  goToWrite: 'Go to Write',
  theFittedRunTellsThe: ({ percent, seconds }: { percent: number; seconds: string }) =>
    `The fitted run tells the inertia to ±\u00a0${formatFigure(percent, 0)}\u00a0% only, and each ± here is that of better runs. Make one that stops in ${seconds}, then fit the model to both.`,
  touchALineToDraw: 'touch a line to draw it',
  whatIf: 'What if',
  brakeResistor: 'Brake resistor',
  overS: ({ longestStopSearched }: { longestStopSearched: number }) => `over ${longestStopSearched} s`,
  inDrive: 'in drive',
};
