import type { MachineModel } from '@yare/commissioning';
import { Pressable } from 'react-native';
import { say } from '@yare/words/pages/frame';
import { useConnected } from '../data/live';
import { dropRefused, settleConflict, useEdits, useMachineEdits, type EditKind } from '../data/edits';
import { Answer } from '../ui/Answer';
import { Finding } from '../ui/sheet';
import { Body, Strong } from '../ui/text';
import { fieldName, valueText } from './logText';

/** A figure beside somebody else's; what has parts is only said to be another. */
const told = (value: unknown): string => valueText(value) || 'another';

/** What stands between an edit of this device and the server: a race lost, a refusal, no server. */
export function EditTroubles({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const edits = useMachineEdits(tag);
  const offline = useEdits((s) => s.offline);
  const connected = useConnected();
  const kinds: EditKind[] = ['draft', 'plate', 'survey', 'wiring'];
  const waiting = kinds.reduce((n, kind) => n + Object.keys(edits[kind].changes).length, 0);
  /** the winner's figure of one thing that was changed here too */
  const theirs = (kind: EditKind, key: string): unknown => {
    if (kind === 'draft') return edits.draft.conflict?.values[key]?.value;
    const side: object | undefined = {
      plate: edits.plate.conflict?.plate,
      survey: edits.survey.conflict?.survey,
      wiring: edits.wiring.conflict?.wiring,
    }[kind];
    return (side as Record<string, unknown> | undefined)?.[key];
  };
  return (
    <>
      {(offline || (!connected && waiting > 0)) && waiting > 0 && <Finding severity="warning" sentence={say.theServerDoesNotAnswer({ waiting })} />}
      {kinds.map((kind) => {
        const { conflict, refused, changes } = edits[kind];
        if (refused)
          return (
            <Answer key={`${kind} ${refused.sentence}`}>
              <Finding severity="error" sentence={refused.sentence} act={say.putBackWhatWasThere} onAct={() => dropRefused(tag, kind)} />
            </Answer>
          );
        if (!conflict) return null;
        return (
          <Answer key={kind}>
            <Finding
              severity="act"
              sentence={say.changedTheWhileYouWere({ author: conflict.author, kind })}
              act={say.keepMineOnTop}
              onAct={() => settleConflict(tag, kind, 'mine')}
            >
              {Object.entries(changes).map(([key, change]) => {
                const s = model.drafted.at(key);
                const [name, unit] = kind === 'draft' ? [s?.name ?? key, s?.unit ?? ''] : fieldName(kind, key);
                const mine = kind === 'draft' ? (change as { value: number }).value : change;
                return <Body key={key}>{say.yoursTheirs({ name, told: told(mine), told2: told(theirs(kind, key)), unit })}</Body>;
              })}
              <Pressable role="button" onPress={() => settleConflict(tag, kind, 'theirs')} style={{ minHeight: 48, justifyContent: 'center' }}>
                <Strong color="$plum">{say.takeTheirsDropMine}</Strong>
              </Pressable>
            </Finding>
          </Answer>
        );
      })}
    </>
  );
}
