import { machineScreen } from '../../machine/machineScreen';
import { useRecording } from '../../data/recordings';
import {
  againstRun,
  insideBand,
  lookAheadBand,
  momentsOf,
  provingSpeed,
  runProof,
  type Compared,
  type MachineModel,
  type RecordedRun,
} from '@yare/commissioning';
import type { FactsOf, RecordingData } from '@yare/contract';
import { capital, factsText, quantities } from '@yare/words';
import { useState, useMemo } from 'react';
import { clampReference, formatFigure, type DriveParameters } from '@yare/core';
import { say } from '@yare/words/pages/turn';
import { useLive } from '../../data/live';
import { useAheadTo } from '../../data/lookAhead';
import { useMayRun } from '../../data/mayRun';
import { useProve } from '../../data/proofs';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { HoldButton } from '../../machine/HoldButton';
import { MachineFrame } from '../../machine/MachineFrame';
import { LiveBelow, RunFindings, RunsByWhatIsInDrive } from '../../machine/RunFindings';
import { MayTurn, useClear } from '../../machine/MayTurn';
import { ProofShape } from '../../ui/shapes';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { go } from '../../ui/go';
import { Refusal } from '../../ui/Answer';

/** Why the drive will not run at the frequency asked for. */
function reachedText(asked: number, reached: number): string {
  if (reached !== 0) return say.theDriveWillRunAt({ reached, abs: Math.abs(reached) > Math.abs(asked) });
  return asked === 0 ? say.atHzNothingTurnsChoose : say.reverseIsForbiddenInThe({ asked });
}

/** Between what the drive lets it run. */
const allowedText = (drive: DriveParameters | null): string =>
  drive
    ? say.driveAllowsToHzMinus({
        minimumFrequency: drive.minimumFrequency,
        maximumFrequency: drive.maximumFrequency,
        reversePermit: drive.reversePermit,
      })
    : say.theDriveWasNotRead;

function TurnSheet({ model }: { model: MachineModel }) {
  const { tag, name } = model.machine;
  const [frequency, setFrequency] = useState(10);
  const [clear, setClear] = useClear(tag);
  const drive = useMemo(() => model.held?.parameters() ?? null, [model.held]);
  const reached = drive ? clampReference(drive, frequency) : frequency;
  const entry: Entry = {
    id: `${tag} turn frequency`,
    label: say.frequencyToRunAt,
    value: frequency,
    unit: say.hz,
    decimals: 1,
    min: -100,
    max: 100,
    onSet: (v) => setFrequency(v ?? 0),
  };
  const { mine, turning, run, blocked: why } = useMayRun(tag);
  const blocked = why ?? (reached === 0 ? say.itWouldNotTurnSee : clear ? null : say.firstConfirmThatItMay);

  return (
    <MachineFrame
      model={model}
      stage="turn"
      title={say.testRun}
      entries={[entry]}
      acts={[]}
      foot={<HoldButton tag={tag} frequency={reached} blocked={blocked} turning={turning && mine} />}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <RunFindings run={run} />
      {run?.phase === 'ended' && run.recordingId !== null && run.tune === null && drive && (
        <CountsAsProof model={model} id={run.recordingId} top={drive.maximumFrequency} />
      )}
      {run?.phase === 'ended' && run.recordingId !== null && (
        <Finding
          severity="good"
          sentence={say.theRunIsKeptAs({ recordingId: run.recordingId })}
          act={say.openTheRecording}
          onAct={() => go(`/m/${tag}/recordings/${run.recordingId}`)}
        />
      )}
      <SectionHead>{say.beforeItTurns}</SectionHead>
      <EntryRow entry={entry} label={say.frequency} second={allowedText(drive)} mark="C" testID="turn-frequency" />
      {reached !== frequency && <Finding severity="warning" sentence={reachedText(frequency, reached)} />}
      <MayTurn sentence={say.willTurnWhileYouHold({ tag, name })} clear={clear} onClear={setClear} />
      {!(turning && mine) && <RunsByWhatIsInDrive model={model} />}
      <LiveBelow model={model} />
      <SectionHead>{say.drive}</SectionHead>
      <DriveFigures tag={tag} />
      {drive && (
        <SheetRow
          label={say.linkTimeOut}
          figure={formatFigure(drive.linkTimeout, 1)}
          unit="s"
          second={say.withoutTheLinkTheDrive({ code: model.drafted.need('linkTimeout').code })}
        />
      )}
      <Note>{say.whileYouHoldCommandIs}</Note>
    </MachineFrame>
  );
}

