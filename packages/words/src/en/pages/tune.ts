import { formatFigure } from '@yare/core/units';

export const say = {
  theDriveDidNotKeep: 'The drive did not keep it: what it measured is gone at power-off. Try again.',
  refused: 'Refused.',
  itCouldNotBeMeasured: ({ sentence }: { sentence: string }) => `It could not be measured. ${sentence}`,
  stoppedBeforeItHadFinished: ({ sentence }: { sentence: string }) =>
    `Stopped before it had finished (${sentence}). Nothing was changed in the drive.`,
  theDriveHasMeasuredIts:
    'The drive has measured its motor and holds it in working memory only: gone at power-off, and the draft does not know it. Keep it, and copy it back.',
  measuredKeptAndInThe: ({ author, when, proofText }: { author: string; when: string; proofText: string }) =>
    `Measured, kept and in the draft: ${author}, ${when}. ${proofText}.`,
  measuredButChangedInThe: ({ when, changedText }: { when: string; changedText: string }) =>
    `Measured ${when}, but ${changedText} changed in the drive since. Measure again.`,
  finishing: 'Finishing',
  measuringTurning: 'Measuring, turning',
  measuringAtStandstill: 'Measuring at standstill',
  stayOnThisPageLeaving: 'Stay on this page: leaving it, hiding it or losing the link stops the measurement.',
  noEstimate: 'no estimate',
  estimate: ({ text }: { text: string }) => `estimate ${text}`,
  notMeasuredYet: ({ code }: { code: string }) => `${code} · not measured yet`,
  text: ({ code, estimate, off, abs, inDraft }: { code: string; estimate: string; off: boolean; abs: number; inDraft: boolean }) =>
    `${code} · ${estimate}, ${off ? '+' : '−'}${formatFigure(abs, 0)} %${inDraft ? '' : ' · not in the draft'}`,
  beforeYouTune: 'Before you tune',
  isSomethingCoupledToThe: 'Is something coupled to the motor?',
  coupled: 'Coupled',
  machineConnected: 'machine connected',
  free: 'Free',
  couplingOrBeltIsOff: 'coupling or belt is off',
  aMotorThatTurnsTo: 'A motor that turns to be measured must be free, or the load is measured with it and may be thrown about. Answer this first.',
  coupledOnlyAtStandstillIt:
    'Coupled: only at standstill. It measures resistances and leakage; the no-load current stays an estimate. The shaft may twitch.',
  theMotorTurnsByItself:
    'The motor turns by itself up to 80 % of rated speed. Hold the button for the whole time: letting go stops it and changes nothing.',
  theMotorIsFreeNobody: 'The motor is free, nobody at the shaft, it may turn',
  nobodyAtShaftOrTerminals: 'Nobody at shaft or terminals, current may flow',
  theMotorOfWillTurn: ({ tag, name }: { tag: string; name: string }) => `The motor of ${tag} ${name} will turn.`,
  currentFlowsThroughTheMotor: ({ tag, name }: { tag: string; name: string }) =>
    `Current flows through the motor of ${tag} ${name}; the shaft stands still, or twitches.`,
  howToMeasure: 'How to measure',
  atStandstill: 'At standstill',
  someSeconds: 'some seconds',
  turning: 'Turning',
  longerWithRamps: 'longer, with ramps',
  onlyWhenFree: 'only when free',
  figureOfThePlateIs: ({ count }: { count: number }) =>
    `${count} ${count === 1 ? 'figure of the plate is' : 'figures of the plate are'} not in the drive: it would measure against another motor.`,
  goToWrite: 'Go to Write',
  goToPlateAndCopy: 'Go to Plate and copy them',
  tune: 'Tune',
  goToTestRun: 'Go to Test run',
  cannotMeasureItsMotorThe: ({ family }: { family: string }) => `${family} cannot measure its motor. The figures stay an estimate from the plate.`,
  fitTheModelToA: 'Fit the model to a recorded run instead',
  holdToRunAtFull: 'Hold to run at full speed and let go; the recording of it teaches inertia, friction and the motor’s own constants.',
  live: 'Live',
  lastS: ({ shownSeconds }: { shownSeconds: number }) => `last ${shownSeconds} s`,
  estimateAgainstMeasured: 'estimate against measured',
  theMotor: 'The motor',
  firstSayWhetherItIs: 'First say whether it is coupled',
  firstWriteThePlateTo: 'First write the plate to the drive',
  firstConfirmThatItMay: 'First confirm that it may be measured',
  thePageWasLeft: 'the page was left',
  keeping: 'Keeping…',
  keepItAndCopyIt: 'Keep it and copy it to the draft',
  stopMeasuring: 'Stop measuring',
  stoppedByHand: 'stopped by hand',
  measureAtStandstill: 'Measure at standstill',
  itWasLetGo: 'it was let go',
};
