import { machineScreen } from '../../machine/machineScreen';
import { type MachineModel, protectionStage } from '@yare/commissioning';
import { Fragment } from 'react';
import { formatFigure, steadyHeat, timeToTrip, type SettingRole, InputJob } from '@yare/core';
import { useLookAhead } from '../../data/lookAhead';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { settingEntry, SettingRow } from '../../machine/SettingRow';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import { StageFindings } from '../../machine/StageFindings';
import { useWide } from '../../ui/theme';
import { OverloadCurve } from './OverloadCurve';
import { goOn } from '../../machine/goOn';

const { sections = [] } = protectionStage;

const secondOf: Partial<Record<SettingRole, string>> = {
  overloadCurrent: 'what the motor carries continuously; not the same as a limit',
  overloadClass: 'seconds to trip at 7.2 times, from cold',
  currentLimit: 'the most the drive lets through',
  lowLoadLevel: 'of rated torque; below it the load is lost',
  linkTimeout: 'silence after which the drive stops by itself',
};

/** What the load does to torque, in words, and what that asks of the protection. */
const loadText: Record<string, string> = {
  pump: 'Torque falls with the square of speed. It starts easily and overloads only at full speed; lost water shows as low load.',
  fan: 'Torque falls with the square of speed, but the wheel is heavy: a long run-up warms motor and drive.',
  conveyor: 'Full torque at every speed, more to break away. It overloads at low speed too, where the motor’s own fan hardly blows.',
  agitator: 'Torque grows with speed and with the thickness of the product: watch for product that has settled.',
};

function ProtectionSheet({ model }: { model: MachineModel }) {
  const { drafted, machine, plate } = model;
  const { tag, driven } = machine;
  const wide = useWide();
  const undo = useUndo(tag, 'draft');
  const spec = model.draftSpec.ok ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, null);
  const settings = drafted.having(sections.flatMap((s) => s.roles));
  const entries = settings.filter((s) => !s.options).map((s) => settingEntry(model, s, 'protection'));
  const overload = drafted.roleValue('overloadCurrent');
  const tripClass = drafted.roleValue('overloadClass');
  const summary = ahead.draft?.summary;
  const runUp = summary && summary.startTime !== null ? { current: summary.peakCurrent, time: summary.startTime } : null;
  const stands = runUp ? timeToTrip(runUp.current / overload, tripClass, steadyHeat(1)) : null;
  const external = drafted.input(InputJob.externalTrip);
  const curve = (
    <OverloadCurve
      overload={overload}
      plate={plate.current}
      limit={drafted.roleValue('currentLimit')}
      rating={drafted.rating.current}
      tripClass={tripClass}
      overloadShare={drafted.book.duty.overloadShare}
      runUp={runUp}
    />
  );
  // a start that does not trip an overload that never trips is no good news
  const overloadCode = drafted.find('overloadCurrent')?.code;
  const overloadWrong = model.findings.some((f) => f.stage === 'protection' && f.code === overloadCode && f.severity === 'error');
  return (
    <MachineFrame
      model={model}
      stage="protection"
      title="Protection"
      entries={entries}
      acts={[undo, goOn(tag, 'protection')]}
      evidenceTitle="How long it carries what"
      evidenceNote={`class ${tripClass}`}
      evidence={curve}
    >
      {!wide && curve}
      {runUp && stands !== null && (
        <Finding
          severity={stands < runUp.time ? 'error' : stands < 2 * runUp.time || overloadWrong ? 'warning' : 'good'}
          sentence={
            stands === Infinity
              ? `The run-up takes ${formatFigure(runUp.time, 1)} s at up to ${formatFigure(runUp.current, 1)} A${overloadWrong ? ', and the overload as it is set protects nothing: see below.' : ': the overload does not trip by a start (estimate).'}`
              : `The run-up takes ${formatFigure(runUp.time, 1)} s at up to ${formatFigure(runUp.current, 1)} A; from warm the overload would trip after ${formatFigure(stands, 0)} s at that current (estimate).${stands < runUp.time ? ' A lower limit, a longer ramp or another class keeps it from tripping at start.' : ''}`
          }
        />
      )}
      {sections
        .map((section) => ({
          ...section,
          found: drafted.having(section.roles),
        }))
        .filter((section) => section.found.length > 0)
        .map((section) => (
          <Fragment key={section.title}>
            <SectionHead>{section.title}</SectionHead>
            {section.id === 'load' && <Note>{loadText[driven.kind] ?? ''}</Note>}
            {section.found.map((setting) => (
              <SettingRow key={setting.code} model={model} setting={setting} stage="protection" second={setting.role && secondOf[setting.role]}>
                <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'protection' && f.code === setting.code)} />
              </SettingRow>
            ))}
            {section.id === 'external' && (
              <Note>
                {external
                  ? `${external.name.replace(/ job$/, '')} carries it (${external.code}).`
                  : 'No input has the job of an external trip: its sense means nothing until one has.'}
              </Note>
            )}
          </Fragment>
        ))}
    </MachineFrame>
  );
}

/** What keeps motor and drive from burning, drawn as time over current with the plate and the drive's own limit on it. */
export const ProtectionScreen = machineScreen(ProtectionSheet);
