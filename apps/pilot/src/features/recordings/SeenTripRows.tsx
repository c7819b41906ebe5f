import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { snapshotAt } from '@yare/commissioning/recording';
import type { RecordingData } from '@yare/contract';
import { say } from '@yare/words/pages/recordings';
import { useTripSeen } from '../../data/recorder';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';

/** A trip that is seen in a recording: a case is begun of it, with what the recording shows before that second. */
export function SeenTripRows({ model, recording, cursor }: { model: MachineModel; recording: RecordingData; cursor: number | null }) {
  const { tag } = model.machine;
  const { book } = model.drafted;
  const [open, setOpen] = useState(false);
  const begin = useTripSeen(tag);
  const at = Math.min(Math.max(0, cursor ?? recording.meta.duration), recording.meta.duration);
  const give = (code: number | null) =>
    begin.mutate(
      { code, answers: {}, snapshot: snapshotAt(recording, at), seenIn: { recordingId: recording.meta.id, at } },
      { onSuccess: (d) => go(`/m/${tag}/trip/${d.entry.id}`) },
    );
  const place = cursor === null ? say.atItsEndS({ at }) : say.atTheCursorS({ at });
  if (!open) return <ActRow text={say.itTrippedInThisRecording} second={say.findTheCauseFromIt} onPress={() => setOpen(true)} testID="seen-trip" />;
  return (
    <>
      <SectionHead right={place}>{say.whichTrip}</SectionHead>
      <Note>{say.putTheCursorOnThe}</Note>
      {book.trips.map((t) => (
        <SheetRow key={t.code} mark={String(t.code)} label={t.name} second={t.sentence} onPress={() => give(t.code)} testID={`seen-${t.code}`} />
      ))}
      <ActRow text={say.nobodyReadTheDisplay} second={say.byWhatTheRecordingShows} onPress={() => give(null)} testID="seen-unknown" />
      <ActRow text={say.itDidNotTrip} onPress={() => setOpen(false)} />
      {begin.isPending && <Note>{say.puttingItOnRecord}</Note>}
      <Refusal of={begin.error} />
    </>
  );
}
