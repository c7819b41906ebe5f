import { useState } from 'react';
import { sensorDecimals, type MachineModel } from '@yare/commissioning';
import { stepRefusals, swingText } from '@yare/commissioning/processWords';
import type { RecordingChoice } from '@yare/commissioning/recordingCsv';
import { formatFigure, type ProcessSensor } from '@yare/core';
import { say } from '@yare/words/pages/process';
import { takeRecording } from '../../data/loop';
import { Chart } from '../../ui/chart/Chart';
import { Choices } from '../../ui/entry';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { CommaRows } from '../../machine/CommaRows';
import { feedbackPane, inUnit } from '../../machine/panes';
import { StepRunRows, type StepRunState } from './StepRun';
import { useFilePick } from '../../ui/useFilePick';
import { spanOf, type StepTestState } from './tuning';

const outputUnits = [
  { value: '%', label: say.ofMaximumFrequency },
  { value: say.hz, label: say.hz },
] as const;
const timeUnits = [
  { value: 's', label: 'seconds' },
  { value: 'ms', label: 'milliseconds' },
  { value: 'min', label: 'minutes' },
] as const;

/** Which column is what, and in which unit. */
function ColumnRows({ tag, sensor, t }: { tag: string; sensor: ProcessSensor; t: StepTestState }) {
  const [open, setOpen] = useState<string | null>(null);
  const { taken } = t;
  const { columns = [], choice = null } = t.read ?? {};
  if (!taken || !choice) return null;
  const set = (change: Partial<RecordingChoice>) => {
    setOpen(null);
    takeRecording(tag, { ...taken, choice: { ...choice, ...change } });
  };
  const feedbackUnits = [
    { value: 'sensor', label: sensor.unit },
    { value: '%', label: say.ofTheSensorsRange },
    { value: 'signal', label: say.maOrVAtTheTerminal },
  ] as const;
  const column = (key: 'time' | 'output' | 'feedback', label: string) => (
    <>
      <SheetRow
        label={label}
        second={say.columnOfTheFile}
        text={columns[choice[key]]?.name ?? '–'}
        inHand={open === key}
        onPress={() => setOpen(open === key ? null : key)}
        testID={`column-${key}`}
      />
      {open === key && (
        <Choices options={columns.map((c, i) => ({ value: i, label: c.name }))} value={choice[key]} onChoose={(i) => set({ [key]: i })} />
      )}
    </>
  );
  const unit = <V extends string>(
    key: 'timeUnit' | 'outputUnit' | 'feedbackUnit',
    label: string,
    options: ReadonlyArray<{ value: V; label: string }>,
    now: V,
  ) => (
    <>
      <SheetRow
        label={label}
        second={say.asItStandsInThe}
        text={options.find((o) => o.value === now)?.label ?? now}
        inHand={open === key}
        onPress={() => setOpen(open === key ? null : key)}
        testID={`column-${key}`}
      />
      {open === key && <Choices options={options} value={now} onChoose={(value) => set({ [key]: value })} />}
    </>
  );
  return (
    <>
      {column('time', say.time)}
      {columns[choice.time]?.time !== true && unit('timeUnit', say.unitOfTime, timeUnits, choice.timeUnit)}
      {column('output', say.output)}
      {unit('outputUnit', say.unitOfOutput, outputUnits, choice.outputUnit)}
      {column('feedback', say.feedback)}
      {unit('feedbackUnit', say.unitOfFeedback, feedbackUnits, choice.feedbackUnit)}
    </>
  );
}

const seconds = (s: number): string => formatFigure(s, s < 10 ? 2 : 1);

/** What the step told of the process, beside what is read off the curve by hand. */
function Result({ sensor, t }: { sensor: ProcessSensor; t: StepTestState }) {
  const { test, swinging } = t.read?.tuned ?? {};
  if (!test) return null;
  if (!test.ok)
    return (
      <>
        <Finding severity="error" sentence={stepRefusals[test.why]} />
        {swinging && <Finding severity="warning" sentence={say.aLoopThatSwingsIs({ swingText: swingText(swinging, sensor) })} />}
      </>
    );
  const { model } = test.best;
  const decimals = sensorDecimals(sensor) + 2;
  const [long, short] = model.lags;
  return (
    <>
      {model.kind === 'settling' ? (
        <SheetRow label={say.gain3} second={say.ofTheSensorsRangeFor} figure={formatFigure(model.gain, 2)} unit="% / %" testID="process-gain" />
      ) : (
        <SheetRow
          label={say.climbs}
          second={say.forEachOfOutputAs}
          figure={formatFigure(spanOf(sensor, model.gain) * 60, 4)}
          unit={`${sensor.unit}/min`}
          testID="process-gain"
        />
      )}
      <SheetRow
        label={say.deadTime}
        second={
          test.hand
            ? say.byHandSAndS({ seconds: seconds(test.hand.by63.deadTime), seconds2: seconds(test.hand.by75.deadTime) })
            : say.untilAnythingMoves
        }
        figure={seconds(model.deadTime)}
        unit="s"
        testID="process-dead-time"
      />
      {long > 0 && (
        <SheetRow
          label={say.lag}
          second={test.hand ? say.byHandSS({ seconds: seconds(test.hand.by63.lag), seconds2: seconds(test.hand.by75.lag) }) : say.timeToOfTheWay}
          figure={seconds(long)}
          unit="s"
          testID="process-lag"
        />
      )}
      {short > 0 && <SheetRow label={say.secondLag} second={say.behindTheFirst} figure={seconds(short)} unit="s" />}
      <SheetRow
        label={say.noise}
        second={say.whatTheFitLeavesOver({ spanOf: spanOf(sensor, test.best.left), decimals, unit: sensor.unit })}
        figure={formatFigure(spanOf(sensor, test.noise), decimals)}
        unit={sensor.unit}
      />
    </>
  );
}

