import { percentOf, processStage, readingOf, usesProcess, type MachineModel, type Reading } from '@yare/commissioning';
import { formatFigure, type ProcessSensor } from '@yare/core';
import { useLive } from '../../data/live';
import { useProofs } from '../../data/proofs';
import { editDraft } from '../../data/edits';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { sourceMark } from '../../machine/sourceMark';
import { StageFindings } from '../../machine/StageFindings';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { go } from '../../ui/go';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';
import { useHolds } from './holds';
import { ControllerRows } from './ControllerRows';
import { sensorEntries, SensorRows, useSensor } from './SensorRows';
import { SteadyRows } from './SteadyRows';
import { StepTestRows } from './StepTestRows';
import { stepFoot, useStepRun } from './StepRun';
import { useStepTest } from './tuning';

const { sections = [] } = processStage;

/** The other ways to say a reading, so that nobody converts in the head. */
const otherWays = (r: Reading): string => `${formatFigure(r.percent, 1)} % of the range · ${formatFigure(r.signal, 2)} ${r.signalUnit}`;

/** What the drive sees and gives now, every way at once. */
function NowRows({ model, sensor, signal }: { model: MachineModel; sensor: ProcessSensor; signal: number }) {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const top = model.held?.role('maximumFrequency') ?? model.drafted.role('maximumFrequency') ?? 50;
  if (live?.link !== 'up') return <Note>The drive does not answer: nothing live to show.</Note>;
  const seen = readingOf(sensor, signal, live.feedback);
  return (
    <>
      <SectionHead right="live">Now</SectionHead>
      <SheetRow label="Feedback" second={otherWays(seen)} figure={formatFigure(seen.figure, seen.decimals)} unit={seen.unit} testID="feedback-now" />
      <SheetRow
        label="Output"
        second={`${formatFigure((100 * live.outputFrequency) / top, 1)} % of ${formatFigure(top, 1)} Hz`}
        figure={formatFigure(live.outputFrequency, 1)}
        unit="Hz"
      />
    </>
  );
}

/** The set point in the sensor's own unit; the drive stores it in % of the range. */
function setpointEntry(model: MachineModel, sensor: ProcessSensor, signal: number): Entry | null {
  const setting = model.drafted.find('setpoint');
  if (!setting) return null;
  const share = 100 * (model.drafted.role('setpoint') ?? 0);
  const now = readingOf(sensor, signal, share);
  const before = model.draftOf(setting.code);
  return {
    id: `${model.machine.tag} process setpoint`,
    label: 'Set point',
    value: Number(now.figure.toFixed(now.decimals + 1)),
    unit: sensor.unit,
    decimals: now.decimals,
    min: sensor.low,
    max: sensor.high,
    onSet: (figure) => {
      if (figure === null) return;
      const [change] = model.drafted.change('setpoint', percentOf(sensor, figure) / 100, 'chosen');
      if (change && change.value !== before.value)
        editDraft(model.machine.tag, { [setting.code]: { value: change.value, source: 'chosen' } }, { [setting.code]: before });
    },
  };
}

/** A machine whose speed comes from elsewhere, or a family that keeps no process by itself. */
function NotUsed({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const can = model.drafted.find('setpoint') !== undefined;
  return can ? (
    <Finding
      severity="act"
      sentence="The speed of this machine does not come from a process. What stands here acts only where Process is chosen as the speed source."
      act="Go to Command"
      onAct={() => go(`/m/${tag}/command`)}
    />
  ) : (
    <Note>{`${model.drafted.book.family} keeps no pressure or level by itself. A controller outside may give it its speed.`}</Note>
  );
}

function ProcessSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const wide = useWide();
  const undo = useUndo(machine.tag, 'draft');
  const { sensor, can, set } = useSensor(model);
  const signal = drafted.role('analogueSignal') ?? 0;
  const t = useStepTest(model, sensor);
  const s = useStepRun(model);
  const shown = new Set(drafted.having([...sections.flatMap((s) => s.roles), 'setpoint']).map((s) => s.code));
  const setting = drafted.find('setpoint');
  const entry = sensor && setpointEntry(model, sensor, signal);
  const ends = sensor && sensorEntries(machine.tag, sensor, set);
  const entries = [
    ...(entry ? [entry] : []),
    ...(ends ? [ends.low, ends.high] : []),
    ...sectionEntries(model, 'process', sections),
    ...(s.open ? s.entries : []),
  ];
  const uses = usesProcess({ settings: drafted });
  const holds = useHolds(model, uses ? sensor : null, signal);
  const { newest, standing } = useProofs(model)('process', 'holds');
  const draft = setting && model.draftOf(setting.code);
  return (
    <MachineFrame
      model={model}
      stage="process"
      title="Process"
      entries={entries}
      acts={[undo, standing.state !== 'passed' && holds.act && model.differing.length === 0 ? holds.act : writeOrGoOn(model, 'process')]}
      foot={setting && sensor ? stepFoot(machine.tag, s) : undefined}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={machine.tag} model={model} />}
    >
      <Refusal of={holds.error} />
      {standing.state === 'passed' && newest && (
        <Finding severity="good" sentence={`It held its set point: ${newest.author}, ${when(newest.at)}. ${newest.measured}.`} />
      )}
      {uses && sensor && standing.state !== 'passed' && holds.sentence && <Finding severity={holds.act ? 'good' : 'act'} sentence={holds.sentence} />}
      {!uses && <NotUsed model={model} />}
      <StageFindings model={model} findings={otherFindings(model, 'process', shown)} />
      {setting && sensor && <NowRows model={model} sensor={sensor} signal={signal} />}
      {setting && entry && sensor && draft && (
        <>
          <SectionHead>Set point</SectionHead>
          <EntryRow
            entry={entry}
            label="It holds"
            second={otherWays(readingOf(sensor, signal, 100 * (drafted.role('setpoint') ?? 0)))}
            mark={sourceMark[draft.source]}
            testID="setpoint"
          />
          <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'process' && f.code === setting.code)} />
        </>
      )}
      {setting && can && <SensorRows model={model} signal={signal} />}
      {setting && <SettingSections model={model} stage="process" sections={sections} />}
      {setting && sensor && <StepTestRows model={model} sensor={sensor} t={t} s={s} />}
      {setting && sensor && <SteadyRows model={model} sensor={sensor} signal={signal} />}
      {setting && sensor && <ControllerRows model={model} sensor={sensor} t={t} />}
      {!wide && (
        <>
          <SectionHead right={`last ${shownSeconds} s`}>Live</SectionHead>
          <TrendChart tag={machine.tag} model={model} />
        </>
      )}
    </MachineFrame>
  );
}

/** What a drive holds by itself: sensor, set point, how the process answers a step, and the controller for it. */
export const ProcessScreen = machineScreen(ProcessSheet);
