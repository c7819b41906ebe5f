import { formatFigure } from '@yare/core/units';

export const say = {
  running: 'Running',
  computing: 'computing…',
  onARampOfDemand: 'On a ramp of demand',
  ramp: 'Ramp',
  allAble: 'All able',
  pumpTripsHalfWay: 'Pump 1 trips half-way',
  workingItOut: 'Working it out…',
  aYearLikeThatDay: 'a year like that day, every ninth wet',
  overAYear: 'Over a year',
  pump: ({ i }: { i: number }) => `Pump ${i}`,
  startsInTheWorstHour: ({ starts, startsPerHour }: { starts: undefined | number; startsPerHour: number }) =>
    `${formatFigure(starts, 0)} starts, ${startsPerHour} in the worst hour`,
  estimatedPumpsOfOneMake:
    'Estimated: pumps of one make, each settled within seconds. The day is the one chosen under Sleep and wake, times the pumps that may run.',
  anotherComesAndGoes: 'Another comes and goes',
  letMoreFlowThanOne: 'Let more flow than one pump takes, until another comes; then less, until it goes.',
  aLostOneIsReplaced: 'A lost one is replaced',
  whileOneRunsTurnIts: 'While one runs, turn its selector to off: another has to take its place at once.',
  runsPump: ({ pumps }: { pumps: string }) => `runs: pump ${pumps}`,
  noneRuns: 'none runs',
  proveIt: 'Prove it',
  seenJustNowWriteThe: ({ text, differing }: { text: string; differing: number }) =>
    `Seen just now: ${text}.${differing > 0 ? ' Write the draft before it counts.' : ''}`,
  countIt: ({ label }: { label: string }) => `Count it: ${label}`,
  mostThatIsWanted: 'Most that is wanted',
  severalPumps: 'Several pumps',
  ahead: 'Ahead',
  worksAloneItStartsNo: ({ family }: { family: string }) => `${family} works alone: it starts no other pump.`,
  onlyPumpsWorkTogetherAs: 'Only pumps work together as a station.',
  thisDriveIsNumberThe: ({ number }: { number: number }) =>
    `This drive is number ${number}. The lowest number in auto keeps the process for all; each has its own settings, so set them alike but for the number.`,
  lookAhead: 'Look ahead',
  theRampGoesUpTo: 'the ramp goes up to it within half an hour, and back',
};
