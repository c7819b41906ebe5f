import { runBlock, type RunBlock } from '@yare/commissioning';
import { say } from '@yare/words/pages/data';
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
    'no link': another ? say.anotherDriveAnswersThanThe : say.noLinkToTheDrive,
    tripped: say.tripped({ trip: trip ?? 'no code' }),
    held: say.heldAPermissiveIsMissing,
    asleep: say.asleepItMayWakeBy,
    'other master': say.somebodyElseOnTheLink,
    // what turns by this hand does not stand in its way
    turning: mine ? null : say.turningAlready({ command }),
  };
  return { mine, turning, run, blocked: !connected ? say.noServerNothingCanBe : block && text[block] };
}
