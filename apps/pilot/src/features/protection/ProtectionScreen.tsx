import { useLocalSearchParams } from 'expo-router';
import { Fragment } from 'react';
import { findSetting, ratingOf, roleValue, settingsOf, wordsOf } from '@yare/books';
import { formatFigure, steadyHeat, timeToTrip, type SettingRole } from '@yare/core';
import { useLookAhead } from '../../data/lookAhead';
import { useMachineModel, type MachineModel } from '../../data/machineModel';
import { MachineFrame, useUndo } from '../../ui/MachineFrame';
import { settingEntry, SettingRow } from '../../ui/SettingRow';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import { StageFindings } from '../../ui/StageFindings';
import { useWide } from '../../ui/theme';
import { WithModel } from '../../ui/Waiting';
import { OverloadCurve } from './OverloadCurve';
import { goOn } from '../../ui/goOn';

const sections: Array<{ title: string; roles: Array<SettingRole> }> = [
  { title: 'Motor overload', roles: ['overloadCurrent', 'overloadClass', 'motorCooling', 'motorSensor'] },
  { title: 'Current limit', roles: ['currentLimit', 'torqueLimit', 'stallTime'] },
  { title: 'What the load tells', roles: ['lowLoadLevel', 'lowLoadDelay'] },
  { title: 'External trip', roles: ['externalTripSense'] },
  { title: 'Wiring watched', roles: ['phaseLoss', 'earthFault'] },
  { title: 'After a trip', roles: ['autoRestarts', 'restartInterval'] },
  { title: 'When the link falls silent', roles: ['linkTimeout', 'onLinkLoss'] },
];

const secondOf: Partial<Record<SettingRole, string>> = {
  overloadCurrent: 'what the motor carries for ever; not the same as a limit',
  overloadClass: 'trips within so many s at 7.2 times, from cold',
  currentLimit: 'what the drive lets through at all',
  lowLoadLevel: 'of rated torque; below it the load is lost',
  linkTimeout: 'silence after which the drive stops by itself',
};

/** What keeps motor and drive from burning, drawn as time over current with the plate and the drive's own limit on it. */
export function ProtectionScreen() {
  const { tag } = useLocalSearchParams<{ tag: string }>();
  return <WithModel state={useMachineModel(tag)}>{(model) => <ProtectionSheet key={tag} model={model} />}</WithModel>;
}

/** What the load does to torque, in words, and what that asks of the protection. */
const loadWords: Record<string, string> = {
  pump: 'Torque falls with the square of speed. It starts easily and overloads only at full speed; lost water shows as low load.',
  fan: 'Torque falls with the square of speed, but the wheel is heavy: a long run-up warms motor and drive.',
  conveyor: 'Full torque at every speed, more to break away. It overloads at low speed too, where the motor’s own fan hardly blows.',
  agitator: 'Torque grows with speed and with the thickness of the product: watch for product that has settled.',
};

function ProtectionSheet({ model }: { model: MachineModel }) {
  const { book, machine, plate } = model;
  const { tag, size, driven } = machine;
  const wide = useWide();
  const undo = useUndo(tag, 'draft');
  const spec = model.draftSpec.ok ? model.draftSpec.spec : null;
  const ahead = useLookAhead(spec, null);
  const values = Object.fromEntries(model.settings.map((s) => [s.code, model.draftOf(s.code).value]));
  const role = (r: SettingRole): number | null => {
    const s = findSetting(book, size, r);
    return s ? roleValue(book, size, s, values[s.code]!, values) : null;
  };
  const settings = sections.flatMap((s) => s.roles).flatMap((r) => findSetting(book, size, r) ?? []);
  const entries = settings.filter((s) => !s.options).map((s) => settingEntry(model, s, 'protection'));
  const overload = role('overloadCurrent') ?? plate.current;
  const tripClass = role('overloadClass') ?? 10;
  const summary = ahead.draft?.summary;
  const runUp = summary && summary.startTime !== null ? { current: summary.peakCurrent, time: summary.startTime } : null;
  const stands = runUp ? timeToTrip(runUp.current / overload, tripClass, steadyHeat(1)) : null;
  const external = settingsOf(book, size).find((s) => s.role?.startsWith('job ') && wordsOf(s, model.draftOf(s.code).value) === 'External trip');
  const curve = (
    <OverloadCurve
      overload={overload}
      plate={plate.current}
      limit={role('currentLimit') ?? 1.5 * plate.current}
      rating={ratingOf(book, size).current}
      tripClass={tripClass}
      overloadShare={book.duty.overloadShare}
      runUp={runUp}
    />
  );
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
          severity={stands < runUp.time ? 'error' : stands < 2 * runUp.time ? 'warning' : 'good'}
          sentence={
            stands === Infinity
              ? `The run-up takes ${formatFigure(runUp.time, 1)} s at up to ${formatFigure(runUp.current, 1)} A: the overload never trips at that (estimate).`
              : `The run-up takes ${formatFigure(runUp.time, 1)} s at up to ${formatFigure(runUp.current, 1)} A; from warm the overload would trip after ${formatFigure(stands, 0)} s at that current (estimate).${stands < runUp.time ? ' A lower limit, a longer ramp or another class keeps it from tripping at start.' : ''}`
          }
        />
      )}
      {sections
        .map((section) => ({
          ...section,
          found: section.roles.flatMap((r) => (findSetting(book, size, r) ? [{ role: r, setting: findSetting(book, size, r)! }] : [])),
        }))
        .filter((section) => section.found.length > 0)
        .map((section) => (
          <Fragment key={section.title}>
            <SectionHead>{section.title}</SectionHead>
            {section.title === 'What the load tells' && <Note>{loadWords[driven.kind] ?? ''}</Note>}
            {section.found.map(({ role: r, setting }) => (
              <SettingRow key={r} model={model} setting={setting} stage="protection" second={secondOf[r]}>
                <StageFindings model={model} findings={model.findings.filter((f) => f.stage === 'protection' && f.code === setting.code)} />
              </SettingRow>
            ))}
            {section.title === 'External trip' && (
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
