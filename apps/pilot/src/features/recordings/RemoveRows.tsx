import { useState } from 'react';
import type { RecordingMeta } from '@yare/contract';
import { say } from '@yare/words/pages/recordings';
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
      <SectionHead>{say.removeIt}</SectionHead>
      <Refusal of={remove.error} />
      {!asked && <ActRow text={say.removeThisRecording} second={say.asksWhyFirst} onPress={() => setAsked(true)} testID="remove-recording" />}
      {asked && (
        <>
          <TextLine label={say.whyItIsRemoved} value={why} onChange={setWhy} placeholder={say.whyItCanGo} caption={say.reason} testID="remove-why" />
          {said ? (
            <Finding
              severity="warning"
              sentence={say.recordingAndItsMarksAre({ id: meta.id })}
              act={say.removeForGood}
              onAct={() => remove.mutate(why.trim(), { onSuccess: () => go(`/m/${meta.tag}/recordings`) })}
            />
          ) : (
            <Note>{say.sayWhyInAFew}</Note>
          )}
          <ActRow text={say.keepIt} onPress={() => setAsked(false)} testID="keep-recording" />
        </>
      )}
    </>
  );
}
