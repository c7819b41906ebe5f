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
  if (reached !== 0)
    return `The drive will run at ${formatFigure(reached, 1)} Hz: its ${Math.abs(reached) > Math.abs(asked) ? 'minimum' : 'maximum'} frequency.`;
  return asked === 0
    ? 'At 0 Hz nothing turns. Choose a frequency.'
    : `Reverse is forbidden in the drive: at ${formatFigure(asked, 1)} Hz it stands still.`;
}

/** Between what the drive lets it run. */
const allowedText = (drive: DriveParameters | null): string =>
  drive
    ? `drive allows ${formatFigure(drive.minimumFrequency, 1)} to ${formatFigure(drive.maximumFrequency, 1)} Hz${drive.reversePermit ? ', minus is reverse' : ', forward only'}`
    : 'the drive was not read yet';

function TurnSheet({ model }: { model: MachineModel }) {
  const { tag, name } = model.machine;
  const [frequency, setFrequency] = useState(10);
  const [clear, setClear] = useClear(tag);
  const drive = useMemo(() => model.held?.parameters() ?? null, [model.held]);
  const reached = drive ? clampReference(drive, frequency) : frequency;
  const entry: Entry = {
    id: `${tag} turn frequency`,
    label: 'Frequency to run at',
    value: frequency,
    unit: 'Hz',
    decimals: 1,
    min: -100,
    max: 100,
    onSet: (v) => setFrequency(v ?? 0),
  };
  const { mine, turning, run, blocked: why } = useMayRun(tag);
  const blocked = why ?? (reached === 0 ? 'It would not turn: see the frequency' : clear ? null : 'First confirm that it may turn');

  return (
    <MachineFrame
      model={model}
      stage="turn"
      title="Test run"
      entries={[entry]}
      acts={[]}
      foot={<HoldButton tag={tag} frequency={reached} blocked={blocked} turning={turning && mine} />}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <RunFindings run={run} />
      {run?.phase === 'ended' && run.recordingId !== null && run.tune === null && drive && (
        <CountsAsProof model={model} id={run.recordingId} top={drive.maximumFrequency} />
      )}
      {run?.phase === 'ended' && run.recordingId !== null && (
        <Finding
          severity="good"
          sentence={`The run is kept as recording ${run.recordingId}.`}
          act="Open the recording"
          onAct={() => go(`/m/${tag}/recordings/${run.recordingId}`)}
        />
      )}
      <SectionHead>Before it turns</SectionHead>
      <EntryRow entry={entry} label="Frequency" second={allowedText(drive)} mark="C" testID="turn-frequency" />
      {reached !== frequency && <Finding severity="warning" sentence={reachedText(frequency, reached)} />}
      <MayTurn sentence={`${tag} ${name} will turn while you hold.`} clear={clear} onClear={setClear} />
      {!(turning && mine) && <RunsByWhatIsInDrive model={model} />}
      <LiveBelow model={model} />
      <SectionHead>Drive</SectionHead>
      <DriveFigures tag={tag} />
      {drive && (
        <SheetRow
          label="Link time-out"
          figure={formatFigure(drive.linkTimeout, 1)}
          unit="s"
          second={`${model.drafted.need('linkTimeout').code} · without the link the drive stops by itself after this`}
        />
      )}
      <Note>
        While you hold, command is yours. Letting go, hiding or closing this page, or one second without the link stops the motor, and command goes
        back to the terminals.
      </Note>
    </MachineFrame>
  );
}

/** What the drive says of the motor, ten times a second. */
function DriveFigures({ tag }: { tag: string }) {
  const live = useLive([tag])(tag);
  return (
    <>
      <SheetRow label="Torque" figure={formatFigure(live?.link === 'up' ? live.torque : null, 1)} unit="%" second="of rated" />
      <SheetRow label="Input power" figure={formatFigure(live?.link === 'up' ? live.power : null, 2)} unit="kW" second="at the motor" />
      <SheetRow
        label="Motor heat"
        figure={formatFigure(live?.link === 'up' ? live.motorHeat : null, 1)}
        unit="%"
        second="of the overload's trip point"
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
      second={`looked ahead ${formatFigure(predicted, decimals)} ${band === null ? unit : `± ${formatFigure(band, decimals)} ${unit}, ${inside ? 'inside' : 'outside'}`}`}
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
  if (!counts)
    return (
      <Note>{`Motion is proved by a run to ${formatFigure(provingSpeed * top, 1)} Hz or more and down again; this one came to ${formatFigure(reached, 1)} Hz.`}</Note>
    );
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
        <Finding severity="good" sentence={`Kept as the proof of Motion: ${measured}.`} />
      ) : (
        <Finding
          severity={outside.length > 0 ? 'warning' : 'act'}
          sentence={`It ran up and down again without a trip: ${measured}.${outside.length > 0 ? ' What lies outside was not foreseen: fit the model to this run, or look for the reason, before it counts.' : ''}`}
          act="Count it as the proof of Motion"
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
