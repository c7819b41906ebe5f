import { machineScreen } from '../../machine/machineScreen';
import { present } from '@yare/core';
import type { MachineModel } from '@yare/commissioning';
import { useRevision, useRevisions } from '../../data/sheets';
import { View } from '@tamagui/core';
import { useState } from 'react';
import { storedValue, textOf } from '@yare/books';
import { say } from '@yare/words/pages/revisions';
import { editDraft } from '../../data/edits';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { Mono } from '../../ui/text';
import { when } from '../../ui/when';
import { go } from '../../ui/go';
import { Refusal } from '../../ui/Answer';

interface Which {
  kind: string;
  revision: number;
}

function RevisionsSheet({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const undo = useUndo(tag, 'draft');
  const { data, error } = useRevisions(tag);
  const [open, setOpen] = useState<Which | null>(null);
  return (
    <MachineFrame
      model={model}
      title={say.revisions}
      acts={[undo, { text: say.settingsSheet, main: true, hotkey: 'g', onPress: () => go(`/m/${tag}/settings`) }]}
      evidenceTitle={say.whatItWouldBringBack}
      evidence={<Note>{say.bringingARevisionBackMakes}</Note>}
    >
      <Refusal of={error} />
      <SectionHead right={data ? say.text({ revisions: data.revisions.length, next: data.next }) : ''}>{say.newestFirst}</SectionHead>
      {data?.revisions.map((r) => {
        const here = open?.kind === r.kind && open.revision === r.revision;
        return (
          <View key={`${r.kind} ${r.revision}`}>
            <SheetRow
              label={`${present(r.kind[0]).toUpperCase()}${r.kind.slice(1)} ${r.revision}`}
              second={say.ofThePreviousDrive({ author: r.author, when: when(r.at), otherDrive: r.otherDrive, changed: r.changed })}
              inHand={here}
              onPress={r.otherDrive ? undefined : () => setOpen(here ? null : { kind: r.kind, revision: r.revision })}
              testID={`revision-${r.kind.replace(' ', '-')}-${r.revision}`}
            />
            {here && <BringBack model={model} which={open} onDone={() => setOpen(null)} />}
          </View>
        );
      })}
    </MachineFrame>
  );
}

function BringBack({ model, which, onDone }: { model: MachineModel; which: Which; onDone: () => void }) {
  const { data } = useRevision(model.machine.tag, which);
  if (!data) return <Note>{say.readingIt}</Note>;
  const changes = model.drafted.all.filter((s) => {
    const then = data.values[s.code];
    return s.access !== 'read' && then !== undefined && storedValue(s, then.value) !== storedValue(s, model.draftOf(s.code).value);
  });
  if (changes.length === 0) return <Note>{say.theDraftIsJustAs}</Note>;
  const restore = () => {
    const before = Object.fromEntries(changes.map((s) => [s.code, model.draftOf(s.code)]));
    editDraft(
      model.machine.tag,
      Object.fromEntries(changes.map((s) => [s.code, { value: present(data.values[s.code]).value, source: present(data.values[s.code]).source }])),
      before,
    );
    onDone();
  };
  return (
    <>
      <Finding
        severity="act"
        sentence={say.settingOfTheDraftIs({ changes: changes.length })}
        act={say.bringBackIntoTheDraft({ changes: changes.length })}
        onAct={restore}
      />
      {changes.map((s) => (
        <SheetRow key={s.code} label={s.name} second={s.code}>
          <View paddingRight={14} maxWidth="50%">
            <Mono textAlign="right" fontSize={15} lineHeight={20}>
              {textOf(s, model.draftOf(s.code).value)} → {textOf(s, present(data.values[s.code]).value)} {s.unit}
            </Mono>
          </View>
        </SheetRow>
      ))}
    </>
  );
}

/** Every state a machine's settings have been in, with who and when; any of them can be brought back into the draft. */
export const RevisionsScreen = machineScreen(RevisionsSheet);