/** What the drive says of the motor, ten times a second. */
function DriveFigures({ tag }: { tag: string }) {
  const live = useLive([tag])(tag);
  return (
    <>
      <SheetRow label={say.torque} figure={formatFigure(live?.link === 'up' ? live.torque : null, 1)} unit="%" second={say.ofRated} />
      <SheetRow label={say.inputPower} figure={formatFigure(live?.link === 'up' ? live.power : null, 2)} unit="kW" second={say.atTheMotor} />
      <SheetRow
        label={say.motorHeat}
        figure={formatFigure(live?.link === 'up' ? live.motorHeat : null, 1)}
        unit="%"
        second={say.ofTheOverloadsTripPoint}
      />
    </>
  );
}

/** A figure of the run beside what was looked ahead. */
function ComparedRow({ compared }: { compared: Compared }) {
  const { name, unit, decimals } = quantities[compared.quantity];
  const { predicted, band, measured } = compared;
  const inside = insideBand(compared);
  return (
    <SheetRow
      label={capital(name)}
      second={say.lookedAhead({ predicted, decimals, band, unit, inside })}
      figure={formatFigure(measured, decimals)}
      unit={unit}
      mark={<ProofShape proof={inside === false ? 'stale' : inside ? 'proved' : 'not yet'} />}
      testID={`against-${compared.quantity.replace(' ', '-')}`}
    />
  );
}

/** A run up to full speed and down again proves that ramps and limits are as they were meant; held against its look-ahead, offered, not taken. */
function CountsAsProof({ model, id, top }: { model: MachineModel; id: number; top: number }) {
  const { data } = useRecording(id);
  const prove = useProve(model);
  const run = data?.meta.complete ? recordedRun(data) : null;
  const reached = run ? (momentsOf(run)?.top ?? 0) : 0;
  const counts = run !== null && reached >= provingSpeed * top;
  const ahead = useAheadTo(counts ? model.inDriveSpec : null, counts ? reached : null);
  if (!data || !run) return null;
  if (!counts) return <Note>{say.motionIsProvedByA({ provingSpeed: provingSpeed * top, reached })}</Note>;
  const learned = model.learned !== null;
  const rows = ahead ? againstRun(ahead, run, (q) => lookAheadBand(model.machine.driven.kind, learned, q)) : [];
  const facts: FactsOf<'run'> = { kind: 'run', frequency: reached, recording: id, compared: rows };
  const measured = factsText(facts);
  const outside = rows.filter((r) => insideBand(r) === false);
  return (
    <>
      {rows.map((r) => (
        <ComparedRow key={r.quantity} compared={r} />
      ))}
      <Refusal of={prove.error} />
      {prove.isSuccess ? (
        <Finding severity="good" sentence={say.keptAsTheProofOf({ measured })} />
      ) : (
        <Finding
          severity={outside.length > 0 ? 'warning' : 'act'}
          sentence={say.itRanUpAndDown({ measured, outside: outside.length })}
          act={say.countItAsTheProof}
          onAct={() =>
            prove.mutate({
              stage: 'motion',
              item: runProof.id,
              outcome: 'passed',
              facts,
            })
          }
        />
      )}
    </>
  );
}

const recordedRun = ({ time, data }: RecordingData): RecordedRun => ({
  time,
  outputFrequency: data.outputFrequency ?? [],
  motorCurrent: data.motorCurrent ?? [],
  busVoltage: data.busVoltage ?? [],
});

/** Hold to run at a chosen frequency, watched live and recorded. */
export const TurnScreen = machineScreen(TurnSheet);
