import { formatFigure } from '@yare/core/units';

export const say = {
  withThisActionARising:
    'With this action a rising level slows the pump down: the sump runs over. A pump that empties a sump wants the output to rise with the level.',
  withThisActionAFalling: ({ measures }: { measures: string }) =>
    `With this action a falling ${measures} slows the machine down, and a rising one drives it to full speed. The output has to rise when the ${measures} falls.`,
  turnTheActionRound: 'Turn the action round',
  liesOutsideTheSensorsRange: ({ text, unit }: { text: string; unit: string }) =>
    `${text} lies outside the sensor’s range: it was said in another scale than the straightened one. Enter it again in ${unit}.`,
  isMoreThanTheMachine: ({ text, inUnit }: { text: string; inUnit: string }) =>
    `${text} is more than the machine makes: at full speed it comes to about ${inUnit} (estimated). It would run at full speed for ever.`,
  isOfTheSensorsRange: ({ text, share }: { text: string; share: number }) =>
    `${text} is ${formatFigure(share, 1)} % of the sensor’s range, so near to its end that the loop sees a change on one side only. A sensor whose range is about twice the set point suits better.`,
  setThemBack: 'Set them back',
  putThemToUse: 'Put them to use',
  aGainOfAndAn: ({ gain, offset }: { gain: number; offset: number }) =>
    `A gain of ${formatFigure(gain, 2)} and an offset of ${formatFigure(offset, 1)} % are set, and nothing is made of them: their enable is off.`,
  theLowestIsNotBelow: ({ what }: { what: string }) => `The lowest ${what} is not below the highest: the loop has no room.`,
  itIsHeldToTo: ({ inUnit, inUnit2 }: { inUnit: string; inUnit2: string }) =>
    `It is held to ${inUnit} to ${inUnit2}: what is entered here is never held.`,
  theContactForTheSecond: 'The contact for the second set point changes nothing: both are the same.',
  aBrokenSensorWireReads: ({ low, sensorDecimals, unit, wants }: { low: number; sensorDecimals: number; unit: string; wants: boolean }) =>
    `A broken sensor wire reads as ${formatFigure(low, sensorDecimals)} ${unit}, and is ignored: ${wants ? 'the machine would go to full speed and stay there' : 'the pump would stop and the sump run over'}.`,
  tripOnIt: 'Trip on it',
  theSpeedComesFromThe:
    'The speed comes from the process, and no sensor is recorded: nobody can say what the set point is in its own unit. Enter its range below.',
  signal: 'Signal',
  gainAndOffset: 'Gain and offset',
  controller: 'Controller',
  itsSpeedDoesNotCome: 'its speed does not come from a process',
  seenToHoldItsSet: 'seen to hold its set point',
  notSeenToHoldYet: 'not seen to hold yet',
};
