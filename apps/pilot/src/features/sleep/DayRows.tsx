import { useMemo } from 'react';
import { sensorOf, type MachineModel } from '@yare/commissioning';
import { cureChanges, cureName, cureOffered, curesOf, keptOf, dayProfileNames, dayProfiles, readDemand, sleepAnswer } from '@yare/commissioning/days';
import { fromSi, stampedPower, type MachineSpec, type ProcessSensor } from '@yare/core';
import type { DayPlan, SleepAhead } from '@yare/core/days';
import { say } from '@yare/words/pages/sleep';
import { noteFound, siSensor, useDemand, useFound, useSleepAhead } from '../../data/days';
import { flowPane, keptPane, outputPane } from '../../machine/panes';
import { takeChanges } from '../../machine/takeChanges';
import { Chart } from '../../ui/chart/Chart';
import { Segments } from '../../ui/Segments';
import { PastedFigures } from '../../ui/PastedFigures';
import { Finding, Note, SectionHead } from '../../ui/sheet';
import { ProfileDrawing } from './ProfileDrawing';
import { shownPump } from './shownPump';

/** The day a machine has to live through, for the worker; null where its sensor sees nothing the model has. */
export function dayPlanOf(
  settings: MachineModel['drafted'],
  sensor: ProcessSensor | null,
  demand: number[] | null,
  shown: DayPlan['shown'],
): DayPlan | null {
  const seen = siSensor(sensor);
  if (!demand || !seen) return null;
  return {
    sensor: seen,
    process: settings.controls().process,
    demand: demand.map((x) => x / 3600),
    ...(shown && { shown }),
  };
}

/** The day drawn: what is drawn or flows in, what the sensor sees, what the drive gives. */
function DayChart({ ahead: { day }, sensor }: { ahead: SleepAhead; sensor: ProcessSensor }) {
  const time = day.hour;
  const flow = useMemo(() => Float64Array.from(day.demand, (x) => 3600 * x), [day]);
  const feedback = useMemo(() => Float64Array.from(day.feedback, (x) => fromSi(x, sensor.unit)), [day, sensor]);
  return (
    <Chart
      panes={[
        flowPane(sensor, [{ time, values: flow }]),
        keptPane(sensor, [{ time, values: feedback }]),
        { ...outputPane([{ time, values: day.frequency }]), name: say.outputAsleep },
      ]}
      domain={[0, 24]}
      xUnit="h"
      xDecimals={1}
      xName={say.ofTheDay}
      paneHeight={64}
      testID="day-chart"
    />
  );
}

/** Which day it is to live through. */
function ProfileRows({ model }: { model: MachineModel }) {
  const { tag } = model.machine;
  const { profile = 'leak', own } = useFound(tag);
  const rated = model.machine.driven.kind === 'pump' ? model.machine.driven.flow : 10;
  const demand = useDemand(model) ?? [];
  const take = (text: string): string | null => {
    const read = readDemand(text);
    if (!read.ok) return read.sentence;
    noteFound(tag, { own: read.demand });
    return null;
  };
  return (
    <>
      <SectionHead right={say.timesADay({ demand: demand.length })}>{say.theDayItHasTo}</SectionHead>
      <Segments
        label={say.demand}
        value={profile}
        options={[
          ...dayProfileNames.map((p) => ({ value: p, text: dayProfiles[p].name, testID: `profile-${p}` })),
          { value: 'own' as const, text: say.own, testID: 'profile-own' },
        ]}
        onChoose={(p) => noteFound(tag, { profile: p, ...(p === 'own' && !own && { own: demand }) })}
      />
      {profile === 'own' && (
        <>
          <ProfileDrawing demand={demand} most={Math.max(1.2 * rated, ...demand)} onDraw={(d) => noteFound(tag, { own: d })} />
          <PastedFigures
            text={say.typeOrPasteFigures}
            second={say.mHFromMidnightOn}
            label={say.mHFromMidnightOn2}
            lines={4}
            placeholder="0 0 0 2 8 14 12 …"
            onTake={take}
            testIDs={['paste-demand', 'demand-text', 'take-demand']}
          />
        </>
      )}
    </>
  );
}

/** The whole day ahead: its demand, its verdict, the cure where it hunts, and its drawing. */
export function DayRows({ model }: { model: MachineModel }) {
  const { drafted, machine } = model;
  const sensor = sensorOf(machine.driven);
  const demand = useDemand(model);
  const found = useFound(machine.tag);
  const spec: MachineSpec | null = model.draftSpec.ok ? model.draftSpec.spec : null;
  const shown = useMemo(() => shownPump(model, found), [model, found]);
  const plan = useMemo(() => dayPlanOf(drafted, sensor, demand, shown?.pump), [drafted, sensor, demand, shown]);
  const can = useMemo(() => curesOf(drafted), [drafted]);
  const { ahead, busy } = useSleepAhead(spec, plan, stampedPower(model.plate), can);
  if (!sensor || !plan || !spec) return null;
  const sleeps = plan.process.sleep.frequency > 0;
  const answer = ahead && sleepAnswer(ahead, sensor, sleeps, keptOf(drafted, sensor));
  const cure = ahead && cureOffered(ahead, drafted, sensor);
  return (
    <>
      <ProfileRows model={model} />
      <SectionHead right={busy ? say.computing : 'estimated'}>{say.theDayAhead}</SectionHead>
      {!ahead && <Note>{say.workingItOut}</Note>}
      {answer && <Finding severity={busy ? 'past' : answer.severity} sentence={answer.sentence} />}
      {cure && !busy && (
        <Finding
          severity="act"
          sentence={say.withItWakesTimesIn({ cureName: cureName(cure.kind), wakesPerHour: cure.wakesPerHour })}
          act={say.takeItIntoTheDraft}
          onAct={() => takeChanges(model, cureChanges(drafted, cure.sleep))}
        />
      )}
      {ahead?.hunts && !cure && !busy && <Note>{say.nothingTriedEndsItAnd}</Note>}
      {ahead && <DayChart ahead={ahead} sensor={sensor} />}
      <Note>{shown ? say.estimatedWithWhatWasFound({ what: shown.what }) : say.estimatedFromPlateAndSettings}</Note>
    </>
  );
}
