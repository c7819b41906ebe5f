import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import type { TripDetail } from '@yare/contract';
import { useTellTrip } from '../../data/trip';
import { Refusal } from '../../ui/Answer';
import { go } from '../../ui/go';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';

/** What people say of a trip, and what it answers. */
const words: ReadonlyArray<readonly [text: string, second: string, answers: Record<string, string>]> = [
  ['It trips when it stops', 'on the way down', { moment: 'stopping' }],
  ['It trips when it starts', 'on the way up', { moment: 'starting' }],
  ['It trips while it runs', 'at speed, for no reason that is seen', { moment: 'running' }],
  ['After a quarter of an hour', 'it runs well at first', { moment: 'running', since: 'minutes' }],
  ['Only after hours', 'late in the shift', { moment: 'running', since: 'hours' }],
  ['As soon as it is switched on', 'nothing has turned yet', { moment: 'standing', ran: 'had not run' }],
  ['Now and then, with others', 'several machines at once', { others: 'others too' }],
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
      <SectionHead>Enter a trip</SectionHead>
      <ActRow
        text="By the code on the display"
        second={`${book.family}, ${book.trips.length} codes`}
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
        text="By what it does"
        second="nobody has read the display"
        onPress={() => setBy(by === 'words' ? null : 'words')}
        testID="tell-words"
      />
      {by === 'words' &&
        words.map(([text, second, answers]) => <SheetRow key={text} label={text} second={second} onPress={() => give(null, answers)} />)}
      <ActRow
        text="From a recording"
        second="one that was made here, or by another instrument"
        onPress={() => go(`/m/${tag}/recordings`)}
        testID="tell-recording"
      />
      {tell.isPending && <Note>Putting it on record…</Note>}
      <Refusal of={tell.error} />
    </>
  );
}
