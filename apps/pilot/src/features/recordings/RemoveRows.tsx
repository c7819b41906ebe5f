import { useState } from 'react';
import type { RecordingMeta } from '@yare/contract';
import { useRemoveRecording } from '../../data/recordings';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { TextLine } from '../../ui/TextLine';

/** Fewest signs that say why. */
const leastReason = 3;

/** Removes a recording for good, with the reason that stays in the log. */
export function RemoveRows({ meta }: { meta: RecordingMeta }) {
  const remove = useRemoveRecording(meta);
  const [asked, setAsked] = useState(false);
  const [why, setWhy] = useState('');
  if (!meta.complete) return null;
  const said = why.trim().length >= leastReason;
  return (
    <>
      <SectionHead>Remove it</SectionHead>
      <Refusal of={remove.error} />
      {!asked && <ActRow text="Remove this recording" second="asks why first" onPress={() => setAsked(true)} testID="remove-recording" />}
      {asked && (
        <>
          <TextLine label="Why it is removed" value={why} onChange={setWhy} placeholder="Why it can go" caption="Reason" testID="remove-why" />
          {said ? (
            <Finding
              severity="warning"
              sentence={`Recording ${meta.id} and its marks are gone for good. Who removed it and why stay in the log.`}
              act="Remove for good"
              onAct={() => remove.mutate(why.trim(), { onSuccess: () => go(`/m/${meta.tag}/recordings`) })}
            />
          ) : (
            <Note>Say why in a few words. The log keeps it.</Note>
          )}
          <ActRow text="Keep it" onPress={() => setAsked(false)} testID="keep-recording" />
        </>
      )}
    </>
  );
}
