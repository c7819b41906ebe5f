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
import { say } from '@yare/words/pages/emergency';
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
      <Fold
        title={say.itRunsOnThrough}
        right={through.length === 0 ? say.noTrip : say.trips({ through: through.length })}
        open={false}
        testID="runs-through"
      >
        <Note>{through.length === 0 ? say.everyTripStopsIt : `${names(through)}.`}</Note>
      </Fold>
      <Fold title={say.theseStopItEvenSo} right={say.trips2({ stops: stops.length })} open={false} testID="stops-it">
        <Note>{say.safeTorqueOffAlwaysStops({ names: names(stops), through: through.length })}</Note>
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
      title={say.emergencyVentilation}
      entries={can ? sectionEntries(model, 'emergency', sections.slice(0, 2)) : []}
      acts={[undo, writeOrGoOn(model, 'emergency')]}
      evidenceTitle={say.live}
      evidenceNote={say.lastS({ shownSeconds })}
      evidence={<TrendChart tag={tag} model={model} />}
    >
      <Refusal of={prove.error} />
      {!can && <Note>{say.knowsOfNoEmergencyAny({ family: drafted.book.family })}</Note>}
      {can && runSection && tripSection && logSection && (
        <>
          {runs && <Finding severity="error" sentence={say.itRunsInEmergencyNow} />}
          {standing.state === 'passed' && newest && (
            <Finding
              severity="good"
              sentence={say.testedItDueAgainBy({
                when: when(newest.at),
                author: newest.author,
                proofText: proofText(newest),
                dueAt: dueAt(newest.at).toISOString().slice(0, 10),
              })}
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
              <SectionHead right={differs ? say.writeTheDraftFirst : 'at the machine'}>{say.proveIt}</SectionHead>
              {seen === null ? (
                <Note>{say.makeSureThatTheFan({ watched })}</Note>
              ) : (
                <Finding
                  severity="act"
                  sentence={say.seenJustNowIt({ seen })}
                  {...(!differs && {
                    act: say.countItTestedToday,
                    onAct: () => prove.mutate({ stage: 'emergency', item: 'emergency', outcome: 'passed', facts: null }),
                  })}
                />
              )}
            </>
          )}
          <SectionHead right={held ? say.asLastRead : say.notReadYet}>{logSection.title}</SectionHead>
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
