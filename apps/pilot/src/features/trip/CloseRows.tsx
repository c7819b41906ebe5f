import { useState } from 'react';
import { causeWords, duration } from '@yare/commissioning/trips';
import type { TripDetail } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { noteCase, type CaseNotes } from '../../data/caseNotes';
import { useRunAgain, type RunAgain } from '../../data/runAgain';
import { useKeepNote, useReopenTrip } from '../../data/trip';
import { Refusal } from '../../ui/Answer';
import { ActRow, Finding, Note, SectionHead } from '../../ui/sheet';
import { KeptTextLine, TextLine } from '../../ui/TextLine';
import { when } from '../../ui/when';

export const causeName = (id: string): string => causeWords[id]?.name ?? 'A cause that is not on the list';

/** What was measured of a run, as the proof of a cure. */
const measuredOf = ({ from, to, top, bus, current, ended }: RunAgain): string =>
  `ran for ${duration((to - from) / 1000)} up to ${formatFigure(top, 1)} Hz${ended ? ' and came to rest' : ''}; highest bus ${formatFigure(bus, 0)} V, highest current ${formatFigure(current, 1)} A; no trip`;

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
            value={notes.cure}
            onChange={(cure) => noteCase(id, { cure })}
            placeholder="Deceleration time set to 12 s"
            testID="close-cure"
          />
          <TextLine
            label="How it was seen to be cured"
            caption="Seen to be cured"
            value={notes.proof}
            onChange={(proof) => noteCase(id, { proof })}
            placeholder="Run it again: what is seen is offered here"
            testID="close-proof"
          />
          {measured && (
            <Finding
              severity={run.ended ? 'good' : 'act'}
              sentence={`Seen: it ${measured}.`}
              {...(run.ended && notes.proof !== measured && { act: 'Take it as the proof', onAct: () => noteCase(id, { proof: measured }) })}
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
