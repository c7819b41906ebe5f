import { useBooks } from '../../data/books';
import { useMachines } from '../../data/machines';
import { kindNames } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { useMemo, useState } from 'react';
import { ScrollView } from 'react-native';
import { allBooks } from '@yare/books';
import { checkPlate, present, type PlateFinding } from '@yare/core';
import { say } from '@yare/words/pages/new';
import {
  clearNewMachine,
  editNewMachine,
  editNewPlate,
  isUntouched,
  newMachineLacks,
  tagTrouble,
  useAddMachine,
  useNewMachine,
  type NewMachine,
} from '../../data/newMachine';
import { ActionBar, type Act } from '../../ui/bar';
import { Choices, EntryFoot } from '../../ui/entry';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { Finding, Note, SectionHead, SheetFoot } from '../../ui/sheet';
import { StageHead } from '../../ui/StageHead';
import { TextLine } from '../../ui/TextLine';
import { addressEntry, figureRows, plateEntry } from '../../machine/plateFigures';
import { Refusal } from '../../ui/Answer';

const owner = 'new machine';
/** The figures no computation can do without; the Plate stage asks for the rest. */
const plateRows = figureRows.filter((r) => !r.optional);

/** Puts a machine on record: what it is called, its motor, its drive, and where that answers. */
export function NewMachineScreen() {
  const machine = useNewMachine();
  const add = useAddMachine();
  const [bringBack, setBringBack] = useState<(() => void) | null>(null);
  const lacks = newMachineLacks(machine);
  const { plate } = machine;
  const odd = usePlateFinding(machine);
  const figures = plateRows.map((r) => plateEntry(owner, r, plate, editNewPlate));
  const voltage: Entry = {
    id: `${owner} supply`,
    label: say.supplyVoltage,
    value: machine.voltage,
    unit: 'V',
    decimals: 0,
    min: 50,
    max: 1000,
    onSet: (v) => editNewMachine({ voltage: present(v) }),
  };
  const address = addressEntry(owner, machine.unitId, (unitId) => editNewMachine({ unitId }));
  const clear = () => {
    const back = clearNewMachine();
    setBringBack(() => back);
  };
  const acts: Act[] = [
    { text: say.plant, hotkey: '0', onPress: () => go('/') },
    bringBack && isUntouched(machine)
      ? { text: say.bringBack, onPress: bringBack, testID: 'new-back' }
      : { text: say.clearAll, disabled: isUntouched(machine), onPress: clear, testID: 'new-clear' },
    {
      text: add.isPending ? say.adding : say.addTheMachine,
      main: true,
      disabled: lacks.length > 0 || add.isPending,
      onPress: () => add.mutate(machine, { onSuccess: (made) => go(`/m/${made.tag}/survey`) }),
      testID: 'new-add',
    },
  ];
  return (
    <View flex={1} backgroundColor="$paper" alignItems="center">
      <View flex={1} width="100%" maxWidth={720} backgroundColor="$sheet">
        <ScrollView style={{ flex: 1 }} contentContainerStyle={{ flexGrow: 1 }}>
          <StageHead title={say.newMachine} second={say.whatIsTypedStaysOn} />
          <NameAndPlace machine={machine} />
          <SectionHead>{say.whatItDrives}</SectionHead>
          <Segments
            label={say.kindOfMachine}
            options={(Object.keys(kindNames) as Array<keyof typeof kindNames>).map((k) => ({ value: k, text: kindNames[k], testID: `new-${k}` }))}
            value={machine.kind}
            onChoose={(kind) => editNewMachine({ kind })}
          />
          <PlateRows plate={plate} figures={figures} />
          {odd && (
            <Finding
              severity={odd.severity}
              sentence={odd.sentence}
              {...(odd.remedy && { act: odd.remedy.label, onAct: () => odd.remedy && editNewPlate(odd.remedy.change) })}
            />
          )}
          <SectionHead>{say.supply}</SectionHead>
          <EntryRow entry={voltage} second={say.lineToLine} mark="C" testID="new-supply" />
          <Segments
            label={say.supplyFrequencyAndRegion}
            options={([50, 60] as const).map((r) => ({ value: r, text: say.hz({ r }), second: say.supplyAndFactoryStart, testID: `new-${r}` }))}
            value={machine.region}
            onChoose={(region) => editNewMachine({ region })}
          />
          <DriveChoice machine={machine} sure={odd === undefined} />
          <EntryRow entry={address} second={say.whereTheDriveAnswers} mark={machine.unitId === null ? '' : 'C'} testID="new-unit" />
          <Note>{say.whatAnswersAtThisAddress}</Note>
          <Refusal of={add.error} />
          {lacks.length > 0 && <Note>{say.stillMissing({ lacks: lacks.join(', ') })}</Note>}
          <SheetFoot />
        </ScrollView>
        <EntryFoot entries={[...figures, voltage, address]}>
          <ActionBar acts={acts} />
        </EntryFoot>
      </View>
    </View>
  );
}

