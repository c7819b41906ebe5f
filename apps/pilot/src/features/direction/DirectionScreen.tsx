import { machineScreen } from '../../machine/machineScreen';
import { takeChanges } from '../../machine/takeChanges';
import { useRecording } from '../../data/recordings';
import { type MachineModel, changedText, momentsOf } from '@yare/commissioning';
import { useState, useMemo } from 'react';
import { clampReference, PhaseOrder, type DrivenKind } from '@yare/core';
import { proofText } from '@yare/words';
import { say } from '@yare/words/pages/direction';
import { useMayRun } from '../../data/mayRun';
import { useProofs, useProve } from '../../data/proofs';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { HoldButton } from '../../machine/HoldButton';
import { MachineFrame } from '../../machine/MachineFrame';
import { LiveBelow, RunFindings, RunsByWhatIsInDrive } from '../../machine/RunFindings';
import { MayTurn, useClear } from '../../machine/MayTurn';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { ProofShape } from '../../ui/shapes';
import { StageFindings } from '../../machine/StageFindings';
import { Body } from '../../ui/text';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { when } from '../../ui/when';
import { ShaftSketch } from './ShaftSketch';
import { go } from '../../ui/go';
import { Refusal } from '../../ui/Answer';

/** What to look at, by what is driven. */
const lookAt: Record<DrivenKind, { title: string; how: string }> = {
  pump: {
    title: say.theCouplingAgainstTheArrow,
    how: say.pressureIsNoProofA,
  },
  fan: {
    title: say.theWheelAgainstTheArrow,
    how: say.airIsNoProofA,
  },
  conveyor: { title: say.theBeltWhichWayIt, how: say.lookAtTheTailEnd },
  hoist: {
    title: say.theHookItHasTo,
    how: say.withAnEmptyHookClear,
  },
  agitator: { title: say.theShaftAgainstTheArrow, how: say.aScrewedPropellerComesOff },
};

function DirectionSheet({ model }: { model: MachineModel }) {
  const { tag, name, driven } = model.machine;
  const { mine, turning, run, blocked } = useMayRun(tag);
  const drive = useMemo(() => model.held?.parameters() ?? null, [model.held]);
  const [frequency, setFrequency] = useState(5);
  const [clear, setClear] = useClear(tag);
  const [seen, setSeen] = useState<number | null>(null);
  const reached = drive ? clampReference(drive, frequency) : frequency;
  const what = lookAt[driven.kind];
  const looked = run?.phase === 'ended' && run.recordingId !== null && run.tune === null ? run.recordingId : null;
  const asks = looked !== null && looked !== seen;
  const entry: Entry = {
    id: `${tag} direction frequency`,
    label: say.frequencyToTurnAt,
    value: frequency,
    unit: say.hz,
    decimals: 1,
    min: 1,
    max: 15,
    onSet: (v) => setFrequency(v ?? 5),
  };
  return (
    <MachineFrame
      model={model}
      stage="direction"
      title={say.direction}
      entries={[entry]}
      acts={[]}
      foot={
        <HoldButton
          tag={tag}
          frequency={reached}
          blocked={blocked ?? (reached === 0 ? say.itWouldNotTurnSee : clear ? null : say.firstConfirmThatItMay)}
          turning={turning && mine}
        />
      }
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <RunFindings run={run} />
      {asks && <WhichWay key={looked} model={model} recordingId={looked} onSaid={() => setSeen(looked)} />}
      <DirectionProof model={model} asks={asks} />
      <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'direction')} />
      <SectionHead>{say.whatToLookAt}</SectionHead>
      <ShaftSketch kind={driven.kind} />
      <SheetRow label={what.title} second={what.how} />
      <SectionHead>{say.beforeItTurns}</SectionHead>
      <EntryRow
        entry={entry}
        label={say.frequency}
        second={reached !== frequency ? say.theDriveWillRunAt({ reached }) : say.slowEnoughToSeeForward}
        mark="C"
        testID="direction-frequency"
      />
      <MayTurn sentence={say.willTurnForwardWhileYou({ tag, name })} clear={clear} onClear={setClear} />
      {!mine && <RunsByWhatIsInDrive model={model} />}
      <Note>
        <Body>{say.commandIsYoursOnlyWhile}</Body>
      </Note>
      <LiveBelow model={model} />
    </MachineFrame>
  );
}

