import { machineScreen } from '../../machine/machineScreen';
import { takeChanges } from '../../machine/takeChanges';
import { useRecording } from '../../data/recordings';
import { type MachineModel, changedText, momentsOf } from '@yare/commissioning';
import { useState, useMemo } from 'react';
import { clampReference, formatFigure, PhaseOrder, type DrivenKind } from '@yare/core';
import { proofText } from '@yare/words';
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
    title: 'The coupling, against the arrow cast on the casing',
    how: 'Pressure is no proof: a pump makes some of it backwards too. A dry seal burns within seconds, so fill it first.',
  },
  fan: {
    title: 'The wheel, against the arrow on the housing',
    how: 'Air is no proof: a fan moves some of it backwards too. Look at the wheel as it runs down, when it is slow enough.',
  },
  conveyor: { title: 'The belt: which way it carries', how: 'Look at the tail end as well. Nothing on the belt, nobody at its drums.' },
  hoist: {
    title: 'The hook: it has to rise',
    how: 'With an empty hook, clear of both ends of its way. A hoist that turns the wrong way runs away from its limit switch.',
  },
  agitator: { title: 'The shaft, against the arrow on the gear', how: 'A screwed propeller comes off when it turns backwards.' },
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
    label: 'Frequency to turn at',
    value: frequency,
    unit: 'Hz',
    decimals: 1,
    min: 1,
    max: 15,
    onSet: (v) => setFrequency(v ?? 5),
  };
  return (
    <MachineFrame
      model={model}
      stage="direction"
      title="Direction"
      entries={[entry]}
      acts={[]}
      foot={
        <HoldButton
          tag={tag}
          frequency={reached}
          blocked={blocked ?? (reached === 0 ? 'It would not turn: see the frequency' : clear ? null : 'First confirm that it may turn')}
          turning={turning && mine}
        />
      }
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <RunFindings run={run} />
      {asks && <WhichWay key={looked} model={model} recordingId={looked} onSaid={() => setSeen(looked)} />}
      <DirectionProof model={model} asks={asks} />
      <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'direction')} />
      <SectionHead>What to look at</SectionHead>
      <ShaftSketch kind={driven.kind} />
      <SheetRow label={what.title} second={what.how} />
      <SectionHead>Before it turns</SectionHead>
      <EntryRow
        entry={entry}
        label="Frequency"
        second={reached !== frequency ? `the drive will run at ${formatFigure(reached, 1)} Hz, its least` : 'slow enough to see, forward'}
        mark="C"
        testID="direction-frequency"
      />
      <MayTurn sentence={`${tag} ${name} will turn forward while you hold.`} clear={clear} onClear={setClear} />
      {!mine && <RunsByWhatIsInDrive model={model} />}
      <Note>
        <Body>
          Command is yours only while you hold. When you let go it ramps down and start goes back to the terminals; the strip above says who has it.
        </Body>
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
        sentence={`Proved ${when(newest.at)}, but ${changedText(model, standing.changed)} changed since. Prove it again.`}
      />
    );
  if (asks) return null;
  if (standing.state === 'failed') return <Cures model={model} by={by} />;
  if (standing.state !== 'passed') return null;
  return <Finding severity="good" sentence={`${by}: ${proofText(newest)}.`} act="Go on to Tune" onAct={() => go(`/m/${model.machine.tag}/tune`)} />;
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
      <Finding
        severity="error"
        sentence={`It turns the wrong way (${by}). There are two ways to fix it; do one of them, then prove it again by holding below.`}
      />
      <SheetRow
        label="Change two motor leads over"
        second="Isolate, lock off, wait for the bus, swap any two of U, V, W at the drive or the motor. The better way: forward is forward for any drive that ever comes here."
        mark={<ProofShape proof="act" />}
      />
      {phaseOrder ? (
        <ActRow
          text={`Reverse the phase order in the drive: ${phaseOrder.name} ${phaseOrder.code}`}
          second="no wire is touched; a new drive from the shelf would turn it wrong again. Goes to Write."
          onPress={turnRound}
          testID="turn-round"
        />
      ) : (
        <Note>{`${model.drafted.book.family} has no setting for it.`}</Note>
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
  if (error) return <Finding severity="error" sentence={`Recording ${recordingId} cannot be read: ${error.message}`} />;
  if (!data?.meta.complete) return <Note>{`Reading recording ${recordingId}…`}</Note>;
  const reached = momentsOf({ time: data.time, outputFrequency: data.data.outputFrequency ?? [] })?.top ?? 0;
  const hertz = `${formatFigure(reached, 1)} Hz`;
  if (reached < leastSeen) return <Finding severity="warning" sentence={`It reached only ${hertz}, too slow to see which way. Hold longer.`} />;
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
      <Finding severity="act" sentence={`${tag} has turned forward at up to ${hertz}. Which way did you see it go?`} />
      <ActRow text="The right way" second="the proof is kept with your name" onPress={() => answer(true)} testID="right-way" />
      <ActRow text="The wrong way" second="two ways to fix it follow" onPress={() => answer(false)} testID="wrong-way" />
    </>
  );
}

/** Hold to run at low speed, a look at the shaft, and the cures when it turns the wrong way. */
export const DirectionScreen = machineScreen(DirectionSheet);
