import { Fragment, useState } from 'react';
import {
  decode,
  heldRoles,
  loopPercent,
  percentOf,
  processStage,
  readingOf,
  sensorPercent,
  straightIn,
  usesProcess,
  type MachineModel,
  type Reading,
} from '@yare/commissioning';
import { outputFor } from '@yare/commissioning/steady';
import { formatFigure, InputJob, SetpointSource, type ProcessSensor } from '@yare/core';
import { proofText } from '@yare/words';
import { say } from '@yare/words/pages/process';
import { useLive } from '../../data/live';
import { usePoints } from '../../data/loop';
import { useGauges } from '../../data/liveTuning';
import { useProofs } from '../../data/proofs';
import { editDraft } from '../../data/edits';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { settingEntry, SettingRow } from '../../machine/SettingRow';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { sourceMark } from '../../machine/sourceMark';
import { StageFindings } from '../../machine/StageFindings';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { go } from '../../ui/go';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { Refusal } from '../../ui/Answer';
import { AheadRows } from './AheadRows';
import { useHolds } from './holds';
import { ControllerRows } from './ControllerRows';
import { gaugeEntry, GaugeRows } from './GaugeRows';
import { useLiveTune } from './liveTune';
import { LiveTuneRows, LoopTrend, loopSeconds, SwingFinding } from './LiveTuneRows';
import { sensorEntries, SensorRows, useSensor } from './SensorRows';
import { SteadyRows } from './SteadyRows';
import { steadyFoot, useSteadyRun } from './SteadyRun';
import { StepTestRows } from './StepTestRows';
import { stepFoot, useStepRun } from './StepRun';
import { useStepTest } from './tuning';

const { sections = [] } = processStage;

/** The other ways to say a reading, so that nobody converts in the head. */
const otherWays = (r: Reading): string => say.ofTheRange({ percent: r.percent, signal: r.signal, signalUnit: r.signalUnit });

/** What the drive sees, holds and gives now, every way at once. */
function NowRows({ model, sensor, signal }: { model: MachineModel; sensor: ProcessSensor; signal: number }) {
  const { tag } = model.machine;
  const live = useLive([tag])(tag);
  const { held } = model;
  const top = (held ?? model.drafted).roleValue('maximumFrequency');
  if (live?.link !== 'up') return <Note>{say.theDriveDoesNotAnswer2}</Note>;
  const seen = readingOf(sensor, signal, live.feedback);
  const straight = held && straightIn(held);
  const holds = held && held.book.words.live.setpoint !== undefined && decode(held, live).told.speed === 'process';
  const set = readingOf(sensor, signal, sensorPercent(straight, live.setpoint));
  return (
    <>
      <SectionHead right="live">{say.now}</SectionHead>
      <SheetRow
        label={say.feedback}
        second={say.text2({ otherWays: otherWays(seen), straight: !!straight, loopPercent: loopPercent(straight, live.feedback) })}
        figure={formatFigure(seen.figure, seen.decimals)}
        unit={seen.unit}
        testID="feedback-now"
      />
      {holds && live.state === 'running' && (
        <SheetRow label={say.itHolds} second={otherWays(set)} figure={formatFigure(set.figure, set.decimals)} unit={set.unit} testID="setpoint-now" />
      )}
      <SheetRow
        label={say.output}
        second={say.ofHz({ outputFrequency: (100 * live.outputFrequency) / top, top })}
        figure={formatFigure(live.outputFrequency, 1)}
        unit={say.hz}
      />
    </>
  );
}

const heldNames: Record<(typeof heldRoles)[number], string> = {
  setpoint: say.itHolds,
  secondSetpoint: say.byItsContact,
  setpointLow: say.atLeast,
  setpointHigh: say.atMost,
};

