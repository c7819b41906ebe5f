import { runBlock, type RunBlock } from '@yare/commissioning';
import { useConnected, useLiveValue, useRun, type RunState } from './live';

/** What stands between a finger and a turning motor. */
export interface MayRun {
  /** this device's own run, while it lasts */
  mine: boolean;
  turning: boolean;
  run: RunState | undefined;
  /** why nothing can be started; null when it can */
  blocked: string | null;
}

const living: ReadonlySet<RunState['phase']> = new Set(['asking', 'taken', 'running', 'stopping']);

/** Whether this device may start the motor of a machine now, in words. */
export function useMayRun(tag: string): MayRun {
  const block = useLiveValue(tag, (s) => (s ? runBlock(s) : 'no link'));
  const trip = useLiveValue(tag, (s) => s?.trip?.name);
  const another = useLiveValue(tag, (s) => s?.another !== null && s?.another !== undefined);
  const command = useLiveValue(tag, (s) => s?.command);
  const connected = useConnected();
  const run = useRun(tag);
  const turning = block === 'turning';
  const mine = run !== undefined && run.mine && living.has(run.phase);
  const text: Record<RunBlock, string | null> = {
    'no link': another ? 'Another drive answers than the one on record' : 'No link to the drive',
    tripped: `Tripped: ${trip ?? 'no code'}`,
    held: 'Held: a permissive is missing',
    asleep: 'Asleep: it may wake by itself. Turn its selector to off first',
    'other master': 'Somebody else on the link has command',
    // what turns by this hand does not stand in its way
    turning: mine ? null : `Turning already: ${command}`,
  };
  return { mine, turning, run, blocked: !connected ? 'No server: nothing can be started' : block && text[block] };
}
