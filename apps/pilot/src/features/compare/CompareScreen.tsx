import { machineScreen } from '../../machine/machineScreen';
import { present } from '@yare/core';
import { useSheets } from '../../data/sheets';
import { useMachine, useMachines } from '../../data/machines';
import { type MachineModel, figuresOf } from '@yare/commissioning';
import { compareSettings } from '@yare/commissioning/copy';
import { View } from '@tamagui/core';
import { useState } from 'react';
import { bookById, DriveSettings, factoryValues } from '@yare/books';
import { say } from '@yare/words/pages/compare';
import { MachineFrame } from '../../machine/MachineFrame';
import { Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Mono, Second } from '../../ui/text';

const kinds = ['draft', 'in drive', 'as found', 'factory'] as const;
type Kind = (typeof kinds)[number];
interface Side {
  tag: string;
  kind: Kind;
}

/** The settings of one side; null while they are fetched or when there are none. */
function useSide(side: Side): DriveSettings | null {
  const machine = useMachine(side.tag).data;
  const sheets = useSheets(side.tag).data;
  if (!machine || machine.tag !== side.tag || !sheets) return null;
  const factory = new DriveSettings(bookById(machine.bookId), machine.size, {}, machine.region);
  if (side.kind === 'factory') return factory.with(factoryValues(factory.book, machine.size, machine.region));
  const sheet = { draft: sheets.draft, 'in drive': sheets.inDrive, 'as found': sheets.asFound }[side.kind];
  return sheet && factory.with(figuresOf(sheet.values));
}

function CompareSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const [a, setA] = useState<Side>({ tag, kind: 'draft' });
  const [b, setB] = useState<Side>({ tag, kind: 'as found' });
  const [left, right] = [useSide(a), useSide(b)];
  const result = left && right ? compareSettings(left, right) : null;
  const name = (s: Side) => `${s.tag} ${s.kind}`;
  return (
    <MachineFrame
      model={model}
      title={say.compare}
      acts={[{ text: say.swapSides, main: true, hotkey: 'c', onPress: () => (setA(b), setB(a)), testID: 'swap-sides' }]}
      evidenceTitle={say.theTwoSides}
      evidence={<Note>{say.ofAnotherFamilyWhatDoes}</Note>}
    >
      <SidePick title={say.first({ name: name(a) })} side={a} onSide={setA} testID="side-a" />
      <SidePick title={say.second({ name: name(b) })} side={b} onSide={setB} testID="side-b" />
      <SectionHead right={result ? say.differAgree({ differing: result.differing.length, equal: result.equal }) : ''}>{say.differences}</SectionHead>
      {!result && <Note>{left === null ? say.nothingThereYet({ name: name(a) }) : say.nothingThereYet({ name: name(b) })}</Note>}
      {result && result.differing.length === 0 && <Note>{say.theyAgreeInEverythingBoth}</Note>}
      {result && result.differing.length > 0 && <Note>{say.boldUnderIt({ name: name(a), name2: name(b) })}</Note>}
      {result?.differing.map((d) => (
        <SheetRow key={d.code} label={d.name} second={d.code} testID={`compare-${d.code}`}>
          <View paddingRight={14} maxWidth="56%" alignItems="flex-end">
            <Mono fontSize={17} lineHeight={22} fontFamily="$monoBold">
              {`${d.a} ${d.unit}`.trim()}
            </Mono>
            <Mono fontSize={15} lineHeight={20} color="$soft">
              {`${d.b} ${d.unit}`.trim()}
            </Mono>
          </View>
        </SheetRow>
      ))}
      {result && result.onlyInOne > 0 && (
        <Note>{say.settingsOfHaveNothingBeside({ onlyInOne: result.onlyInOne, name: name(a), name2: name(b) })}</Note>
      )}
    </MachineFrame>
  );
}

function SidePick({ title, side, onSide, testID }: { title: string; side: Side; onSide: (side: Side) => void; testID: string }) {
  const { data } = useMachines();
  return (
    <Fold title={title} open={false} testID={testID}>
      <View paddingLeft={52} paddingVertical={6}>
        <Second>{say.whichOfItsSheets}</Second>
      </View>
      {kinds.map((kind) => (
        <SheetRow
          key={kind}
          label={present(kind[0]).toUpperCase() + kind.slice(1)}
          inHand={side.kind === kind}
          onPress={() => onSide({ ...side, kind })}
          testID={`${testID}-${kind.replace(' ', '-')}`}
        />
      ))}
      <View paddingLeft={52} paddingVertical={6}>
        <Second>{say.ofWhichMachine}</Second>
      </View>
      {data?.map((m) => (
        <SheetRow
          key={m.tag}
          label={`${m.tag} ${m.name}`}
          second={bookById(m.bookId).family}
          inHand={side.tag === m.tag}
          onPress={() => onSide({ ...side, tag: m.tag })}
          testID={`${testID}-${m.tag}`}
        />
      ))}
    </Fold>
  );
}

/** Any two sets of settings against each other: of this machine or of another, whatever their families. */
export const CompareScreen = machineScreen(CompareSheet);
