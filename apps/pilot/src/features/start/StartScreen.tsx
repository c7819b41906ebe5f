import { sourceMark } from '../../machine/sourceMark';
import { present, type DrivenKind } from '@yare/core';
import { machineScreen } from '../../machine/machineScreen';
import { takeChanges } from '../../machine/takeChanges';
import { useSheets } from '../../data/sheets';
import { useMachine, useMachines } from '../../data/machines';
import { type MachineModel, figuresOf, sensorOf } from '@yare/commissioning';
import { templateChanges, templateKinds, type TemplateKind, type TemplateChange } from '@yare/commissioning/templates';
import { transfer, type LeftOut } from '@yare/commissioning/copy';
import { useState } from 'react';
import { bookById, textOf, DriveSettings } from '@yare/books';
import type { Act } from '../../ui/bar';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { Segments } from '../../ui/Segments';
import { Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { go } from '../../ui/go';

const kindNames: Record<TemplateKind, string> = { pump: 'Pump', fan: 'Fan', conveyor: 'Conveyor', hoist: 'Hoist', general: 'General' };

function StartSheet({ model }: { model: MachineModel }) {
  const { plate, drafted } = model;
  const { tag, driven } = model.machine;
  const undo = useUndo(tag, 'draft');
  const [from, setFrom] = useState<'template' | 'machine'>('template');
  const [kind, setKind] = useState<TemplateKind>(driven.kind === 'agitator' ? 'general' : driven.kind);
  const [other, setOther] = useState<string | null>(null);
  const [done, setDone] = useState<number | null>(null);
  // what was taken before says nothing about another choice
  const choose =
    <V,>(set: (value: V) => void) =>
    (value: V) => {
      set(value);
      setDone(null);
      setWithout(new Set());
    };
  const copied = useCopied(model, from === 'machine' ? other : null);
  const [without, setWithout] = useState<ReadonlySet<string>>(new Set());
  const offered = from === 'template' ? templateChanges(drafted, kind, plate) : copied.changes;
  const changes = offered.filter((c) => !without.has(c.code));
  const leaveOut = (code: string) => setWithout((before) => new Set(before.has(code) ? [...before].filter((c) => c !== code) : [...before, code]));
  const take = () => {
    takeChanges(model, changes);
    setDone(changes.length);
  };
  const acts: Act[] = [
    undo,
    {
      text: changes.length > 0 ? `Take ${changes.length} ${changes.length === 1 ? 'value' : 'values'}` : 'Go to Protection',
      main: true,
      hotkey: 'g',
      onPress: changes.length > 0 ? take : () => go(`/m/${tag}/protection`),
      testID: 'take-start',
    },
  ];
  return (
    <MachineFrame
      model={model}
      title="Start from"
      acts={acts}
      evidenceTitle="Not to be copied"
      evidence={
        from === 'machine' && other ? <LeftOutRows rows={copied.left} /> : <Note>Nothing is written to the drive here: only the draft changes.</Note>
      }
    >
      <Segments
        label="Start from"
        options={[
          { value: 'template', text: 'A template', second: 'for its kind', testID: 'from-template' },
          { value: 'machine', text: 'Another machine', second: 'what is alike', testID: 'from-machine' },
        ]}
        value={from}
        onChoose={choose(setFrom)}
      />
      {done !== null && changes.length === 0 && (
        <Finding
          severity="good"
          sentence={`${done} ${done === 1 ? 'value' : 'values'} taken into the draft of ${tag}. Nothing was written to the drive.`}
        />
      )}
      {from === 'template' ? (
        <Segments
          label="Kind of machine"
          options={templateKinds.map((k) => ({ value: k, text: kindNames[k], testID: `template-${k}` }))}
          value={kind}
          onChoose={choose(setKind)}
        />
      ) : (
        <OtherMachines tag={tag} chosen={other} onChoose={choose(setOther)} />
      )}
      {(from === 'template' || other) && <SectionHead right={`${changes.length} would change`}>What it would put into the draft</SectionHead>}
      {(from === 'template' || (other && copied.ready)) && offered.length === 0 && done === null && <Note>The draft says all of it already.</Note>}
      {from === 'machine' && copied.otherKind && (
        <Finding
          severity="warning"
          sentence={`${other} is a ${copied.otherKind}, and ${tag} is a ${driven.kind}: what is set for its kind stays there. Look at every value before it is taken.`}
        />
      )}
      <ChangeRows model={model} changes={offered} without={without} onLeaveOut={leaveOut} />
      {from === 'machine' && other && copied.left.length > 0 && (
        <Fold title="Not to be copied" right={`${copied.left.length} settings`} open testID="fold-left">
          <LeftOutRows rows={copied.left} />
        </Fold>
      )}
    </MachineFrame>
  );
}

/** What would be taken, row by row; a tap leaves one out, and takes it in again. */
function ChangeRows({
  model,
  changes,
  without,
  onLeaveOut,
}: {
  model: MachineModel;
  changes: readonly TemplateChange[];
  without: ReadonlySet<string>;
  onLeaveOut: (code: string) => void;
}) {
  return (
    <>
      {changes.map((c) => {
        const s = present(model.drafted.at(c.code));
        return (
          <SheetRow
            key={c.code}
            label={c.name}
            second={`${c.code} · ${c.why} · now ${textOf(s, model.draftOf(c.code).value)} · ${without.has(c.code) ? 'left out; tap to take it' : 'tap to leave it out'}`}
            mark={without.has(c.code) ? '–' : sourceMark[c.source]}
            changed={!without.has(c.code)}
            onPress={() => onLeaveOut(c.code)}
            testID={`start-${c.code}`}
            {...(s.options ? { text: textOf(s, c.value) } : { figure: textOf(s, c.value), unit: s.unit })}
          />
        );
      })}
    </>
  );
}

function OtherMachines({ tag, chosen, onChoose }: { tag: string; chosen: string | null; onChoose: (tag: string) => void }) {
  const { data } = useMachines();
  return (
    <>
      <SectionHead>Which machine</SectionHead>
      {data
        ?.filter((m) => m.tag !== tag)
        .map((m) => (
          <SheetRow
            key={m.tag}
            label={`${m.tag} ${m.name}`}
            second={`${bookById(m.bookId).family} ${m.size} · ${m.plate.power} ${m.plate.powerUnit}`}
            inHand={chosen === m.tag}
            onPress={() => onChoose(m.tag)}
            testID={`copy-${m.tag}`}
          />
        ))}
    </>
  );
}

function LeftOutRows({ rows }: { rows: ReadonlyArray<{ code: string; name: string; reason: string }> }) {
  return (
    <>
      {rows.map((r) => (
        <SheetRow key={r.code} label={r.name} second={`${r.code} · ${r.reason}`} testID={`left-${r.code}`} />
      ))}
    </>
  );
}

/** What another machine's draft would give this one. */
function useCopied(
  model: MachineModel,
  other: string | null,
): {
  ready: boolean;
  changes: TemplateChange[];
  left: LeftOut[];
  /** what the other machine is, where this one is something else */
  otherKind: DrivenKind | null;
} {
  const machine = useMachine(other ?? model.machine.tag).data;
  const sheets = useSheets(other ?? model.machine.tag).data;
  if (!other || machine?.tag !== other || !sheets) return { ready: false, changes: [], left: [], otherKind: null };
  const from = new DriveSettings(bookById(machine.bookId), machine.size, figuresOf(sheets.draft.values), machine.region);
  const { taken, left } = transfer(
    from,
    model.drafted,
    { from: sensorOf(machine.driven), to: sensorOf(model.machine.driven) },
    { from: machine.driven.kind, to: model.machine.driven.kind },
  );
  const otherKind = machine.driven.kind === model.machine.driven.kind ? null : machine.driven.kind;
  return { ready: true, left, otherKind, changes: taken.map((t) => ({ ...t, source: 'chosen', why: `${other}: ${t.from}` })) };
}

/** A draft begun from a template for its kind of machine, or from what another machine has. */
export const StartScreen = machineScreen(StartSheet);
