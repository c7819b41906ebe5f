import { Fragment, useMemo, useState } from 'react';
import { percentOf, readingOf, straightenChanges, straightIn, type MachineModel } from '@yare/commissioning';
import { readPairs, sortedPoints, straighteningText, rangeThatLacks } from '@yare/commissioning/steady';
import { formatFigure, rawOf, type ProcessSensor } from '@yare/core';
import { mergedPoints, straighten, type SteadyPoint, type Straightening } from '@yare/core/loop';
import { say } from '@yare/words/pages/process';
import { notePoints, usePoints } from '../../data/loop';
import { useLive } from '../../data/live';
import { takeChanges } from '../../machine/takeChanges';
import { Chart } from '../../ui/chart/Chart';
import { PastedFigures } from '../../ui/PastedFigures';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { feedbackPane, inUnit } from '../../machine/panes';
import { SteadyRunRows, type SteadyRunState } from './SteadyRun';
import type { StepTestState } from './tuning';

type Fitted = Extract<Straightening, { ok: true }>;

/** Feedback over the output with the line through it, and what that leaves. */
function LineChart({ sensor, points, s }: { sensor: ProcessSensor; points: readonly SteadyPoint[]; s: Fitted }) {
  const sorted = useMemo(() => mergedPoints(points), [points]);
  const output = Float64Array.from(sorted, (p) => p.output);
  const byLine = Float64Array.from(sorted, (p) => inUnit(sensor)(rawOf(s.fit, p.output)));
  return (
    <Chart
      panes={[
        feedbackPane(sensor, [
          { time: output, values: Float64Array.from(sorted, (p) => inUnit(sensor)(p.feedback)), label: say.noted },
          { time: output, values: byLine, dashed: true, label: 'line' },
        ]),
        {
          key: 'left',
          name: say.leftOver,
          unit: '%',
          decimals: 1,
          leastSpan: 4,
          series: [{ time: output, values: Float64Array.from(s.fit.left) }],
        },
      ]}
      domain={[output[0] ?? 0, output[output.length - 1] ?? 100]}
      xUnit="%"
      xName="output"
      paneHeight={70}
      testID="straight-chart"
    />
  );
}

/** Puts the line into the draft, or takes it out again. */
function StraightenRows({
  model,
  sensor,
  signal,
  points,
  s,
}: {
  model: MachineModel;
  sensor: ProcessSensor;
  signal: number;
  points: readonly SteadyPoint[];
  s: Fitted;
}) {
  const { drafted } = model;
  const now = straightIn(drafted);
  if (!drafted.find('straightening')) return <Note>{say.takesItsFeedbackAsIt({ family: drafted.book.family })}</Note>;
  const changes = straightenChanges(drafted, s.fit);
  const back = straightenChanges(drafted, null);
  const values = (gain: number, offset: number) => say.gainOffset({ gain, offset });
  const held = readingOf(sensor, signal, drafted.role('setpoint') === null ? 0 : percentNow(model));
  const reach = drafted.role('setpoint') === null ? null : rangeThatLacks(points, percentNow(model));
  const figure = (percent: number) => {
    const r = readingOf(sensor, signal, percent);
    return formatFigure(r.figure, r.decimals);
  };
  const keeps = say.staysWhatItHoldsAnd({ figure: held.figure, decimals: held.decimals, unit: held.unit });
  return (
    <>
      {now ? (
        <Finding
          severity="good"
          sentence={say.theFeedbackIsStraightenedIn({ values: values(now.gain, now.offset), unit: sensor.unit })}
          act={say.takeItAsItComes}
          onAct={() => takeChanges(model, back)}
        />
      ) : reach ? (
        <Finding
          severity="warning"
          sentence={say.whatItHoldsLiesOutside({
            figure: figure(percentNow(model)),
            unit: sensor.unit,
            figure2: figure(reach.low),
            figure3: figure(reach.high),
          })}
        />
      ) : (
        s.worth &&
        s.oneLine && (
          <Finding
            severity="act"
            sentence={say.straightenItWithItsEnable({ values: values(s.fit.gain, s.fit.offset), keeps })}
            act={say.straightenItInTheDraft}
            onAct={() => takeChanges(model, changes)}
          />
        )
      )}
    </>
  );
}

/** % of the sensor's range that the draft holds. */
function percentNow({ drafted }: MachineModel): number {
  const straight = straightIn(drafted);
  const held = 100 * drafted.roleValue('setpoint');
  return straight ? rawOf(straight, held) : held;
}

