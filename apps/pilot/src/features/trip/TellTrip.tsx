import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import type { TripDetail } from '@yare/contract';
import { say } from '@yare/words/pages/trip';
import { useTellTrip } from '../../data/trip';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';

/** What people say of a trip, and what it answers. */
const words: ReadonlyArray<readonly [text: string, second: string, answers: Record<string, string>]> = [
  [say.itTripsWhenItStops, say.onTheWayDown, { moment: 'stopping' }],
  [say.itTripsWhenItStarts, say.onTheWayUp, { moment: 'starting' }],
  [say.itTripsWhileItRuns, say.atSpeedForNoReason, { moment: 'running' }],
  [say.afterAQuarterOfAn, say.itRunsWellAtFirst, { moment: 'running', since: 'minutes' }],
  [say.onlyAfterHours, say.lateInTheShift, { moment: 'running', since: 'hours' }],
  [say.asSoonAsItIs, say.nothingHasTurnedYet, { moment: 'standing', ran: 'had not run' }],
  [say.nowAndThenWithOthers, say.severalMachinesAtOnce, { others: 'others too' }],
];

/** A trip told by a person: the code on the display, or what people say of it. */
export function TellTrip({ model, onTold }: { model: MachineModel; onTold: (d: TripDetail) => void }) {
  const { tag } = model.machine;
  const { book } = model.drafted;
  const tell = useTellTrip(tag);
  const [by, setBy] = useState<'code' | 'words' | null>(null);
  const give = (code: number | null, answers: Record<string, string>) => tell.mutate({ code, answers, snapshot: {} }, { onSuccess: onTold });
  return (
    <>
      <SectionHead>{say.enterATrip}</SectionHead>
      <ActRow
        text={say.byTheCodeOnThe}
        second={say.codes({ family: book.family, trips: book.trips.length })}
        onPress={() => setBy(by === 'code' ? null : 'code')}
        testID="tell-code"
      />
      {by === 'code' &&
        book.trips.map((t) => (
          <SheetRow
            key={t.code}
            mark={String(t.code)}
            label={t.name}
            second={t.sentence}
            onPress={() => give(t.code, {})}
            testID={`code-${t.code}`}
          />
        ))}
      <ActRow
        text={say.byWhatItDoes}
        second={say.nobodyHasReadTheDisplay}
        onPress={() => setBy(by === 'words' ? null : 'words')}
        testID="tell-words"
      />
      {by === 'words' &&
        words.map(([text, second, answers]) => <SheetRow key={text} label={text} second={second} onPress={() => give(null, answers)} />)}
      <ActRow text={say.fromARecording} second={say.oneThatWasMadeHere} onPress={() => go(`/m/${tag}/recordings`)} testID="tell-recording" />
      {tell.isPending && <Note>{say.puttingItOnRecord}</Note>}
      <Refusal of={tell.error} />
    </>
  );
}