/** The recorded step with what the fitted process makes of it. */
function StepChart({ sensor, t }: { sensor: ProcessSensor; t: StepTestState }) {
  if (!t.read?.tuned) return null;
  const { output, feedback, fit } = t.read.tuned;
  const end = output.time.at(-1) ?? 1;
  return (
    <>
      <Chart
        panes={[
          { key: 'output', name: say.output, unit: '%', decimals: 1, series: [{ time: output.time, values: output.values }], leastSpan: 2 },
          feedbackPane(sensor, [
            { time: feedback.time, values: feedback.values.map(inUnit(sensor)), label: 'seen' },
            ...(fit ? [{ time: fit.time, values: fit.values.map(inUnit(sensor)), dashed: true, label: 'fit' }] : []),
          ]),
        ]}
        domain={[output.time[0] ?? 0, end]}
        xUnit="s"
        paneHeight={80}
        testID="step-chart"
      />
      {fit && <Note>{say.solidAsRecordedDashedThe}</Note>}
    </>
  );
}

/** A step test from a recording of any layout: file, columns, curve, and what it tells. */
export function StepTestRows({ model, sensor, t, s }: { model: MachineModel; sensor: ProcessSensor; t: StepTestState; s: StepRunState }) {
  const { tag } = model.machine;
  const [columns, setColumns] = useState(false);
  const file = useFilePick({
    ...{ label: say.fileWithARecordedStep, testID: 'recording-file', accept: '.csv,.txt,text/csv,text/plain' },
    onFile: (chosen) =>
      void chosen.text().then((text) => takeRecording(tag, { name: chosen.name.slice(0, 120), taken: Date.now(), text, choice: null })),
  });
  const { taken } = t;
  const { rows = 0, skipped = 0, trouble = null, doubtful = null, choice = null } = t.read ?? {};
  return (
    <>
      <SectionHead right={taken && rows > 0 ? say.samples({ rows }) : say.howTheProcessAnswers}>{say.stepTest}</SectionHead>
      <ActRow
        text={s.open ? say.shutTheTest : say.testItHereOverThe}
        second={say.holdToRunItSteps}
        disabled={s.turning}
        onPress={() => s.setOpen(!s.open)}
        testID="test-here"
      />
      {s.open && <StepRunRows model={model} sensor={sensor} s={s} />}
      {!taken && !s.open && <Note>{say.orRecordItWithAnother}</Note>}
      {taken && (
        <SheetRow
          label={taken.name}
          second={say.keptOnThisDevice({ skipped })}
          text={columns ? say.shut : say.columns}
          onPress={() => setColumns(!columns)}
          testID="step-file"
        />
      )}
      {taken && choice && (
        <CommaRows doubtful={doubtful} comma={choice.comma} onSay={(comma) => takeRecording(tag, { ...taken, choice: { ...choice, comma } })} />
      )}
      {columns && <ColumnRows tag={tag} sensor={sensor} t={t} />}
      {trouble && <Finding severity="error" sentence={trouble} />}
      {t.failed && <Finding severity="error" sentence={say.theStepTestCouldNot} />}
      {t.busy && <Note>{say.workingItOut}</Note>}
      {!trouble && <StepChart sensor={sensor} t={t} />}
      {!trouble && <Result sensor={sensor} t={t} />}
      <ActRow text={taken ? say.takeInAnotherRecording : say.takeInARecording} second={say.csv} onPress={file.pick} testID="take-recording" />
      {taken && <ActRow text={say.putItAside} onPress={() => takeRecording(tag, null)} testID="drop-recording" />}
      {file.input}
    </>
  );
}
