import { useState } from 'react';
import { causeWords } from '@yare/commissioning/trips';
import type { TripDetail } from '@yare/contract';
import { useKeepNote, useReopenTrip } from '../../data/trip';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { KeptTextLine, TextLine } from '../../ui/TextLine';
import { when } from '../../ui/when';
import type { SeenAgain } from './seenAgain';

export const causeName = (id: string): string => causeWords[id]?.name ?? id;

/** What closes a case: what was done, and what was seen afterwards. */
export function CloseRows({
  detail,
  cause,
  cure,
  proof,
  onCure,
  onProof,
  seen,
  written,
}: {
  detail: TripDetail;
  /** id of the cause that is taken */
  cause: string;
  cure: string;
  proof: string;
  onCure: (text: string) => void;
  onProof: (text: string) => void;
  seen: SeenAgain;
  written: boolean;
}) {
  const { closed, id, tag } = detail.entry;
  const reopen = useReopenTrip(id);
  const note = useKeepNote(tag, id);
  const [opened, setOpened] = useState(false);
  return (
    <>
      <SectionHead right={closed ? 'closed' : 'open'}>The case</SectionHead>
      {closed ? (
        <>
          <Finding
            severity="good"
            sentence={`${causeName(closed.cause)}. ${closed.cure}. Seen: ${closed.proof}. ${closed.author}, ${when(closed.at)}.`}
          />
          <ActRow
            text="Open it again"
            second={opened ? 'tap once more' : 'if it was something else after all'}
            onPress={() => (opened ? reopen.mutate() : setOpened(true))}
          />
        </>
      ) : (
        <>
          <Note>{`It closes as: ${causeName(cause)}. Tap another cause above if it was that.`}</Note>
          <TextLine
            label="What was done"
            caption="What was done"
            value={cure}
            onChange={onCure}
            placeholder="Deceleration time set to 12 s"
            testID="close-cure"
          />
          <TextLine
            label="How it was seen to be cured"
            caption="Seen to be cured"
            value={proof}
            onChange={onProof}
            placeholder="Run it again: this page notes what it sees"
            testID="close-proof"
          />
          {seen.measured && (
            <Finding
              severity={seen.whole ? 'good' : 'act'}
              sentence={`Seen just now: it ${seen.measured}.`}
              {...(proof !== seen.measured && { act: 'Take it as the proof', onAct: () => onProof(seen.measured ?? '') })}
            />
          )}
          {!written && <Note>The draft differs from the drive: write it before you run the case again.</Note>}
        </>
      )}
      <Refusal of={reopen.error ?? note.error} />
      <SectionHead>For the next one</SectionHead>
      <KeptTextLine
        label="Note on this machine"
        value={detail.note}
        onKeep={(text) => note.mutate(text)}
        placeholder="What the next one should know of this machine"
        lines={3}
        testID="machine-note"
      />
    </>
  );
}
