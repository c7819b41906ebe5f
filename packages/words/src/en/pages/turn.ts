import { formatFigure } from '@yare/core/units';

export const say = {
  theDriveWillRunAt: ({ reached, abs }: { reached: number; abs: boolean }) =>
    `The drive will run at ${formatFigure(reached, 1)} Hz: its ${abs ? 'minimum' : 'maximum'} frequency.`,
  atHzNothingTurnsChoose: 'At 0 Hz nothing turns. Choose a frequency.',
  reverseIsForbiddenInThe: ({ asked }: { asked: number }) => `Reverse is forbidden in the drive: at ${formatFigure(asked, 1)} Hz it stands still.`,
  driveAllowsToHzMinus: ({
    minimumFrequency,
    maximumFrequency,
    reversePermit,
  }: {
    minimumFrequency: number;
    maximumFrequency: number;
    reversePermit: number;
  }) =>
    `drive allows ${formatFigure(minimumFrequency, 1)} to ${formatFigure(maximumFrequency, 1)} Hz${reversePermit ? ', minus is reverse' : ', forward only'}`,
  theDriveWasNotRead: 'the drive was not read yet',
  frequencyToRunAt: 'Frequency to run at',
  hz: 'Hz',
  itWouldNotTurnSee: 'It would not turn: see the frequency',
  firstConfirmThatItMay: 'First confirm that it may turn',
  testRun: 'Test run',
  live: 'Live',
  lastS: ({ shownSeconds }: { shownSeconds: number }) => `last ${shownSeconds} s`,
  theRunIsKeptAs: ({ recordingId }: { recordingId: number }) => `The run is kept as recording ${recordingId}.`,
  openTheRecording: 'Open the recording',
  beforeItTurns: 'Before it turns',
  frequency: 'Frequency',
  willTurnWhileYouHold: ({ tag, name }: { tag: string; name: string }) => `${tag} ${name} will turn while you hold.`,
  drive: 'Drive',
  linkTimeOut: 'Link time-out',
  withoutTheLinkTheDrive: ({ code }: { code: string }) => `${code} · without the link the drive stops by itself after this`,
  whileYouHoldCommandIs:
    'While you hold, command is yours. Letting go, hiding or closing this page, or one second without the link stops the motor, and command goes back to the terminals.',
  torque: 'Torque',
  ofRated: 'of rated',
  inputPower: 'Input power',
  atTheMotor: 'at the motor',
  motorHeat: 'Motor heat',
  ofTheOverloadsTripPoint: "of the overload's trip point",
  lookedAhead: ({
    predicted,
    decimals,
    band,
    unit,
    inside,
  }: {
    predicted: number;
    decimals: number;
    band: null | number;
    unit: string;
    inside: null | boolean;
  }) =>
    `looked ahead ${formatFigure(predicted, decimals)} ${band === null ? unit : `± ${formatFigure(band, decimals)} ${unit}, ${inside ? 'inside' : 'outside'}`}`,
  motionIsProvedByA: ({ provingSpeed, reached }: { provingSpeed: number; reached: number }) =>
    `Motion is proved by a run to ${formatFigure(provingSpeed, 1)} Hz or more and down again; this one came to ${formatFigure(reached, 1)} Hz.`,
  keptAsTheProofOf: ({ measured }: { measured: string }) => `Kept as the proof of Motion: ${measured}.`,
  itRanUpAndDown: ({ measured, outside }: { measured: string; outside: number }) =>
    `It ran up and down again without a trip: ${measured}.${outside > 0 ? ' What lies outside was not foreseen: fit the model to this run, or look for the reason, before it counts.' : ''}`,
  countItAsTheProof: 'Count it as the proof of Motion',
};
