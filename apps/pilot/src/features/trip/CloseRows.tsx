import { useState } from 'react';
import { causeWords, duration } from '@yare/commissioning/trips';
import type { TripDetail } from '@yare/contract';
import { say } from '@yare/words/pages/trip';
import { noteCase, type CaseNotes } from '../../data/caseNotes';
import { useRunAgain, type RunAgain } from '../../data/runAgain';
import { useKeepNote, useReopenTrip } from '../../data/trip';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { KeptTextLine, TextLine } from '../../ui/TextLine';
import { when } from '../../ui/when';

export const causeName = (id: string): string => causeWords[id]?.name ?? say.aCauseThatIsNot;

/** What was measured of a run, as the proof of a cure. */
const measuredOf = ({ from, to, top, bus, current, ended }: RunAgain): string =>
  say.ranForUpToHz({ duration: duration((to - from) / 1000), top, ended, bus, current });

/** What closes a case: what was done, and what was seen afterwards. */
export function CloseRows({
  detail,
  cause,
  notes,
  written,
}: {
  detail: TripDetail;
  /** id of the cause that is taken */
  cause: string;
  notes: CaseNotes;
  written: boolean;
}) {
  const { closed, id, tag } = detail.entry;
  const run = useRunAgain(tag);
  const measured = run && measuredOf(run);
  const reopen = useReopenTrip(id);
  const note = useKeepNote(tag, id);
  const [opened, setOpened] = useState(false);
  return (
    <>
      <SectionHead right={closed ? 'closed' : 'open'}>{say.theCase}</SectionHead>
      {closed ? (
        <>
          <Finding
            severity="good"
            sentence={say.seen({
              causeName: causeName(closed.cause),
              cure: closed.cure,
              proof: closed.proof,
              author: closed.author,
              when: when(closed.at),
            })}
          />
          <ActRow
            text={say.openItAgain}
            second={opened ? say.tapOnceMore : say.ifItWasSomethingElse}
            onPress={() => (opened ? reopen.mutate() : setOpened(true))}
          />
        </>
      ) : (
        <>
          <Note>{say.itClosesAsTapAnother({ causeName: causeName(cause) })}</Note>
          <TextLine
            label={say.whatWasDone}
            caption={say.whatWasDone}
            value={notes.cure}
            onChange={(cure) => noteCase(id, { cure })}
            placeholder={say.decelerationTimeSetToS}
            testID="close-cure"
          />
          <TextLine
            label={say.howItWasSeenTo}
            caption={say.seenToBeCured}
            value={notes.proof}
            onChange={(proof) => noteCase(id, { proof })}
            placeholder={say.runItAgainWhatIs}
            testID="close-proof"
          />
          {measured && (
            <Finding
              severity={run.ended ? 'good' : 'act'}
              sentence={say.seenIt({ measured })}
              {...(run.ended && notes.proof !== measured && { act: say.takeItAsTheProof, onAct: () => noteCase(id, { proof: measured }) })}
            />
          )}
          {!written && <Note>{say.theDraftDiffersFromThe}</Note>}
        </>
      )}
      <Refusal of={reopen.error ?? note.error} />
      <SectionHead>{say.forTheNextOne}</SectionHead>
      <KeptTextLine
        label={say.noteOnThisMachine}
        value={detail.note}
        onKeep={(text) => note.mutate(text)}
        placeholder={say.whatTheNextOneShould}
        lines={3}
        testID="machine-note"
      />
    </>
  );
}
