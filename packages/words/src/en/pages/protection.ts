import { formatFigure } from '@yare/core/units';

export const say = {
  min: '1 min',
  min2: '10 min',
  aLogScale: 'A, log scale',
  overloadAtOfAIt: ({ overload, at150 }: { overload: number; at150: number }) =>
    `Overload: at 150 % of ${formatFigure(overload, 2)} A it trips after ${formatFigure(at150, 0)} s from warm`,
  plateA: ({ plate, plate2 }: { plate: number; plate2: number }) => `plate ${formatFigure(plate, plate2)} A`,
  limit: ({ limit }: { limit: number }) => `limit ${formatFigure(limit, 0)} %`,
  runUp: 'run-up',
  solidOverloadFromWarmS: ({ at150, overloadShare }: { at150: number; overloadShare: number }) =>
    `Solid: overload from warm, ${formatFigure(at150, 0)} s at 150 %. Dotted: from cold. Red dashes: the drive itself, ${formatFigure(overloadShare, 0)} % for 60 s.`,
  whatTheMotorCarriesContinuously: 'what the motor carries continuously; not the same as a limit',
  secondsToTripAtTimes: 'seconds to trip at 7.2 times, from cold',
  theMostTheDriveLets: 'the most the drive lets through',
  ofRatedTorqueBelowIt: 'of rated torque; below it the load is lost',
  silenceAfterWhichTheDrive: 'silence after which the drive stops by itself',
  torqueFallsWithTheSquare: 'Torque falls with the square of speed. It starts easily and overloads only at full speed; lost water shows as low load.',
  torqueFallsWithTheSquare2: 'Torque falls with the square of speed, but the wheel is heavy: a long run-up warms motor and drive.',
  fullTorqueAtEverySpeed: 'Full torque at every speed, more to break away. It overloads at low speed too, where the motor’s own fan hardly blows.',
  torqueGrowsWithSpeedAnd: 'Torque grows with speed and with the thickness of the product: watch for product that has settled.',
  protection: 'Protection',
  howLongItCarriesWhat: 'How long it carries what',
  classText: ({ tripClass }: { tripClass: number }) => `class ${tripClass}`,
  theRunUpTakesS: ({ time, current, overloadWrong }: { time: number; current: number; overloadWrong: boolean }) =>
    `The run-up takes ${formatFigure(time, 1)} s at up to ${formatFigure(current, 1)} A${overloadWrong ? ', and the overload as it is set protects nothing: see below.' : ': the overload does not trip by a start (estimate).'}`,
  theRunUpTakesS2: ({ time, current, stands, stands2 }: { time: number; current: number; stands: number; stands2: boolean }) =>
    `The run-up takes ${formatFigure(time, 1)} s at up to ${formatFigure(current, 1)} A; from warm the overload would trip after ${formatFigure(stands, 0)} s at that current (estimate).${stands2 ? ' A lower limit, a longer ramp or another class keeps it from tripping at start.' : ''}`,
  carriesIt: ({ name, code }: { name: string; code: string }) => `${name} carries it (${code}).`,
  noInputHasTheJob: 'No input has the job of an external trip: its sense means nothing until one has.',
};
