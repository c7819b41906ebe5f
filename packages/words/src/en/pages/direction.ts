import { formatFigure } from '@yare/core/units';

export const say = {
  theCouplingAgainstTheArrow: 'The coupling, against the arrow cast on the casing',
  pressureIsNoProofA: 'Pressure is no proof: a pump makes some of it backwards too. A dry seal burns within seconds, so fill it first.',
  theWheelAgainstTheArrow: 'The wheel, against the arrow on the housing',
  airIsNoProofA: 'Air is no proof: a fan moves some of it backwards too. Look at the wheel as it runs down, when it is slow enough.',
  theBeltWhichWayIt: 'The belt: which way it carries',
  lookAtTheTailEnd: 'Look at the tail end as well. Nothing on the belt, nobody at its drums.',
  theHookItHasTo: 'The hook: it has to rise',
  withAnEmptyHookClear: 'With an empty hook, clear of both ends of its way. A hoist that turns the wrong way runs away from its limit switch.',
  theShaftAgainstTheArrow: 'The shaft, against the arrow on the gear',
  aScrewedPropellerComesOff: 'A screwed propeller comes off when it turns backwards.',
  frequencyToTurnAt: 'Frequency to turn at',
  hz: 'Hz',
  direction: 'Direction',
  itWouldNotTurnSee: 'It would not turn: see the frequency',
  firstConfirmThatItMay: 'First confirm that it may turn',
  live: 'Live',
  lastS: ({ shownSeconds }: { shownSeconds: number }) => `last ${shownSeconds} s`,
  whatToLookAt: 'What to look at',
  beforeItTurns: 'Before it turns',
  frequency: 'Frequency',
  theDriveWillRunAt: ({ reached }: { reached: number }) => `the drive will run at ${formatFigure(reached, 1)} Hz, its least`,
  slowEnoughToSeeForward: 'slow enough to see, forward',
  willTurnForwardWhileYou: ({ tag, name }: { tag: string; name: string }) => `${tag} ${name} will turn forward while you hold.`,
  commandIsYoursOnlyWhile:
    'Command is yours only while you hold. When you let go it ramps down and start goes back to the terminals; the strip above says who has it.',
  provedButChangedSinceProve: ({ when, changedText }: { when: string; changedText: string }) =>
    `Proved ${when}, but ${changedText} changed since. Prove it again.`,
  goOnToTune: 'Go on to Tune',
  itTurnsTheWrongWay: ({ by }: { by: string }) =>
    `It turns the wrong way (${by}). There are two ways to fix it; do one of them, then prove it again by holding below.`,
  changeTwoMotorLeadsOver: 'Change two motor leads over',
  isolateLockOffWaitFor:
    'Isolate, lock off, wait for the bus, swap any two of U, V, W at the drive or the motor. The better way: forward is forward for any drive that ever comes here.',
  reverseThePhaseOrderIn: ({ name, code }: { name: string; code: string }) => `Reverse the phase order in the drive: ${name} ${code}`,
  noWireIsTouchedA: 'no wire is touched; a new drive from the shelf would turn it wrong again. Goes to Write.',
  hasNoSettingForIt: ({ family }: { family: string }) => `${family} has no setting for it.`,
  recordingCannotBeRead: ({ recordingId, message }: { recordingId: number; message: string }) =>
    `Recording ${recordingId} cannot be read: ${message}`,
  readingRecording: ({ recordingId }: { recordingId: number }) => `Reading recording ${recordingId}…`,
  hz2: ({ reached }: { reached: number }) => `${formatFigure(reached, 1)} Hz`,
  itReachedOnlyTooSlow: ({ hertz }: { hertz: string }) => `It reached only ${hertz}, too slow to see which way. Hold longer.`,
  hasTurnedForwardAtUp: ({ tag, hertz }: { tag: string; hertz: string }) =>
    `${tag} has turned forward at up to ${hertz}. Which way did you see it go?`,
  theRightWay: 'The right way',
  theProofIsKeptWith: 'the proof is kept with your name',
  theWrongWay: 'The wrong way',
  twoWaysToFixIt: 'two ways to fix it follow',
  whatTurnsOnAAnd: ({ kind }: { kind: string }) => `What turns on a ${kind}, and the arrow it has to follow`,
};
