import { formatFigure } from '@yare/core/units';

export const say = {
  afterATripItStarts: ({ times, restartInterval }: { times: number; restartInterval: number }) =>
    `After a trip it starts again by itself, up to ${times} ${times === 1 ? 'time' : 'times'}, ${formatFigure(restartInterval, 0)} s after each. Whoever opens the machine to look for the cause is in danger: warn at the machine, or let a person reset it.`,
  letAPersonResetIt: 'Let a person reset it',
  handRunsAtTheKeypad: ({ hz, hz2 }: { hz: string; hz2: string }) =>
    `Hand runs at the keypad speed of ${hz}, below the minimum of ${hz2}: it runs at the minimum.`,
  hand: 'Hand',
  whenPowerComesBack: 'When power comes back',
  afterATrip: 'After a trip',
  noSelectorIsWired: 'no selector is wired',
  everyPositionSeen: 'every position seen',
  noPositionTriedYet: 'no position tried yet',
};
