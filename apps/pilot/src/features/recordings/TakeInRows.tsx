import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { linkChannels, type ColumnChoice, type TimeUnit } from '@yare/commissioning/recording';
import { say } from '@yare/words/pages/recordings';
import { useLookInto, useTakeIn } from '../../data/recorder';
import { CommaRows } from '../../machine/CommaRows';
import { Refusal } from '../../ui/Answer';
import { Choices } from '../../ui/entry';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { TextLine } from '../../ui/TextLine';
import { useFilePick } from '../../ui/useFilePick';

type Looked = Extract<NonNullable<ReturnType<typeof useLookInto>['data']>, { ok: true }>;

const timeUnits = (['s', 'ms', 'µs', 'min'] as const).map((value) => ({ value, text: value }));
const kinds: ReadonlyArray<{ value: ColumnChoice['as']; label: string }> = [
  { value: 'time', label: say.time },
  ...linkChannels.map((c) => ({ value: c.key, label: `${c.name}, ${c.unit}` })),
  { value: 'other', label: say.anotherFigureUnderItsOwn },
  { value: 'mark', label: say.marks },
  { value: 'nothing', label: say.leaveItOut },
];

/** What a column is, in words. */
const wordsOf = ({ as, name, unit }: ColumnChoice): string =>
  as === 'other' ? (unit ? `${name}, ${unit}` : name) : (kinds.find((k) => k.value === as)?.label ?? as);

/** A table's columns: what each was taken for, to be put right by a touch. */
function ColumnsRows({ choices, onSet }: { choices: readonly ColumnChoice[]; onSet: (c: ColumnChoice[]) => void }) {
  const [open, setOpen] = useState<number | null>(null);
  return choices.map((c, i) => (
    <div key={i}>
      <SheetRow
        label={c.unit ? `${c.name} (${c.unit})` : c.name}
        text={wordsOf(c)}
        inHand={open === i}
        onPress={() => setOpen(open === i ? null : i)}
        testID={`taken-${i}`}
      />
      {open === i && (
        <Choices
          options={kinds}
          value={c.as}
          onChoose={(as) => {
            setOpen(null);
            // a column is the time, and a channel comes from one column: whoever had it before is kept under its own name
            onSet(
              choices.map((x, k) =>
                k === i
                  ? { ...x, as: as as ColumnChoice['as'] }
                  : x.as === as && as !== 'other' && as !== 'nothing'
                    ? { ...x, as: as === 'time' ? 'nothing' : 'other' }
                    : x,
              ),
            );
          }}
        />
      )}
    </div>
  ));
}

/** A file that was looked into: what it holds, and taking it in. */
function LookedRows({ model, looked, onDone }: { model: MachineModel; looked: Looked; onDone: () => void }) {
  const { tag } = model.machine;
  const take = useTakeIn(tag);
  const [title, setTitle] = useState(looked.title);
  const [choices, setChoices] = useState(looked.choices);
  const [timeUnit, setTimeUnit] = useState<TimeUnit>(looked.timeUnit);
  return (
    <>
      <TextLine
        label={say.title}
        caption={say.title}
        value={title}
        onChange={(t) => setTitle(t.slice(0, 80))}
        placeholder={say.whatWasRecorded}
        testID="taken-title"
      />
      <Note>
        {say.samples3({ rows: looked.rows, skipped: looked.skipped })}
        {looked.kind === 'comtrade' ? say.channels({ channels: looked.channels.join('; ') }) : say.whatEachColumnWasTaken}
      </Note>
      {choices && <ColumnsRows choices={choices} onSet={setChoices} />}
      {choices && !looked.clock && (
        <>
          <SectionHead>{say.unitOfTheTime}</SectionHead>
          <Segments label={say.unitOfTheTime} options={timeUnits} value={timeUnit} onChoose={setTimeUnit} />
        </>
      )}
      <ActRow
        text={take.isPending ? say.takingItIn : say.takeItIn}
        second={say.asARecordingOf({ tag })}
        disabled={take.isPending}
        onPress={() =>
          take.mutate(
            { title, choices, timeUnit },
            {
              onSuccess: (meta) => {
                onDone();
                go(`/m/${tag}/recordings/${meta.id}`);
              },
            },
          )
        }
        testID="take-in"
      />
      <ActRow text={say.notThisOne} onPress={onDone} testID="taken-drop" />
      <Refusal of={take.error} />
    </>
  );
}

/** A recording of another instrument: CSV of any layout, or COMTRADE. */
export function TakeInRows({ model }: { model: MachineModel }) {
  const look = useLookInto();
  const file = useFilePick({
    ...{ label: say.recordingOfAnotherInstrument, testID: 'recording-file', accept: '.csv,.txt,.cff,.cfg,.dat,text/csv,text/plain' },
    ...{ several: true as const, onFile: (_first: File, files: readonly File[]) => look.mutate({ files }) },
  });
  const { data } = look;
  return (
    <>
      <SectionHead>{say.fromAnotherInstrument}</SectionHead>
      {data?.ok && look.variables && (
        <CommaRows doubtful={data.doubtful} comma={data.comma} onSay={(comma) => look.mutate({ files: look.variables.files, comma })} />
      )}
      {data?.ok && <LookedRows key={look.submittedAt} model={model} looked={data} onDone={look.reset} />}
      {data && !data.ok && <Finding severity="error" sentence={data.sentence} />}
      {look.isPending && <Note>{say.readingTheFile}</Note>}
      {look.isError && <Finding severity="error" sentence={say.theFileCouldNotBe} />}
      {!data?.ok && <ActRow text={say.takeInARecording} second={say.csvOfAnyLayoutOr} onPress={file.pick} testID="look-into" />}
      {file.input}
    </>
  );
}