/** Points typed or pasted, and points of the recording taken in. */
function OtherPoints({ top, sensor, add, t }: { top: number; sensor: ProcessSensor; add: (points: SteadyPoint[]) => void; t: StepTestState }) {
  const recorded = t.read?.steady ?? [];
  const take = (text: string): string | null => {
    const read = readPairs(text);
    if (!read.ok) return read.sentence;
    const points = read.pairs.map(([hertz, figure]) => ({ output: (100 * hertz) / top, feedback: percentOf(sensor, figure) }));
    const outside = points.find((p) => p.output < 0 || p.output > 120 || p.feedback < -5 || p.feedback > 105);
    if (outside) return say.hzIsNotASpeed({ output: (outside.output / 100) * top, low: sensor.low, high: sensor.high, unit: sensor.unit });
    add(points);
    return null;
  };
  return (
    <>
      <PastedFigures
        text={say.typeOrPasteATable}
        second={say.hzAnd({ unit: sensor.unit })}
        label={say.speedInHzAndFeedback({ unit: sensor.unit })}
        lines={6}
        placeholder={'25  1.2\n35  2.6'}
        onTake={take}
        testIDs={['paste-points', 'points-text', 'take-points']}
      />
      {recorded.length >= 3 && (
        <ActRow
          text={say.takeThemFromTheRecording}
          second={say.speedsStandInIt({ recorded: recorded.length })}
          onPress={() => add(recorded)}
          testID="points-of-recording"
        />
      )}
    </>
  );
}

/** How the process stands at several speeds: a controller has to hold it at all of them, and a bent feedback can be straightened by them. */
export function SteadyRows({
  model,
  sensor,
  signal,
  t,
  s,
}: {
  model: MachineModel;
  sensor: ProcessSensor;
  signal: number;
  t: StepTestState;
  s: SteadyRunState;
}) {
  const { tag } = model.machine;
  const points = usePoints(tag);
  const [open, setOpen] = useState<SteadyPoint | null>(null);
  const live = useLive([tag])(tag);
  const top = (model.held ?? model.drafted).roleValue('maximumFrequency');
  const fitted = useMemo(() => straighten(points), [points]);
  if (sensor.measures === 'level') return null;
  const running = live?.link === 'up' && live.state === 'running' && live.outputFrequency > 1;
  const add = (more: SteadyPoint[]) => notePoints(tag, sortedPoints([...points, ...more]));
  const leaveOut = (p: SteadyPoint) => {
    setOpen(null);
    notePoints(
      tag,
      points.filter((q) => q !== p),
    );
  };
  const said = straighteningText(fitted);
  return (
    <>
      <SectionHead right={points.length > 0 ? say.noted2({ points: points.length }) : say.notNoted}>{say.overTheSpeeds}</SectionHead>
      {points.length === 0 && <Note>{say.aPumpOrFanAnswers}</Note>}
      <ActRow
        text={s.open ? say.shutTheRun : say.runThroughTheSpeeds}
        second={say.holdToRunItNotes}
        disabled={s.turning}
        onPress={() => s.setOpen(!s.open)}
        testID="steady-here"
      />
      {s.open && <SteadyRunRows model={model} s={s} />}
      {points.map((p) => {
        const r = readingOf(sensor, signal, p.feedback);
        return (
          <Fragment key={`${p.output} ${p.way ?? 0}`}>
            <SheetRow
              label={say.hz2({ output: (p.output / 100) * top })}
              second={say.ofOutputOnTheWay({ output: p.output, way: p.way === -1 })}
              figure={formatFigure(r.figure, r.decimals > 0 ? r.decimals + 1 : 0)}
              unit={r.unit}
              inHand={open === p}
              onPress={() => setOpen(open === p ? null : p)}
              testID={`point-${Math.round(p.output)}${p.way === -1 ? '-down' : ''}`}
            />
            {open === p && <ActRow text={say.leaveItOut} onPress={() => leaveOut(p)} testID="leave-point" />}
          </Fragment>
        );
      })}
      {fitted.ok && <LineChart sensor={sensor} points={points} s={fitted} />}
      {points.length > 0 && !s.turning && <Finding severity={said.severity} sentence={said.sentence} />}
      {fitted.ok && !s.turning && <StraightenRows model={model} sensor={sensor} signal={signal} points={points} s={fitted} />}
      <ActRow
        text={say.noteItAsItStands}
        second={running ? say.hz3({ outputFrequency: live.outputFrequency }) : say.itDoesNotRun}
        disabled={!running}
        onPress={() => live && add([{ output: (100 * live.outputFrequency) / top, feedback: live.feedback }])}
        testID="note-point"
      />
      <OtherPoints top={top} sensor={sensor} add={add} t={t} />
      {points.length > 1 && <ActRow text={say.leaveAllOut} onPress={() => notePoints(tag, [])} testID="leave-points" />}
    </>
  );
}
