import type { LiveSample } from '@yare/contract';

/** Why nothing may be started at a machine. */
export type RunBlock = 'no link' | 'tripped' | 'turning' | 'asleep' | 'held' | 'other master';

/** Whether a machine may be started as its drive was last seen: null when it may. The page shows it and the server acts on it. */
export function runBlock(s: Pick<LiveSample, 'link' | 'state' | 'holder' | 'waits'>): RunBlock | null {
  if (s.link === 'down') return 'no link';
  switch (s.state) {
    case 'tripped':
      return 'tripped';
    case 'running':
    case 'stopping':
      return 'turning';
    // it may wake by itself
    case 'asleep':
      return 'asleep';
    case 'held':
      // a start at the terminals that waits to be given anew does not stand in the way of a hand on the button: it starts nothing by itself
      return s.waits?.code === 'start contact' ? (s.holder === 'other' ? 'other master' : null) : 'held';
    default:
      return s.holder === 'other' ? 'other master' : null;
  }
}
