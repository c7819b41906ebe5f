import type { MachineModel } from '@yare/commissioning';
import { factsText } from '@yare/words';
import { say } from '@yare/words/pages/sleep';
import { useLive } from '../../data/live';
import { useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import type { Act } from '../../ui/bar';

/** The server watches the machine: one sleep from beginning to end can be counted as its proof. */
export function useSleeps(model: MachineModel): { act: Act | null; sentence: string; error: Error | null } {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const prove = useProve(model);
  const { found, watched } = useSeen(tag, 'sleep');
  const state = live?.link === 'up' && live.doing !== 'resting' && live.doing !== 'standby' ? live.state : null;
  if (found.sleeps) {
    return {
      error: prove.error,
      sentence: say.seenIt({ factsText: factsText(found.sleeps) }),
      act: {
        text: say.countItItSleepsAnd,
        main: true,
        hotkey: 'k',
        testID: 'keep-sleeps',
        onPress: () => prove.mutate({ stage: 'sleep', item: 'sleeps', outcome: 'passed', facts: null }),
      },
    };
  }
  const below = model.held?.role('sleepFrequency') ?? 0;
  const now = live && state === 'running' && below > 0 ? say.nowHzItSleepsOnce({ outputFrequency: live.outputFrequency, below }) : '';
  return {
    act: null,
    error: prove.error,
    sentence: state === 'asleep' ? say.itSleepsOpenATap : say.proveItLetItRun({ watched, now }),
  };
}