/** A set point, or an end of it, in the sensor's own unit; the drive stores it in % of the range as the loop sees it. */
function heldEntry(model: MachineModel, role: (typeof heldRoles)[number], sensor: ProcessSensor, signal: number): Entry | null {
  const setting = model.drafted.find(role);
  if (!setting) return null;
  const straight = straightIn(model.drafted);
  const now = readingOf(sensor, signal, sensorPercent(straight, 100 * (model.drafted.role(role) ?? 0)));
  const before = model.draftOf(setting.code);
  return {
    id: `${model.machine.tag} process ${role}`,
    label: setting.name,
    value: Number(now.figure.toFixed(now.decimals + 1)),
    unit: sensor.unit,
    decimals: now.decimals,
    min: sensor.low,
    max: sensor.high,
    onSet: (figure) => {
      if (figure === null) return;
      const [change] = model.drafted.change(role, loopPercent(straight, percentOf(sensor, figure)) / 100, 'chosen');
      if (change && change.value !== before.value)
        editDraft(model.machine.tag, { [setting.code]: { value: change.value, source: 'chosen' } }, { [setting.code]: before });
    },
  };
}

/** What is held, by which contact or signal, and between which ends. */
function SetpointRows({ model, sensor, signal }: { model: MachineModel; sensor: ProcessSensor; signal: number }) {
  const { drafted } = model;
  const straight = straightIn(drafted);
  const [more, setMore] = useState(false);
  const points = usePoints(model.machine.tag);
  const top = drafted.roleValue('maximumFrequency');
  const second = drafted.input(InputJob.secondSetpoint) !== undefined;
  const stored = drafted.roleValue('setpointSource') === SetpointSource.stored;
  const open = more || second || !stored;
  const row = (role: (typeof heldRoles)[number]) => {
    const setting = drafted.find(role);
    const entry = heldEntry(model, role, sensor, signal);
    if (!setting || !entry) return null;
    const share = 100 * (drafted.role(role) ?? 0);
    const raw = sensorPercent(straight, share);
    const reading = readingOf(sensor, signal, raw);
    const output = outputFor(points, raw);
    const speed = output === null ? '' : say.atAboutHzOfOutput({ output: (output / 100) * top, output2: output });
    return (
      <Fragment key={role}>
        <EntryRow
          entry={entry}
          label={heldNames[role]}
          second={say.text3({ otherWays: otherWays(reading), speed, straight: !!straight, share })}
          mark={sourceMark[model.draftOf(setting.code).source]}
          testID={role}
        />
        <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'process' && f.code === setting.code)} />
      </Fragment>
    );
  };
  return (
    <>
      <SectionHead>{say.setPoint}</SectionHead>
      {row('setpoint')}
      {open ? (
        <>
          {row('secondSetpoint')}
          {!second && drafted.find('secondSetpoint') && <Note>{say.noInputHasTheJob}</Note>}
          {drafted.having(['setpointSource', 'setpointRamp']).map((s) => (
            <SettingRow key={s.code} model={model} setting={s} stage="process" />
          ))}
          {row('setpointLow')}
          {row('setpointHigh')}
        </>
      ) : (
        drafted.find('setpointSource') && (
          <ActRow text={say.aSecondOneARamp} second={say.notUsed} onPress={() => setMore(true)} testID="more-setpoint" />
        )
      )}
    </>
  );
}

