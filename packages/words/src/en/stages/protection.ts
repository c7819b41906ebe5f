import { formatFigure } from '@yare/core/units';

export const say = {
  theCurrentLimitOfLies: ({ amperes, amperes2 }: { amperes: string; amperes2: string }) =>
    `The current limit of ${amperes} lies below the plate’s ${amperes2}: the motor never reaches its rated torque and slows down under load.`,
  use: ({ amperes }: { amperes: string }) => `Use ${amperes}`,
  theDriveCarriesForS: ({ amperes, amperes2 }: { amperes: string; amperes2: string }) =>
    `The drive carries ${amperes} for 60 s; the limit of ${amperes2} lies above. Its own overload then ends a long start, not the limit.`,
  openIsHealthyABroken:
    'Open is healthy: a broken wire or a pulled plug looks like a healthy machine, and the trip never comes. With closed as healthy the wire watches itself.',
  makeClosedTheHealthyState: 'Make closed the healthy state',
  isSShouldTheServer: ({ name, code, timeout, longestLinkTimeout }: { name: string; code: string; timeout: number; longestLinkTimeout: number }) =>
    `${name} ${code} is ${formatFigure(timeout, 1)} s: should the server or the cable fail, the motor would turn on that long. Hold to run refuses with more than ${longestLinkTimeout} s.`,
  useS: ({ longestLinkTimeout }: { longestLinkTimeout: number }) => `Use ${longestLinkTimeout} s`,
  afterATripThisStarts: ({ kind, restarts }: { kind: string; restarts: null | number }) =>
    `After a trip this ${kind} starts again by itself, up to ${restarts} times, with whoever is clearing it ${kind === 'hoist' ? 'under the load' : 'at the belt'}.`,
  setItTo: 'Set it to 0',
  aBeltAsksItsTorque: ({ hertz }: { hertz: string }) =>
    `A belt asks its torque at every speed, and the motor’s own fan hardly blows below ${hertz}. The overload counts with that; for long slow running a forced fan or thermistors are wanted.`,
  thisDriveHoldsStepsOf: ({ step, set, stored, abs, off }: { step: number; set: number; stored: number; abs: number; off: number }) =>
    `This drive holds steps of ${step} A: ${set} A is stored as ${stored} A, ${formatFigure(abs, 1)} % ${off > 0 ? 'more: the motor is that much less protected' : 'less: it trips that much too soon'}. A smaller size of drive, or a motor relay of its own, protects it better.`,
  useAOnTheSafe: ({ below }: { below: number }) => `Use ${below} A, on the safe side`,
  thisDriveHoldsStepsOf2: ({ step, set, stored, abs, off }: { step: number; set: number; stored: number; abs: number; off: number }) =>
    `This drive holds steps of ${step} A: ${set} A is stored as ${stored} A, ${formatFigure(abs, 1)} % ${off > 0 ? 'more' : 'less'}. Little enough.`,
  isTheDrivesOwnCurrent: ({ amperes, amperes2 }: { amperes: string; amperes2: string }) =>
    `${amperes} is the drive’s own current, as from the factory. The plate says ${amperes2}: at that setting the motor burns before it trips.`,
  isAboveThePlatesThe: ({ amperes, stored, amperes2, service }: { amperes: string; stored: number; amperes2: string; service: number }) =>
    `${amperes} is ${formatFigure(stored, 0)} % above the plate’s ${amperes2}${service > 1 ? `. Its service factor of ${service} does not count on a drive` : ''}: the motor is not protected.`,
  useThePlates: ({ amperes }: { amperes: string }) => `Use the plate’s ${amperes}`,
  isBelowThePlatesAt: ({ amperes, stored, amperes2 }: { amperes: string; stored: number; amperes2: string }) =>
    `${amperes} is ${formatFigure(stored, 0)} % below the plate’s ${amperes2}: at full load it trips without need.`,
  motorOverload: 'Motor overload',
  currentLimit: 'Current limit',
  externalTrip: 'External trip',
  wiringWatched: 'Wiring watched',
  afterATrip: 'After a trip',
  whenTheLinkFallsSilent: 'When the link falls silent',
  overloadAsThePlateIn: 'overload as the plate, in the drive',
  overloadAsThePlateNot: 'overload as the plate; not in the drive yet',
};
