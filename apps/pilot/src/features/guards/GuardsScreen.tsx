import { guardsFor, guardsStage, type MachineModel } from '@yare/commissioning';
import { formatFigure, InputJob } from '@yare/core';
import { say } from '@yare/words/pages/guards';
import { useLive } from '../../data/live';
import { useSeen } from '../../data/seen';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { go } from '../../ui/go';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { GuardRows, LoadRows } from './GuardRows';
import { loadRunFoot, useLoadRun } from '../../machine/LoadRun';

const { sections = [] } = guardsStage;

/** What a fan has beside guards: its night set-back and its freeze-stat hang at contacts, and smoke has a page of its own. */
function FanRows({ model }: { model: MachineModel }) {
  const { drafted, machine } = model;
  const wired = (job: InputJob) => drafted.input(job);
  const rows = [
    { job: InputJob.secondSetpoint, label: say.nightSetBack, none: say.noInputSwitchesToThe },
    { job: InputJob.freezeStat, label: say.freezeStat, none: say.noInputHasTheThermostat },
    { job: InputJob.emergency, label: say.smoke, none: say.noInputAsksForEmergency },
  ];
  return (
    <>
      <SectionHead right={say.atItsContacts}>{say.ofAFan}</SectionHead>
      {rows
        .filter(({ job }) => drafted.inputs.some((s) => drafted.valueFor(s, job) !== null))
        .map(({ job, label, none }) => (
          <SheetRow key={job} label={label} second={wired(job)?.name ?? none} text={wired(job) ? say.hasAnInput : 'none'} testID={`contact-${job}`} />
        ))}
      <ActRow text={say.goToTerminals} second={say.giveAContactItsJob} onPress={() => go(`/m/${machine.tag}/terminals`)} />
      {drafted.find('emergencyFrequency') && (
        <ActRow text={say.goToEmergencyVentilation} second={say.whatItRunsOnThrough} onPress={() => go(`/m/${machine.tag}/emergency`)} />
      )}
    </>
  );
}

function GuardsSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const { tag } = machine;
  const undo = useUndo(tag, 'draft');
  const { found } = useSeen(tag, 'guards');
  const run = useLoadRun(model);
  const live = useLive([tag])(tag);
  const shown = new Set(drafted.having([...sections.flatMap((s) => s.roles), 'liveZeroLoss']).map((s) => s.code));
  const none = guardsFor({ settings: drafted, driven: machine.driven }).length === 0;
  return (
    <MachineFrame
      model={model}
      stage="guards"
      title={say.guards}
      entries={sectionEntries(model, 'guards', sections)}
      acts={[undo, writeOrGoOn(model, 'guards')]}
      foot={loadRunFoot(tag, run)}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      {none && <Note>{say.watchesItsMotorAndItself({ family: drafted.book.family })}</Note>}
      {live?.link === 'up' && live.state === 'running' && (
        <SheetRow label={say.itTakesNow} second={say.torqueOfRated} figure={formatFigure(Math.abs(live.torque), 0)} unit="%" testID="load-now" />
      )}
      <StageFindings model={model} findings={otherFindings(model, 'guards', shown)} />
      <GuardRows model={model} seen={found} />
      <LoadRows model={model} s={run} />
      {machine.driven.kind === 'fan' && !none && <FanRows model={model} />}
    </MachineFrame>
  );
}

/** What watches the running machine, each guard with its own test. */
export const GuardsScreen = machineScreen(GuardsSheet);
