import { useMemo, useState } from 'react';
import { inStation, sensorOf, stationStage, type MachineModel } from '@yare/commissioning';
import { yearAnswer } from '@yare/commissioning/days';
import { formatFigure, fromSi, stampedPower, StationKind, startsAllowed, startsAllowedAcross, type ProcessSensor } from '@yare/core';
import { factsText, proofText } from '@yare/words';
import type { StationPlan, StationSeries } from '@yare/core/days';
import { say } from '@yare/words/pages/station';
import { siSensor, useDemand, useStationAhead } from '../../data/days';
import { useLive } from '../../data/live';
import { useProofs, useProve } from '../../data/proofs';
import { useSeen } from '../../data/seen';
import { MachineFrame, useUndo } from '../../machine/MachineFrame';
import { flowPane, keptPane, outputPane } from '../../machine/panes';
import { machineScreen } from '../../machine/machineScreen';
import { otherFindings, sectionEntries, SettingSections } from '../../machine/SettingSections';
import { StageFindings } from '../../machine/StageFindings';
import { writeOrGoOn } from '../../machine/writeOrGoOn';
import { Refusal } from '../../ui/Answer';
import { Chart } from '../../ui/chart/Chart';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { Segments } from '../../ui/Segments';
import { Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';

const { sections = [] } = stationStage;

/** s of the ramp of demand. */
const lasts = 3600;

const countOf = (bits: number): number => [0, 1, 2, 3].reduce((sum, n) => sum + ((bits >> n) & 1), 0);

/** What the station is asked, for the worker; null where its sensor or its pump says nothing. */
function planOf(model: MachineModel, sensor: ProcessSensor | null, demand: number[] | null): StationPlan | null {
  const seen = siSensor(sensor);
  if (!demand || !seen) return null;
  const { process, station } = model.drafted.controls();
  return {
    sensor: seen,
    process,
    station,
    demand: demand.map((x) => (x / 3600) * station.most * 0.8),
  };
}

/** Demand, output, pumps running and feedback over the ramp. */
function RampChart({ ramp, sensor }: { ramp: StationSeries; sensor: ProcessSensor }) {
  const time = useMemo(() => ramp.time.map((t) => t / 60), [ramp]);
  return (
    <Chart
      panes={[
        flowPane(sensor, [{ time, values: ramp.demand.map((x) => 3600 * x) }]),
        { key: 'pumps', name: say.running, unit: 'pumps', decimals: 0, leastSpan: 3, series: [{ time, values: ramp.running.map(countOf) }] },
        outputPane([{ time, values: ramp.output }]),
        keptPane(sensor, [{ time, values: ramp.feedback.map((x) => fromSi(x, sensor.unit)) }]),
      ]}
      domain={[0, lasts / 60]}
      xUnit="min"
      paneHeight={54}
      testID="ramp-chart"
    />
  );
}

/** The demand ramp drawn, and a year counted. */
function AheadRows({ model, peak }: { model: MachineModel; peak: number }) {
  const sensor = sensorOf(model.machine.driven);
  const demand = useDemand(model);
  const [shown, setShown] = useState<'ramp' | 'lost'>('ramp');
  const plan = useMemo(() => planOf(model, sensor, demand), [model, sensor, demand]);
  const spec = model.draftSpec.ok ? model.draftSpec.spec : null;
  const { ahead, busy } = useStationAhead(spec, plan, peak / 3600, lasts);
  if (!sensor || !plan || !spec) return null;
  const answer =
    ahead && yearAnswer(ahead.year, (plan.station.kind !== StationKind.sideBySide ? startsAllowedAcross : startsAllowed)(stampedPower(model.plate)));
  return (
    <>
      <SectionHead right={busy ? say.computing : 'estimated'}>{say.onARampOfDemand}</SectionHead>
      <Segments
        label={say.ramp}
        value={shown}
        options={[
          { value: 'ramp', text: say.allAble },
          { value: 'lost', text: say.pumpTripsHalfWay, testID: 'ramp-lost' },
        ]}
        onChoose={setShown}
      />
      {!ahead && <Note>{say.workingItOut}</Note>}
      {ahead && <RampChart ramp={shown === 'ramp' ? ahead.ramp : ahead.lost} sensor={sensor} />}
      <SectionHead right={say.aYearLikeThatDay}>{say.overAYear}</SectionHead>
      {answer && <Finding severity={busy ? 'past' : answer.severity} sentence={answer.sentence} />}
      {ahead?.year.hours.map((h, i) => (
        <SheetRow
          key={`pump ${i + 1}`}
          label={say.pump({ i: i + 1 })}
          second={say.startsInTheWorstHour({ starts: ahead.year.starts[i], startsPerHour: ahead.year.startsPerHour[i] ?? 0 })}
          figure={formatFigure(h, 0)}
          unit="h"
          estimate
          testID={`year-${i + 1}`}
        />
      ))}
      <Note>{say.estimatedPumpsOfOneMake}</Note>
    </>
  );
}

/** What the server saw of the pumps, and those that run now. */
function useStationSeen(tag: string): { staging: string | null; replaced: string | null; pumps: readonly number[] } {
  const live = useLive([tag])(tag);
  const { staging, replaced } = useSeen(tag, 'station').found;
  return {
    staging: staging ? factsText(staging) : null,
    replaced: replaced ? factsText(replaced) : null,
    pumps: live?.link === 'up' ? live.pumps : [],
  };
}

/** The tests of a station, each counted by a touch once it was seen. */
function ProofRows({ model, seen }: { model: MachineModel; seen: ReturnType<typeof useStationSeen> }) {
  const proofs = useProofs(model);
  const prove = useProve(model);
  const items = [
    {
      id: 'staging',
      label: say.anotherComesAndGoes,
      text: seen.staging,
      how: say.letMoreFlowThanOne,
    },
    {
      id: 'replaced',
      label: say.aLostOneIsReplaced,
      text: seen.replaced,
      how: say.whileOneRunsTurnIts,
    },
  ] as const;
  return (
    <>
      <SectionHead right={seen.pumps.length > 0 ? say.runsPump({ pumps: seen.pumps.join(', ') }) : say.noneRuns}>{say.proveIt}</SectionHead>
      <Refusal of={prove.error} />
      {items.map(({ id, label, text, how }) => {
        const { newest, standing } = proofs('station', id);
        if (standing.state === 'passed' && newest)
          return <Finding key={id} severity="good" sentence={`${label}: ${proofText(newest)}. ${newest.author}, ${when(newest.at)}.`} />;
        if (text === null) return <Note key={id}>{`${label}: ${how}`}</Note>;
        return (
          <Finding
            key={id}
            severity="act"
            sentence={say.seenJustNowWriteThe({ text, differing: model.differing.length })}
            {...(model.differing.length === 0 && {
              act: say.countIt({ label: label.toLowerCase() }),
              onAct: () => prove.mutate({ stage: 'station', item: id, outcome: 'passed', facts: null }),
            })}
          />
        );
      })}
    </>
  );
}

function StationSheet({ model }: { model: MachineModel }) {
  const { machine, drafted } = model;
  const { tag, driven } = machine;
  const wide = useWide();
  const undo = useUndo(tag, 'draft');
  const seen = useStationSeen(tag);
  const [typed, setTyped] = useState<number | null>(null);
  const rated = driven.kind === 'pump' ? driven.flow : 0;
  const { station } = drafted.controls();
  const peak = typed ?? Math.round(rated * Math.min(station.pumps, station.most) * 0.9);
  const entry: Entry = {
    ...{ id: `${tag} station peak`, label: say.mostThatIsWanted, value: peak, unit: 'm³/h', decimals: 0, min: 1, max: 5 * Math.max(1, rated) },
    onSet: setTyped,
  };
  const can = drafted.find('stationKind') !== undefined && driven.kind === 'pump';
  const used = can && inStation({ settings: drafted });
  const shown = new Set(drafted.having(sections.flatMap((s) => s.roles)).map((s) => s.code));
  const ahead = used ? <AheadRows model={model} peak={peak} /> : null;
  return (
    <MachineFrame
      model={model}
      stage="station"
      title={say.severalPumps}
      entries={can ? [...sectionEntries(model, 'station', sections), entry] : []}
      acts={[undo, writeOrGoOn(model, 'station')]}
      evidenceTitle={say.ahead}
      evidenceNote="estimated"
      evidence={ahead}
    >
      {!can && <Note>{driven.kind === 'pump' ? say.worksAloneItStartsNo({ family: drafted.book.family }) : say.onlyPumpsWorkTogetherAs}</Note>}
      {can && (
        <>
          {used && station.kind === StationKind.sideBySide && <Note>{say.thisDriveIsNumberThe({ number: station.number })}</Note>}
          <StageFindings model={model} findings={otherFindings(model, 'station', shown)} />
          <SettingSections model={model} stage="station" sections={used ? sections : sections.slice(0, 1)} />
          {used && <ProofRows model={model} seen={seen} />}
          {used && (
            <>
              <SectionHead>{say.lookAhead}</SectionHead>
              <EntryRow entry={entry} second={say.theRampGoesUpTo} mark="C" testID="station-peak" />
            </>
          )}
          {!wide && ahead}
        </>
      )}
    </MachineFrame>
  );
}

/** Several pumps that work as one: who leads, when another comes and goes, and how the hours are shared. */
export const StationScreen = machineScreen(StationSheet);
