import { useState } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { linkChannels, type ColumnChoice, type TimeUnit } from '@yare/commissioning/recording';
import { formatFigure } from '@yare/core';
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
  { value: 'time', label: 'Time' },
  ...linkChannels.map((c) => ({ value: c.key, label: `${c.name}, ${c.unit}` })),
  { value: 'other', label: 'Another figure, under its own name' },
  { value: 'mark', label: 'Marks' },
  { value: 'nothing', label: 'Leave it out' },
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
        label="Title"
        caption="Title"
        value={title}
        onChange={(t) => setTitle(t.slice(0, 80))}
        placeholder="What was recorded"
        testID="taken-title"
      />
      <Note>
        {`${formatFigure(looked.rows, 0)} samples${looked.skipped > 0 ? `, ${looked.skipped} lines left out` : ''}. `}
        {looked.kind === 'comtrade'
          ? `Channels: ${looked.channels.join('; ')}.`
          : 'What each column was taken for stands beside it; touch one to change that.'}
      </Note>
      {choices && <ColumnsRows choices={choices} onSet={setChoices} />}
      {choices && !looked.clock && (
        <>
          <SectionHead>Unit of the time</SectionHead>
          <Segments label="Unit of the time" options={timeUnits} value={timeUnit} onChoose={setTimeUnit} />
        </>
      )}
      <ActRow
        text={take.isPending ? 'Taking it in…' : 'Take it in'}
        second={`as a recording of ${tag}`}
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
      <ActRow text="Not this one" onPress={onDone} testID="taken-drop" />
      <Refusal of={take.error} />
    </>
  );
}

/** A recording of another instrument: CSV of any layout, or COMTRADE. */
export function TakeInRows({ model }: { model: MachineModel }) {
  const look = useLookInto();
  const file = useFilePick({
    ...{ label: 'Recording of another instrument', testID: 'recording-file', accept: '.csv,.txt,.cff,.cfg,.dat,text/csv,text/plain' },
    ...{ several: true as const, onFile: (_first: File, files: readonly File[]) => look.mutate({ files }) },
  });
  const { data } = look;
  return (
    <>
      <SectionHead>From another instrument</SectionHead>
      {data?.ok && look.variables && (
        <CommaRows doubtful={data.doubtful} comma={data.comma} onSay={(comma) => look.mutate({ files: look.variables.files, comma })} />
      )}
      {data?.ok && <LookedRows key={look.submittedAt} model={model} looked={data} onDone={look.reset} />}
      {data && !data.ok && <Finding severity="error" sentence={data.sentence} />}
      {look.isPending && <Note>Reading the file…</Note>}
      {look.isError && <Finding severity="error" sentence="The file could not be read. Nothing was taken in; try it again." />}
      {!data?.ok && (
        <ActRow
          text="Take in a recording"
          second="CSV of any layout, or COMTRADE (.cff, or .cfg and .dat together)"
          onPress={file.pick}
          testID="look-into"
        />
      )}
      {file.input}
    </>
  );
}