/** What the machine is called and where it stands. */
function NameAndPlace({ machine }: { machine: NewMachine }) {
  const areas = [...new Set((useMachines().data ?? []).map((m) => m.area))];
  const trouble = tagTrouble(machine.tag);
  return (
    <>
      <SectionHead>{say.whatItIsCalled}</SectionHead>
      <TextLine
        label={say.tag}
        caption={say.tagAsOnTheDoor}
        placeholder="P-12"
        value={machine.tag}
        onChange={(t) => editNewMachine({ tag: t.toUpperCase().trim().slice(0, 8) })}
        testID="new-tag"
      />
      {trouble && <Finding severity="warning" sentence={trouble} />}
      <TextLine
        label={say.name}
        caption={say.name}
        placeholder={say.washWaterPump}
        value={machine.name}
        onChange={(t) => editNewMachine({ name: t.slice(0, 60) })}
        testID="new-name"
      />
      <SectionHead>{say.location}</SectionHead>
      <Choices options={areas.map((a) => ({ value: a, label: a }))} value={machine.area} onChoose={(a) => editNewMachine({ area: String(a) })} />
      <TextLine
        label={say.area}
        caption={say.orAnotherArea}
        placeholder={say.boilerHouse}
        value={machine.area}
        onChange={(t) => editNewMachine({ area: t.slice(0, 60) })}
        testID="new-area"
      />
    </>
  );
}

/** What the plate has to say before anything can be computed. */
function PlateRows({ plate, figures }: { plate: NewMachine['plate']; figures: readonly Entry[] }) {
  return (
    <>
      <SectionHead right={say.theRestOnThePlate}>{say.motorPlate}</SectionHead>
      <Segments
        label={say.standardOfThePlate}
        options={(['IEC', 'NEMA'] as const).map((s) => ({ value: s, text: s, testID: `new-${s}` }))}
        value={plate.standard}
        onChoose={(standard) => editNewPlate({ standard, ...(plate.power === undefined && { powerUnit: standard === 'NEMA' ? 'hp' : 'kW' }) })}
      />
      {plateRows.map((r, i) => {
        const value = plate[r.field] as number | undefined;
        return (
          <EntryRow
            least={0}
            key={r.field}
            entry={present(figures[i])}
            second={r.second}
            mark={value === undefined ? '' : 'P'}
            testID={`new-${r.field}`}
          />
        );
      })}
      <Segments
        label={say.connection}
        options={(['star', 'delta'] as const).map((c) => ({ value: c, text: c === 'star' ? say.starY : say.delta, testID: `new-${c}` }))}
        value={plate.connection ?? null}
        onChoose={(connection) => editNewPlate({ connection })}
      />
    </>
  );
}

/** What does not fit on the plate so far, with what it probably should be: before anything is chosen by it. */
function usePlateFinding({ plate }: NewMachine): PlateFinding | undefined {
  return useMemo(() => {
    const { power, voltage, current, frequency, speed } = plate;
    if (power === undefined || voltage === undefined || current === undefined || frequency === undefined || speed === undefined) return undefined;
    return checkPlate({
      ...{ connection: 'star', powerFactor: null, efficiency: null, design: null, serviceFactor: null },
      ...plate,
      ...{ power, voltage, current, frequency, speed },
    })[0];
  }, [plate]);
}

/** The drive that will stand there: sizes that carry the motor are told from those that do not. */
function DriveChoice({ machine, sure }: { machine: NewMachine; sure: boolean }) {
  const shelf = useBooks();
  const books = shelf.data ? allBooks() : [];
  const book = books.find((b) => b.id === machine.bookId);
  const need = machine.plate.current;
  const sizes = useMemo(
    () =>
      (book?.ratings ?? []).map((r) => ({
        value: r.size,
        label: r.size,
        second: say.kwA({ power: r.power, current: r.current, need, sure }),
      })),
    [book, need, sure],
  );
  return (
    <>
      <SectionHead right={book && machine.size ? `${book.family} ${machine.size}` : undefined}>{say.drive}</SectionHead>
      <Segments
        label={say.driveFamily}
        options={books.map((b) => ({ value: b.id, text: b.family, testID: `new-${b.id}` }))}
        value={machine.bookId}
        onChoose={(bookId) => bookId !== machine.bookId && editNewMachine({ bookId, size: null })}
      />
      {book && <Choices options={sizes} value={machine.size} onChoose={(size) => editNewMachine({ size: String(size) })} />}
    </>
  );
}
