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
import { say } from '@yare/words/pages/start';
import type { Act } from '../../ui/bar';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { Segments } from '../../ui/Segments';
import { Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { go } from '../../ui/go';

const kindNames: Record<TemplateKind, string> = { pump: say.pump, fan: say.fan, conveyor: say.conveyor, hoist: say.hoist, general: say.general };

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
      text: changes.length > 0 ? say.takeValue({ changes: changes.length }) : say.goToProtection,
      main: true,
      hotkey: 'g',
      onPress: changes.length > 0 ? take : () => go(`/m/${tag}/protection`),
      testID: 'take-start',
    },
  ];
  return (
    <MachineFrame
      model={model}
      title={say.startFrom}
      acts={acts}
      evidenceTitle={say.notToBeCopied}
      evidence={from === 'machine' && other ? <LeftOutRows rows={copied.left} /> : <Note>{say.nothingIsWrittenToThe}</Note>}
    >
      <Segments
        label={say.startFrom}
        options={[
          { value: 'template', text: say.aTemplate, second: say.forItsKind, testID: 'from-template' },
          { value: 'machine', text: say.anotherMachine, second: say.whatIsAlike, testID: 'from-machine' },
        ]}
        value={from}
        onChoose={choose(setFrom)}
      />
      {done !== null && changes.length === 0 && <Finding severity="good" sentence={say.valueTakenIntoTheDraft({ done, tag })} />}
      {from === 'template' ? (
        <Segments
          label={say.kindOfMachine}
          options={templateKinds.map((k) => ({ value: k, text: kindNames[k], testID: `template-${k}` }))}
          value={kind}
          onChoose={choose(setKind)}
        />
      ) : (
        <OtherMachines tag={tag} chosen={other} onChoose={choose(setOther)} />
      )}
      {(from === 'template' || other) && <SectionHead right={say.wouldChange({ changes: changes.length })}>{say.whatItWouldPutInto}</SectionHead>}
      {(from === 'template' || (other && copied.ready)) && offered.length === 0 && done === null && <Note>{say.theDraftSaysAllOf}</Note>}
      {from === 'machine' && copied.otherKind && (
        <Finding severity="warning" sentence={say.isAAndIsA({ other, otherKind: copied.otherKind, tag, kind: driven.kind })} />
      )}
      <ChangeRows model={model} changes={offered} without={without} onLeaveOut={leaveOut} />
      {from === 'machine' && other && copied.left.length > 0 && (
        <Fold title={say.notToBeCopied} right={say.settings({ left: copied.left.length })} open testID="fold-left">
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
            second={say.nowLeftOutTapTo({ code: c.code, why: c.why, textOf: textOf(s, model.draftOf(c.code).value), has: without.has(c.code) })}
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
      <SectionHead>{say.whichMachine}</SectionHead>
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