/** A machine whose speed comes from elsewhere, or a family that keeps no process by itself. */
function NotUsed({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const can = model.drafted.find('setpoint') !== undefined;
  return can ? (
    <Finding severity="act" sentence={say.theSpeedOfThisMachine} act={say.goToCommand} onAct={() => go(`/m/${tag}/command`)} />
  ) : (
    <Note>{say.keepsNoPressureOrLevel({ family: model.drafted.book.family })}</Note>
  );
}

/** Everything that can be typed on this page. */
function entriesOf(model: MachineModel, sensor: ProcessSensor, signal: number, set: (sensor: ProcessSensor) => void): Entry[] {
  const { tag } = model.machine;
  const ends = sensorEntries(tag, sensor, set);
  return [
    ...heldRoles.flatMap((role) => heldEntry(model, role, sensor, signal) ?? []),
    ...model.drafted.having(['setpointRamp']).map((s) => settingEntry(model, s, 'process')),
    ends.low,
    ends.high,
  ];
}

function ProcessSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const { tag } = machine;
  const wide = useWide();
  const undo = useUndo(tag, 'draft');
  const { sensor, can, set } = useSensor(model);
  const signal = drafted.roleValue('analogueSignal');
  const live = useLive([tag])(tag);
  const t = useStepTest(model, sensor);
  const s = useStepRun(model);
  const steady = useSteadyRun(model);
  const tune = useLiveTune(model);
  const gauges = useGauges(tag);
  const shown = new Set(drafted.having([...sections.flatMap((x) => x.roles), ...heldRoles, 'setpointSource', 'setpointRamp']).map((x) => x.code));
  const setting = drafted.find('setpoint');
  const gauge = sensor && gaugeEntry(tag, sensor, live?.link === 'up' ? live.feedback : null, gauges);
  const entries = [
    ...(sensor ? entriesOf(model, sensor, signal, set) : []),
    ...(gauge ? [gauge] : []),
    ...sectionEntries(model, 'process', sections),
    ...(tune.open ? tune.settings.map((x) => settingEntry(model, x, 'live')) : []),
    ...(s.open ? s.entries : []),
    ...(steady.open ? steady.entries : []),
  ];
  const uses = usesProcess({ settings: drafted });
  const holds = useHolds(model, uses ? sensor : null, signal);
  const { newest, standing } = useProofs(model)('process', 'holds');
  const next = standing.state !== 'passed' && holds.act ? holds.act : writeOrGoOn(model, 'process');
  const trends = tune.open ? sensor : null;
  return (
    <MachineFrame
      model={model}
      stage="process"
      title={say.process}
      entries={entries}
      acts={tune.open ? tune.acts : [undo, next]}
      foot={setting && sensor ? (stepFoot(tag, s) ?? steadyFoot(tag, steady)) : undefined}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ trends: trends ? loopSeconds : shownSeconds })}
      evidence={trends ? <LoopTrend model={model} sensor={trends} /> : <TrendChart tag={tag} model={model} />}
    >
      <Refusal of={holds.error} />
      {standing.state === 'passed' && newest && (
        <Finding severity="good" sentence={say.itHeldItsSetPoint({ author: newest.author, when: when(newest.at), proofText: proofText(newest) })} />
      )}
      {uses && sensor && standing.state !== 'passed' && holds.sentence && <Finding severity={holds.act ? 'good' : 'act'} sentence={holds.sentence} />}
      {uses && sensor && !tune.open && <SwingFinding model={model} sensor={sensor} running={tune.running} />}
      {!uses && <NotUsed model={model} />}
      <StageFindings model={model} findings={otherFindings(model, 'process', shown)} />
      {setting && sensor && <NowRows model={model} sensor={sensor} signal={signal} />}
      {setting && sensor && <SetpointRows model={model} sensor={sensor} signal={signal} />}
      {setting && can && <SensorRows model={model} signal={signal} />}
      {setting && sensor && gauge && <GaugeRows model={model} sensor={sensor} signal={signal} entry={gauge} setSensor={set} />}
      {setting && <SettingSections model={model} stage="process" sections={sections} />}
      {setting && sensor && <StepTestRows model={model} sensor={sensor} t={t} s={s} />}
      {setting && sensor && <SteadyRows model={model} sensor={sensor} signal={signal} t={t} s={steady} />}
      {setting && sensor && <ControllerRows model={model} sensor={sensor} t={t} />}
      {setting && sensor && <AheadRows model={model} sensor={sensor} t={t} />}
      {setting && sensor && <LiveTuneRows model={model} sensor={sensor} l={tune} />}
      {!wide && !tune.open && (
        <>
          <SectionHead right={say.lastS2({ shownSeconds })}>{say.live}</SectionHead>
          <TrendChart tag={tag} model={model} />
        </>
      )}
    </MachineFrame>
  );
}

/** What a drive holds by itself: sensor, set point, how the process answers a step, and the controller for it. */
export const ProcessScreen = machineScreen(ProcessSheet);
