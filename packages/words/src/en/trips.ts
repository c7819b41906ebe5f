import { formatFigure } from '@yare/core/units';

export const say = {
  doNotResetBeforeThe: ({ kind }: { kind: string }) =>
    `Do not reset before the motor leads are measured: a short that is fed again burns. Switch off, lock off and prove dead; the DC bus holds its voltage for minutes after that.${kind === 'fan' ? ' The fan may still turn, and a motor that turns can give voltage: wait until it stands, or hold it.' : ''}`,
  analogueInputIfItsLabel: ({ label }: { label: string }) => `Analogue input ${label}, if its label says so`,
  decelerationTime: ({ t }: { t: string }) => `Deceleration time ${t}`,
  chopperActsAt: ({ t }: { t: string }) => `Chopper acts at ${t}`,
  overloadCurrent: ({ t }: { t: string }) => `Overload current ${t}`,
  startBoost: ({ t }: { t: string }) => `Start boost ${t}`,
  accelerationTime: ({ t }: { t: string }) => `Acceleration time ${t}`,
  currentLimit: ({ t }: { t: string }) => `Current limit ${t}`,
  linkTimeOut: ({ t }: { t: string }) => `Link time-out ${t}`,
  externalTrip: ({ t }: { t: string }) => `External trip: ${t}`,
  guardAt: ({ t }: { t: string }) => `Guard at ${t}`,
  guardWaits: ({ t }: { t: string }) => `Guard waits ${t}`,
  figuresOfThePlate: ({ changes }: { changes: number }) => `${changes} figures of the plate`,
  overspeedAt: ({ t }: { t: string }) => `Overspeed at ${t}`,
  start: ({ t }: { t: string }) => `Start: ${t}`,
  minimumFrequency: ({ t }: { t: string }) => `Minimum frequency ${t}`,
  automaticRestartsAfterSuchA: ({ t }: { t: string }) =>
    `Automatic restarts ${t}: after such a trip the machine then starts by itself, so only where nobody can be hurt by it`,
  farMoreLikely: 'far more likely',
  timesAsLikely: ({ times, times2 }: { times: number; times2: number }) => `${formatFigure(times, times2)} times as likely`,
  againstItWithAnotherCause: ({ size }: { size: string }) => `against it: ${size} with another cause`,
  withThisCause: ({ size }: { size: string }) => `${size} with this cause`,
  theLibraryKnowsNoCause: 'The library knows no cause for this trip.',
  nothingElseExplainsItNearly: 'Nothing else explains it nearly as well.',
  likelyAndIsNotRuled: ({ name }: { name: string }) => `Likely, and “${name}” is not ruled out.`,
  notSureWhatIsKnown: 'Not sure: what is known does not separate the causes. Take the measurement below.',
};
