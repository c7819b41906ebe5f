import { positionText, proofText } from '@yare/words';
import { useState } from 'react';
import { handOffAutoStage, positionsOf, tryPosition, type MachineModel, type Position } from '@yare/commissioning';
import type { FactsOf } from '@yare/contract';
import { InputJob, selectorWired } from '@yare/core';
import { say } from '@yare/words/pages/hand-off-auto';
import { useCommandNow, type CommandNow } from '../../data/commandNow';
import { useProofs, useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { Permissives } from '../../machine/Permissives';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { Refusal } from '../../ui/Answer';
import type { Act } from '../../ui/bar';
import { go } from '../../ui/go';
import { Segments } from '../../ui/Segments';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { ProofShape } from '../../ui/shapes';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';

const { sections = [] } = handOffAutoStage;
const names: Record<Position, string> = { hand: say.hand, off: say.off, auto: say.auto };
const positions: readonly Position[] = ['hand', 'off', 'auto'];

const positionNow = (now: CommandNow): Position => (now.told.mode === 'hand' ? 'hand' : now.told.mode === 'off' ? 'off' : 'auto');

/** The selector tried on the screen: what each position would do, from standing and from running. Nothing is sent. */
function TryIt({ model }: { model: MachineModel }) {
  const [position, setPosition] = useState<Position>('off');
  const [from, setFrom] = useState<Position | null>(null);
  const tried = from && tryPosition(model.drafted, from, position);
  return (
    <>
      <SectionHead right={say.workedOutNothingIsSent}>{say.tryItHere}</SectionHead>
      <Segments
        label={say.selector}
        options={positions.map((p) => ({ value: p, text: names[p], testID: `try-${p}` }))}
        value={position}
        onChoose={(p) => {
          setFrom(position);
          setPosition(p);
        }}
      />
      {from && tried ? (
        <Finding
          severity={tried.run ? 'act' : 'good'}
          sentence={say.fromTo({ names: names[from].toLowerCase(), names2: names[position].toLowerCase(), sentence: tried.sentence })}
        />
      ) : (
        <Note>{say.turnItHereToSee}</Note>
      )}
    </>
  );
}

/** What counts what the server saw at each position of the real selector. */
function useKeep(model: MachineModel, found: FactsOf<'selector'> | undefined): { act: Act | null; error: Error | null } {
  const prove = useProve(model);
  if (!positions.every((p) => found?.[p] !== undefined)) return { act: null, error: prove.error };
  return {
    error: prove.error,
    act: {
      text: say.countItEveryPositionSeen,
      main: true,
      hotkey: 'k',
      testID: 'keep-selector',
      onPress: () =>
        prove.mutate({
          stage: 'hand-off-auto',
          item: 'selector',
          outcome: 'passed',
          facts: null,
        }),
    },
  };
}

function HandOffAutoSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const wide = useWide();
  const now = useCommandNow(model);
  const undo = useUndo(machine.tag, 'draft');
  const seen = useSeen(machine.tag, 'selector').found.selector;
  const keep = useKeep(model, seen);
  const { newest, standing } = useProofs(model)('hand-off-auto', 'selector');
  const wired = selectorWired(drafted.controls().command);
  const shown = new Set(drafted.having(sections.flatMap((s) => s.roles)).map((s) => s.code));
  const can = drafted.inputs.some((s) => drafted.valueFor(s, InputJob.hand) !== null);
  const next = writeOrGoOn(model, 'hand-off-auto');
  const permissives = <Permissives model={model} now={now} />;
  return (
    <MachineFrame
      model={model}
      stage="hand-off-auto"
      title={say.handOffAuto}
      entries={sectionEntries(model, 'hand-off-auto', sections)}
      acts={[undo, standing.state !== 'passed' && keep.act ? keep.act : next]}
      evidenceTitle={say.whatHoldsItBack}
      evidenceNote="live"
      evidence={permissives}
    >
      <Refusal of={keep.error} />
      {standing.state === 'passed' && newest && (
        <Finding severity="good" sentence={say.everyPositionSeen({ author: newest.author, when: when(newest.at), proofText: proofText(newest) })} />
      )}
      {!wired && !can && <Note>{say.hasNoHandOffAuto({ family: drafted.book.family })}</Note>}
      {!wired && can && <Finding severity="act" sentence={say.noInputIsHandOr} act={say.goToCommand} onAct={() => go(`/m/${machine.tag}/command`)} />}
      <StageFindings model={model} findings={otherFindings(model, 'hand-off-auto', shown)} />
      {wired && (
        <>
          <SectionHead right={say.turnTheRealSelector}>{say.positions}</SectionHead>
          {positionsOf(drafted).map(({ position, sentence }) => (
            <SheetRow
              key={position}
              label={names[position]}
              second={sentence}
              text={
                seen?.[position]
                  ? positionText(seen[position])
                  : now && now.holder === 'terminals' && positionNow(now) === position
                    ? say.hereNow
                    : ''
              }
              mark={<ProofShape proof={standing.state === 'passed' || seen?.[position] !== undefined ? 'proved' : 'not yet'} />}
              testID={`position-${position}`}
            />
          ))}
          <TryIt model={model} />
        </>
      )}
      <SettingSections model={model} stage="hand-off-auto" sections={sections.filter((s) => s.id !== 'hand' || wired)} />
      {!wide && (
        <>
          <SectionHead right={say.theFirstOneFirst}>{say.whatHoldsItBack}</SectionHead>
          {permissives}
        </>
      )}
    </MachineFrame>
  );
}

/** What each position of the selector does, tried on the screen and proved with the selector in the hand. */
export const HandOffAutoScreen = machineScreen(HandOffAutoSheet);
