import { stageAfter, type StagePath } from '@yare/commissioning';
import { say } from '@yare/words/pages/frame';
import type { Act } from '../ui/bar';
import { go } from '../ui/go';

/** The act that leads from a stage to the one after it in the order of the job. */
export function goOn(tag: string, from: StagePath, change: Partial<Act> = {}): Act {
  const next = stageAfter(from);
  return next
    ? { text: say.goOnTo({ name: next.name }), main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/${next.path}`), ...change }
    : { text: say.workPlan, main: true, hotkey: 'g', onPress: () => go(`/m/${tag}`), ...change };
}
