import { formatFigure } from '@yare/core/units';

export const say = {
  insulationReading: 'Insulation reading',
  windingTemperature: 'Winding temperature',
  beforePower: 'Before power',
  survey: 'Survey',
  whyInThisOrder: 'Why in this order',
  ofPassed: ({ passed, items }: { passed: number; items: number }) => `${passed} of ${items} passed`,
  inThisOrder: 'In this order',
  deadAndLockedBeforeA: 'Dead and locked before a hand goes in. Earths before phases, so that a mistake finds its way to earth and not through you.',
  insulationWhileTheMotorIs: 'Insulation while the motor is still off the drive: 500 V on its output destroys it.',
  motorBeforeSupplyTheTwo:
    'Motor before supply: the two rows of three terminals look alike, and the supply on the motor side destroys the drive too.',
  theSupplyLastMeasuredBefore: 'The supply last, measured before anything is started.',
  againChangedSince: ({ changedText }: { changedText: string }) => `again: ${changedText} changed since`,
  text: ({ figures, proofText, author, when }: { figures: undefined | string; proofText: string; author: string; when: string }) =>
    `${figures ? `${proofText} · ` : ''}${author}, ${when}`,
  putItRightAndCheck: ({ checkName, proofText }: { checkName: string; proofText: string }) =>
    `${checkName}: ${proofText}. Put it right and check it again before power goes on.`,
  beforeThisOne: ({ checkName }: { checkName: string }) => `Before this one: ${checkName}.`,
  next: ({ name }: { name: string }) => `Next: ${name}`,
  undoThisCheck: 'Undo this check',
  recordTheReading: 'Record the reading',
  notOk: 'Not OK',
  ok: 'OK',
  theDriveDoesNotAnswer: 'The drive does not answer, so it tells nothing of its DC bus. That is no proof: prove it dead with the tester.',
  theDriveNoLongerAnswers: ({ last }: { last: number }) =>
    `The drive no longer answers; its last reading was ${formatFigure(last, 0)} V. Its electronics are off, the bus is not empty yet: wait the time on the drive’s label, 5 minutes where there is none, and prove it dead with the tester.`,
  dcBus: 'DC bus',
  mustBeBelowVIt: ({ deadBus }: { deadBus: number }) => `must be below ${deadBus} V; it is not falling`,
  fallingBelowVInAbout: ({ deadBus, seconds }: { deadBus: number; seconds: number }) =>
    `falling; below ${deadBus} V in about ${formatFigure(seconds, 0)} s at this rate`,
  insulationOfTheWinding: 'Insulation of the winding',
  resin: 'Resin',
  oldVarnish: 'Old varnish',
  notKnown: 'Not known',
  mostMotorsSinceAboutAre:
    'Most motors since about 1970 are wound in resin (thermosetting). Old varnish (thermoplastic) loses far more of its reading with heat.',
};
