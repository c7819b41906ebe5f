import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { snapshotAt } from '@yare/commissioning/recording';
import type { RecordingData } from '@yare/contract';
import { formatFigure } from '@yare/core';
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
  const place = cursor === null ? `at its end, ${formatFigure(at, 2)} s` : `at the cursor, ${formatFigure(at, 2)} s`;
  if (!open) return <ActRow text="It tripped in this recording" second="find the cause from it" onPress={() => setOpen(true)} testID="seen-trip" />;
  return (
    <>
      <SectionHead right={place}>Which trip?</SectionHead>
      <Note>Put the cursor on the last moment before it tripped: what comes after it counts for nothing.</Note>
      {book.trips.map((t) => (
        <SheetRow key={t.code} mark={String(t.code)} label={t.name} second={t.sentence} onPress={() => give(t.code)} testID={`seen-${t.code}`} />
      ))}
      <ActRow text="Nobody read the display" second="by what the recording shows" onPress={() => give(null)} testID="seen-unknown" />
      <ActRow text="It did not trip" onPress={() => setOpen(false)} />
      {begin.isPending && <Note>Putting it on record…</Note>}
      <Refusal of={begin.error} />
    </>
  );
}
