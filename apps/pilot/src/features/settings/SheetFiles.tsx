import { settingsFromFile, settingsToCsv, settingsToJson, type FileReading } from '@yare/commissioning/settingsFile';
import { takeChanges } from '../../machine/takeChanges';
import { type MachineModel, keypadList } from '@yare/commissioning';
import { useState } from 'react';
import { say } from '@yare/words/pages/settings';
import { fileValues } from '../../data/settingsList';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Mono } from '../../ui/text';
import { useFilePick } from '../../ui/useFilePick';

/** Hands a text to the person as a file. */
function save(name: string, type: string, text: string): void {
  const link = document.createElement('a');
  link.href = URL.createObjectURL(new Blob([text], { type }));
  link.download = name;
  link.click();
  setTimeout(() => URL.revokeObjectURL(link.href), 1000);
}

/** What a file would change in the draft. */
interface TakenIn {
  name: string;
  reading: FileReading;
}

/** The draft as CSV and JSON, out and in, and as a list for the drive's own keys. */
export function SheetFiles({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const head = { tag, settings: model.drafted };
  const [taken, setTaken] = useState<TakenIn | null>(null);
  const [done, setDone] = useState<number | null>(null);
  const changes = taken?.reading.ok ? taken.reading.values.filter((v) => model.draftOf(v.code).value !== v.value) : [];
  const read = async (file: File) => {
    setDone(null);
    setTaken({ name: file.name, reading: settingsFromFile(head, await file.text()) });
  };
  const file = useFilePick({
    ...{ label: say.fileWithSettings, testID: 'settings-file', accept: '.csv,.json,text/csv,application/json' },
    onFile: (chosen) => void read(chosen),
  });
  const take = () => {
    takeChanges(
      model,
      changes.map((v) => ({ ...v, source: 'imported' })),
    );
    setDone(changes.length);
    setTaken(null);
  };
  return (
    <>
      <SectionHead right={say.ofTheDraft}>{say.files}</SectionHead>
      <ActRow
        text={say.saveAsCsv}
        testID="save-settings-csv"
        onPress={() => save(say.settingsCsv({ tag }), 'text/csv', settingsToCsv(head, fileValues(model)))}
      />
      <ActRow
        text={say.saveAsJson}
        testID="save-settings-json"
        onPress={() => save(say.settingsJson({ tag }), 'application/json', settingsToJson(head, fileValues(model)))}
      />
      <ActRow text={say.takeInAFile} testID="take-in" onPress={file.pick} />
      {file.input}
      {done !== null && <Finding severity="good" sentence={say.valueTakenIntoTheDraft({ done })} />}
      {taken && <FileRead name={taken.name} reading={taken.reading} changes={changes.map((c) => c.code)} onTake={take} />}
      <KeypadRows model={model} />
    </>
  );
}

const count = (n: number, one: string, many: string) => `${n} ${n === 1 ? one : many}`;

/** What was found in a file: its faults line by line, or what it would change. */
function FileRead({ name, reading, changes, onTake }: TakenIn & { changes: string[]; onTake: () => void }) {
  if (!reading.ok)
    return (
      <>
        <Finding severity="error" sentence={say.wasNotTakenInWrong({ name, count: count(reading.faults.length, 'line is', 'lines are') })} />
        {reading.faults.slice(0, 20).map((f) => (
          <SheetRow key={`${f.line} ${f.sentence}`} label={say.line({ line: f.line })} second={f.sentence} />
        ))}
      </>
    );
  if (changes.length === 0) return <Finding severity="good" sentence={say.readsWellTheDraftSays({ name })} />;
  const codes = say.text({ changes: changes.slice(0, 6).join(', '), changes2: changes.length });
  return (
    <Finding
      severity="act"
      sentence={say.readsWellItWouldChange({ name, count: count(changes.length, 'setting', 'settings'), codes })}
      act={say.takeIn({ count: count(changes.length, 'change', 'changes') })}
      onAct={onTake}
    />
  );
}

/** What has to be keyed in at the drive by hand, in order. */
function KeypadRows({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const lines = keypadList(model);
  return (
    <>
      <SectionHead right={say.toKeyIn({ lines: lines.length })}>{say.keypadList}</SectionHead>
      {lines.length === 0 ? (
        <Note>{say.nothingToKeyInThe}</Note>
      ) : (
        <>
          <ActRow
            text={say.saveAsText}
            onPress={() =>
              save(
                say.keypadListTxt({ tag }),
                'text/plain',
                lines.map((l, i) => say.text2({ i: i + 1, code: l.code, name: l.name, enter: l.enter, means: l.means })).join('\r\n'),
              )
            }
          />
          {lines.map((l, i) => (
            <SheetRow
              key={l.code}
              label={l.name}
              second={l.means || undefined}
              mark={<Mono color="$soft">{i + 1}</Mono>}
              text={`${l.code} → ${l.enter}`}
              testID={`key-${l.code}`}
            />
          ))}
        </>
      )}
    </>
  );
}
