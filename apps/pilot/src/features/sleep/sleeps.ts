import type { MachineModel } from '@yare/commissioning';
import { formatFigure } from '@yare/core';
import { factsText } from '@yare/words';
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
      sentence: `Seen: it ${factsText(found.sleeps)}.`,
      act: {
        text: 'Count it: it sleeps and wakes',
        main: true,
        hotkey: 'k',
        testID: 'keep-sleeps',
        onPress: () => prove.mutate({ stage: 'sleep', item: 'sleeps', outcome: 'passed', facts: null }),
      },
    };
  }
  const below = model.held?.role('sleepFrequency') ?? 0;
  const now =
    live && state === 'running' && below > 0
      ? ` Now ${formatFigure(live.outputFrequency, 1)} Hz: it sleeps once it stays below ${formatFigure(below, 1)} Hz.`
      : '';
  return {
    act: null,
    error: prove.error,
    sentence:
      state === 'asleep'
        ? 'It sleeps. Open a tap until it wakes.'
        : `Prove it: let it run in auto, shut the taps until it sleeps, then open one until it wakes. ${watched}${now}`,
  };
}
