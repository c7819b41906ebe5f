import { machineScreen } from '../../machine/machineScreen';
import { type MachineModel, protectionStage } from '@yare/commissioning';
import { Fragment } from 'react';
import { steadyHeat, timeToTrip, type SettingRole, InputJob } from '@yare/core';
import { say } from '@yare/words/pages/protection';
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
  overloadCurrent: say.whatTheMotorCarriesContinuously,
  overloadClass: say.secondsToTripAtTimes,
  currentLimit: say.theMostTheDriveLets,
  lowLoadLevel: say.ofRatedTorqueBelowIt,
  linkTimeout: say.silenceAfterWhichTheDrive,
};

/** What the load does to torque, in words, and what that asks of the protection. */
const loadText: Record<string, string> = {
  pump: say.torqueFallsWithTheSquare,
  fan: say.torqueFallsWithTheSquare2,
  conveyor: say.fullTorqueAtEverySpeed,
  agitator: say.torqueGrowsWithSpeedAnd,
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
      title={say.protection}
      entries={entries}
      acts={[undo, goOn(tag, 'protection')]}
      evidenceTitle={say.howLongItCarriesWhat}
      evidenceNote={say.classText({ tripClass })}
      evidence={curve}
    >
      {!wide && curve}
      {runUp && stands !== null && (
        <Finding
          severity={stands < runUp.time ? 'error' : stands < 2 * runUp.time || overloadWrong ? 'warning' : 'good'}
          sentence={
            stands === Infinity
              ? say.theRunUpTakesS({ time: runUp.time, current: runUp.current, overloadWrong })
              : say.theRunUpTakesS2({ time: runUp.time, current: runUp.current, stands, stands2: stands < runUp.time })
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
              <Note>{external ? say.carriesIt({ name: external.name.replace(/ job$/, ''), code: external.code }) : say.noInputHasTheJob}</Note>
            )}
          </Fragment>
        ))}
    </MachineFrame>
  );
}

/** What keeps motor and drive from burning, drawn as time over current with the plate and the drive's own limit on it. */
export const ProtectionScreen = machineScreen(ProtectionSheet);
