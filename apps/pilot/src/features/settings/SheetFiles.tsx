import { settingsFromFile, settingsToCsv, settingsToJson, type FileReading } from '@yare/commissioning/settingsFile';
import { takeChanges } from '../../machine/takeChanges';
import { type MachineModel, keypadList } from '@yare/commissioning';
import { useState } from 'react';
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
    ...{ label: 'File with settings', testID: 'settings-file', accept: '.csv,.json,text/csv,application/json' },
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
      <SectionHead right="of the draft">Files</SectionHead>
      <ActRow
        text="Save as CSV"
        testID="save-settings-csv"
        onPress={() => save(`${tag} settings.csv`, 'text/csv', settingsToCsv(head, fileValues(model)))}
      />
      <ActRow
        text="Save as JSON"
        testID="save-settings-json"
        onPress={() => save(`${tag} settings.json`, 'application/json', settingsToJson(head, fileValues(model)))}
      />
      <ActRow text="Take in a file" testID="take-in" onPress={file.pick} />
      {file.input}
      {done !== null && (
        <Finding severity="good" sentence={`${done} ${done === 1 ? 'value' : 'values'} taken into the draft. Nothing was written to the drive.`} />
      )}
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
        <Finding
          severity="error"
          sentence={`${name} was not taken in: ${count(reading.faults.length, 'line is', 'lines are')} wrong. The draft is as it was.`}
        />
        {reading.faults.slice(0, 20).map((f) => (
          <SheetRow key={`${f.line} ${f.sentence}`} label={`Line ${f.line}`} second={f.sentence} />
        ))}
      </>
    );
  if (changes.length === 0) return <Finding severity="good" sentence={`${name} reads well; the draft says all of it already.`} />;
  const codes = `${changes.slice(0, 6).join(', ')}${changes.length > 6 ? ' …' : ''}`;
  return (
    <Finding
      severity="act"
      sentence={`${name} reads well. It would change ${count(changes.length, 'setting', 'settings')} of the draft: ${codes}. Nothing is written to the drive by it.`}
      act={`Take in ${count(changes.length, 'change', 'changes')}`}
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
      <SectionHead right={`${lines.length} to key in`}>Keypad list</SectionHead>
      {lines.length === 0 ? (
        <Note>Nothing to key in: the drive holds what the draft says.</Note>
      ) : (
        <>
          <ActRow
            text="Save as text"
            onPress={() =>
              save(
                `${tag} keypad list.txt`,
                'text/plain',
                lines.map((l, i) => `${i + 1}. ${l.code}  ${l.name}: ${l.enter}${l.means ? ` (${l.means})` : ''}`).join('\r\n'),
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
