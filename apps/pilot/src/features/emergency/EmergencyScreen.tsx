import {
  emergencyCosts,
  emergencyEndText,
  emergencyInUse,
  emergencyStage,
  emergencyTestMonths,
  emergencyTrips,
  type MachineModel,
} from '@yare/commissioning';
import { EmergencyOverride, formatFigure } from '@yare/core';
import { factsText, proofText } from '@yare/words';
import { useLiveValue } from '../../data/live';
import { useProofs, useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries, SettingRows } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { shownSeconds, TrendChart } from '../../machine/TrendChart';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { Refusal } from '../../ui/Answer';
import { Finding, Fold, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { when } from '../../ui/when';

const { sections = [] } = emergencyStage;
const [runSection, tripSection, logSection] = sections;

/** What the server saw of an emergency run: how long, how fast, and, once the drive's log was read again, how many trips it ran on through. */
function useEmergencySeen(model: MachineModel): { seen: string | null; runs: boolean; watched: string } {
  const { tag } = model.machine;
  const runs = useLiveValue(tag, (s) => s?.link === 'up' && s.doing === 'emergency');
  const { found, watched } = useSeen(tag, 'emergency');
  return { runs, watched, seen: found.emergency ? factsText(found.emergency) : null };
}

/** The next test, as many months after the last. */
function dueAt(last: string): Date {
  const due = new Date(last);
  due.setMonth(due.getMonth() + emergencyTestMonths);
  return due;
}

/** Which trips it runs on through, and which stop it even so. */
function TripRows({ model }: { model: MachineModel }) {
  const { through, stops } = emergencyTrips({ settings: model.drafted });
  const names = (causes: readonly string[]) =>
    model.drafted.book.trips
      .filter((t) => causes.includes(t.cause))
      .map((t) => t.name)
      .join(', ');
  return (
    <>
      <Fold title="It runs on through" right={through.length === 0 ? 'no trip' : `${through.length} trips`} open={false} testID="runs-through">
        <Note>{through.length === 0 ? 'Every trip stops it.' : `${names(through)}.`}</Note>
      </Fold>
      <Fold title="These stop it even so" right={`${stops.length} trips`} open={false} testID="stops-it">
        <Note>{`${names(stops)}. Safe torque off always stops it. After the others it tries again every few seconds${through.length === 0 ? ' only where restarts are set' : ', without end'}.`}</Note>
      </Fold>
    </>
  );
}

function EmergencySheet({ model }: { model: MachineModel }) {
  const { machine, drafted, held } = model;
  const { tag } = machine;
  const undo = useUndo(tag, 'draft');
  const { seen, runs, watched } = useEmergencySeen(model);
  const prove = useProve(model);
  const { newest, standing } = useProofs(model)('emergency', 'emergency');
  const can = drafted.find('emergencyFrequency') !== undefined;
  const used = emergencyInUse({ settings: drafted });
  const { overrides } = drafted.controls().emergency;
  const shown = new Set(drafted.having(sections.flatMap((s) => s.roles)).map((s) => s.code));
  const differs = model.differing.length > 0;
  return (
    <MachineFrame
      model={model}
      stage="emergency"
      title="Emergency ventilation"
      entries={can ? sectionEntries(model, 'emergency', sections.slice(0, 2)) : []}
      acts={[undo, writeOrGoOn(model, 'emergency')]}
      evidenceTitle="Live"
      evidenceNote={`last ${shownSeconds} s`}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <Refusal of={prove.error} />
      {!can && <Note>{`${drafted.book.family} knows of no emergency: any trip stops it. Smoke has to be drawn off by another fan.`}</Note>}
      {can && runSection && tripSection && logSection && (
        <>
          {runs && (
            <Finding
              severity="error"
              sentence="It runs in emergency now: stops, trips and selectors are passed over as set. Only its contact, safe torque off or the mains end it."
            />
          )}
          {standing.state === 'passed' && newest && (
            <Finding
              severity="good"
              sentence={`Tested ${when(newest.at)}, ${newest.author}: it ${proofText(newest)}. Due again by ${dueAt(newest.at).toISOString().slice(0, 10)}.`}
            />
          )}
          <StageFindings model={model} findings={otherFindings(model, 'emergency', shown)} />
          <SectionHead>{runSection.title}</SectionHead>
          <SettingRows model={model} stage="emergency" section={runSection} />
          <SectionHead>{tripSection.title}</SectionHead>
          <SettingRows model={model} stage="emergency" section={tripSection} />
          <Finding
            severity={!used || overrides === EmergencyOverride.none ? 'act' : overrides === EmergencyOverride.all ? 'error' : 'warning'}
            sentence={emergencyCosts[overrides]}
          />
          <TripRows model={model} />
          {used && <Note>{emergencyEndText({ settings: drafted })}</Note>}
          {used && standing.state !== 'passed' && (
            <>
              <SectionHead right={differs ? 'write the draft first' : 'at the machine'}>Prove it</SectionHead>
              {seen === null ? (
                <Note>
                  Make sure that the fan may run at any moment. Let the detector’s contact ask for it, provoke a trip it has to run on through, then
                  let the contact go back. {watched}
                </Note>
              ) : (
                <Finding
                  severity="act"
                  sentence={`Seen just now: it ${seen}.`}
                  {...(!differs && {
                    act: 'Count it: tested today',
                    onAct: () => prove.mutate({ stage: 'emergency', item: 'emergency', outcome: 'passed', facts: null }),
                  })}
                />
              )}
            </>
          )}
          <SectionHead right={held ? 'as last read' : 'not read yet'}>{logSection.title}</SectionHead>
          {held?.having(logSection.roles).map((s) => (
            <SheetRow key={s.code} label={s.name} second={s.help} figure={formatFigure(held.value(s), 0)} unit={s.unit} testID={`log-${s.code}`} />
          ))}
        </>
      )}
    </MachineFrame>
  );
}

/** A fan that has to go on while something burns: how it runs, what it runs on through, what that costs, and its test with its date. */
export const EmergencyScreen = machineScreen(EmergencySheet);
