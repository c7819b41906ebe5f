import { formatFigure } from '@yare/core/units';

export const say = {
  takeOneOffAt: ({ hertz }: { hertz: string }) => `Take one off at ${hertz}`,
  addOneAtTakeOne: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) => `Add one at ${hertz}, take one off at ${hertz2}`,
  pumpsAreAddedByThe: 'Pumps are added by the output of the loop, and the speed does not come from a process: none is ever added.',
  itIsToWorkWith: 'It is to work with others, and there is one pump in all.',
  itIsNumberOfIt: ({ number, pumps }: { number: number; pumps: number }) => `It is number ${number} of ${pumps}: it is never asked to run.`,
  hasNoRelayGiveAn: ({ wired, wired2 }: { wired: string; wired2: number }) =>
    `${wired} ${wired2 === 1 ? 'has' : 'have'} no relay: give an output that job under Terminals.`,
  goToTerminals: 'Go to Terminals',
  theOutputNeverGoesAbove: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) =>
    `The output never goes above ${hertz}: no pump is ever added at ${hertz2}.`,
  theOutputNeverGoesBelow: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) =>
    `The output never goes below about ${hertz}: no pump is ever taken off at ${hertz2}.`,
  aPumpIsAddedAt: ({ hertz, hertz2 }: { hertz: string; hertz2: string }) =>
    `A pump is added at ${hertz} and taken off at ${hertz2}: so near that they come and go by turns.`,
  thereIsNoPumpThe: ({ jockey, pumps }: { jockey: number; pumps: number }) =>
    `There is no pump ${formatFigure(jockey, 0)}: the jockey is one of ${pumps}.`,
  whoWorksTogether: 'Who works together',
  addingAndTakingOff: 'Adding and taking off',
  sharingTheHours: 'Sharing the hours',
  thisDriveWorksAlone: 'this drive works alone',
  itWorksAlone: 'it works alone',
  seenToComeAndGo: 'seen to come and go',
  notSeenToComeAnd: 'not seen to come and go yet',
};