/** Where the proof of the direction stands, and the two cures when it turns the wrong way. */
function DirectionProof({ model, asks }: { model: MachineModel; asks: boolean }) {
  const { newest, standing } = useProofs(model)('direction', 'direction');
  if (!newest) return null;
  const by = `${newest.author}, ${when(newest.at)}`;
  if (standing.state === 'stale')
    return (
      <Finding
        severity="warning"
        sentence={say.provedButChangedSinceProve({ when: when(newest.at), changedText: changedText(model, standing.changed) })}
      />
    );
  if (asks) return null;
  if (standing.state === 'failed') return <Cures model={model} by={by} />;
  if (standing.state !== 'passed') return null;
  return <Finding severity="good" sentence={`${by}: ${proofText(newest)}.`} act={say.goOnToTune} onAct={() => go(`/m/${model.machine.tag}/tune`)} />;
}

function Cures({ model, by }: { model: MachineModel; by: string }) {
  const { tag } = model.machine;
  const phaseOrder = model.drafted.find('phaseOrder');
  const turnRound = () => {
    const held = model.held?.role('phaseOrder') ?? PhaseOrder.asWired;
    const other = held === PhaseOrder.asWired ? PhaseOrder.changedOver : PhaseOrder.asWired;
    takeChanges(model, model.drafted.change('phaseOrder', other, 'measured'));
    go(`/m/${tag}/write`);
  };
  return (
    <>
      <Finding severity="error" sentence={say.itTurnsTheWrongWay({ by })} />
      <SheetRow label={say.changeTwoMotorLeadsOver} second={say.isolateLockOffWaitFor} mark={<ProofShape proof="act" />} />
      {phaseOrder ? (
        <ActRow
          text={say.reverseThePhaseOrderIn({ name: phaseOrder.name, code: phaseOrder.code })}
          second={say.noWireIsTouchedA}
          onPress={turnRound}
          testID="turn-round"
        />
      ) : (
        <Note>{say.hasNoSettingForIt({ family: model.drafted.book.family })}</Note>
      )}
    </>
  );
}

/** Slower than this nobody sees which way a shaft goes, Hz. */
const leastSeen = 1;

/** What was seen of a run, asked once its recording tells how fast it got, and kept as the proof. */
function WhichWay({ model, recordingId, onSaid }: { model: MachineModel; recordingId: number; onSaid: () => void }) {
  const { tag } = model.machine;
  const { data, error } = useRecording(recordingId);
  const prove = useProve(model);
  if (error) return <Finding severity="error" sentence={say.recordingCannotBeRead({ recordingId, message: error.message })} />;
  if (!data?.meta.complete) return <Note>{say.readingRecording({ recordingId })}</Note>;
  const reached = momentsOf({ time: data.time, outputFrequency: data.data.outputFrequency ?? [] })?.top ?? 0;
  const hertz = say.hz2({ reached });
  if (reached < leastSeen) return <Finding severity="warning" sentence={say.itReachedOnlyTooSlow({ hertz })} />;
  const answer = (right: boolean) =>
    prove.mutate(
      {
        stage: 'direction',
        item: 'direction',
        outcome: right ? 'passed' : 'failed',
        facts: { kind: 'direction', right, frequency: reached, recording: recordingId },
      },
      { onSuccess: onSaid },
    );
  return (
    <>
      <Refusal of={prove.error} />
      <Finding severity="act" sentence={say.hasTurnedForwardAtUp({ tag, hertz })} />
      <ActRow text={say.theRightWay} second={say.theProofIsKeptWith} onPress={() => answer(true)} testID="right-way" />
      <ActRow text={say.theWrongWay} second={say.twoWaysToFixIt} onPress={() => answer(false)} testID="wrong-way" />
    </>
  );
}

/** Hold to run at low speed, a look at the shaft, and the cures when it turns the wrong way. */
export const DirectionScreen = machineScreen(DirectionSheet);
