import { drivenFields, drivenFigure, kindNames } from '@yare/commissioning';
import { useState } from 'react';
import type { Driven, DrivenKind } from '@yare/contract';
import { type StampedPlate, drivenFromMotor, present } from '@yare/core';
import { say } from '@yare/words/pages/survey';
import { Choices } from '../../ui/entry';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { Note, SectionHead, SheetRow } from '../../ui/sheet';

/** The figures of what is driven, to be typed. */
export const drivenEntries = (tag: string, driven: Driven, set: (driven: Driven) => void): Entry[] =>
  drivenFields[driven.kind].map((f) => ({
    id: `${tag} driven ${f.key}`,
    label: f.label,
    value: drivenFigure(driven, f.key),
    unit: f.unit,
    decimals: f.decimals,
    min: f.min,
    max: f.max,
    optional: f.optional,
    onSet: (value) => set({ ...driven, [f.key]: value }),
  }));

/** What the motor drives, from the machine's own plate: the look-ahead's load. */
export function DrivenRows({
  driven,
  estimated,
  taken,
  plate,
  entries,
  onSet,
}: {
  driven: Driven;
  estimated: boolean;
  /** somebody has been at these figures: those that still are what the motor suggests stay estimates */
  taken: boolean;
  plate: StampedPlate;
  entries: readonly Entry[];
  onSet: (driven: Driven) => void;
}) {
  const [open, setOpen] = useState(false);
  const suggested = drivenFromMotor(driven.kind, plate);
  return (
    <>
      <SectionHead right={estimated ? say.estimateFromTheMotor : undefined}>{say.whatItDrives}</SectionHead>
      <SheetRow
        label={say.kind}
        second={say.ofMachine}
        text={kindNames[driven.kind]}
        mark="C"
        inHand={open}
        onPress={() => setOpen(!open)}
        testID="driven-kind"
      />
      {open && (
        <Choices
          options={Object.entries(kindNames).map(([value, label]) => ({
            value,
            label,
            second: value === driven.kind ? undefined : say.beginsAsAnEstimateFrom,
          }))}
          value={driven.kind}
          onChoose={(kind) => {
            setOpen(false);
            if (kind !== driven.kind) onSet(drivenFromMotor(kind as DrivenKind, plate));
          }}
        />
      )}
      {drivenFields[driven.kind].map((f, i) => {
        const value = drivenFigure(driven, f.key);
        const estimate = estimated || (taken && value !== null && value === drivenFigure(suggested, f.key));
        return (
          <EntryRow
            least={0}
            key={f.key}
            entry={present(entries[i])}
            second={value === null ? say.noneFitted : f.second}
            mark={estimate ? 'W' : 'C'}
            estimate={estimate}
            testID={`driven-${f.key}`}
          />
        );
      })}
      {estimated && <Note>{say.nobodyHasReadTheMachines}</Note>}
    </>
  );
}
