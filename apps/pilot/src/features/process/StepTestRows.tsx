import { useState } from 'react';
import { sensorDecimals, type MachineModel } from '@yare/commissioning';
import { stepRefusals, swingText } from '@yare/commissioning/processWords';
import type { RecordingChoice } from '@yare/commissioning/recordingCsv';
import { formatFigure, type ProcessSensor } from '@yare/core';
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
  { value: '%', label: '% of maximum frequency' },
  { value: 'Hz', label: 'Hz' },
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
    { value: '%', label: '% of the sensor’s range' },
    { value: 'signal', label: 'mA or V at the terminal' },
  ] as const;
  const column = (key: 'time' | 'output' | 'feedback', label: string) => (
    <>
      <SheetRow
        label={label}
        second="column of the file"
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
        second="as it stands in the file"
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
      {column('time', 'Time')}
      {columns[choice.time]?.time !== true && unit('timeUnit', 'Unit of time', timeUnits, choice.timeUnit)}
      {column('output', 'Output')}
      {unit('outputUnit', 'Unit of output', outputUnits, choice.outputUnit)}
      {column('feedback', 'Feedback')}
      {unit('feedbackUnit', 'Unit of feedback', feedbackUnits, choice.feedbackUnit)}
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
        {swinging && <Finding severity="warning" sentence={`A loop that swings is in it. ${swingText(swinging, sensor)}`} />}
      </>
    );
  const { model } = test.best;
  const decimals = sensorDecimals(sensor) + 2;
  const [long, short] = model.lags;
  return (
    <>
      {model.kind === 'settling' ? (
        <SheetRow
          label="Gain"
          second="of the sensor’s range for each % of output"
          figure={formatFigure(model.gain, 2)}
          unit="% / %"
          testID="process-gain"
        />
      ) : (
        <SheetRow
          label="Climbs"
          second="for each % of output, as long as it lasts"
          figure={formatFigure(spanOf(sensor, model.gain) * 60, 4)}
          unit={`${sensor.unit}/min`}
          testID="process-gain"
        />
      )}
      <SheetRow
        label="Dead time"
        second={
          test.hand
            ? `by hand ${seconds(test.hand.by63.deadTime)} s (28 and 63 %), ${seconds(test.hand.by75.deadTime)} s (25 and 75 %)`
            : 'until anything moves'
        }
        figure={seconds(model.deadTime)}
        unit="s"
        testID="process-dead-time"
      />
      {long > 0 && (
        <SheetRow
          label="Lag"
          second={test.hand ? `by hand ${seconds(test.hand.by63.lag)} s, ${seconds(test.hand.by75.lag)} s` : 'time to 63 % of the way'}
          figure={seconds(long)}
          unit="s"
          testID="process-lag"
        />
      )}
      {short > 0 && <SheetRow label="Second lag" second="behind the first" figure={seconds(short)} unit="s" />}
      <SheetRow
        label="Noise"
        second={`what the fit leaves over: ${formatFigure(spanOf(sensor, test.best.left), decimals)} ${sensor.unit}`}
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
          { key: 'output', name: 'Output', unit: '%', decimals: 1, series: [{ time: output.time, values: output.values }], leastSpan: 2 },
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
      {fit && <Note>Solid: as recorded. Dashed: the process that was fitted to it.</Note>}
    </>
  );
}

/** A step test from a recording of any layout: file, columns, curve, and what it tells. */
export function StepTestRows({ model, sensor, t, s }: { model: MachineModel; sensor: ProcessSensor; t: StepTestState; s: StepRunState }) {
  const { tag } = model.machine;
  const [columns, setColumns] = useState(false);
  const file = useFilePick({
    ...{ label: 'File with a recorded step', testID: 'recording-file', accept: '.csv,.txt,text/csv,text/plain' },
    onFile: (chosen) =>
      void chosen.text().then((text) => takeRecording(tag, { name: chosen.name.slice(0, 120), taken: Date.now(), text, choice: null })),
  });
  const { taken } = t;
  const { rows = 0, skipped = 0, trouble = null, doubtful = null, choice = null } = t.read ?? {};
  return (
    <>
      <SectionHead right={taken && rows > 0 ? `${rows} samples` : 'how the process answers'}>Step test</SectionHead>
      <ActRow
        text={s.open ? 'Shut the test' : 'Test it here, over the link'}
        second="hold to run; it steps by itself"
        disabled={s.turning}
        onPress={() => s.setOpen(!s.open)}
        testID="test-here"
      />
      {s.open && <StepRunRows model={model} sensor={sensor} s={s} />}
      {!taken && !s.open && (
        <Note>
          Or record it with another instrument: with the loop open and the filter off, let it run in hand until the feedback stands, change the speed
          at once by 8 to 15 %, and record until nothing moves any more. Take that in as a CSV file of any layout.
        </Note>
      )}
      {taken && (
        <SheetRow
          label={taken.name}
          second={`${skipped > 0 ? `${skipped} lines without figures left out · ` : ''}kept on this device`}
          text={columns ? 'Shut' : 'Columns'}
          onPress={() => setColumns(!columns)}
          testID="step-file"
        />
      )}
      {taken && choice && (
        <CommaRows doubtful={doubtful} comma={choice.comma} onSay={(comma) => takeRecording(tag, { ...taken, choice: { ...choice, comma } })} />
      )}
      {columns && <ColumnRows tag={tag} sensor={sensor} t={t} />}
      {trouble && <Finding severity="error" sentence={trouble} />}
      {t.failed && <Finding severity="error" sentence="The step test could not be worked out. Take the recording in again." />}
      {t.busy && <Note>Working it out…</Note>}
      {!trouble && <StepChart sensor={sensor} t={t} />}
      {!trouble && <Result sensor={sensor} t={t} />}
      <ActRow text={taken ? 'Take in another recording' : 'Take in a recording'} second="CSV" onPress={file.pick} testID="take-recording" />
      {taken && <ActRow text="Put it aside" onPress={() => takeRecording(tag, null)} testID="drop-recording" />}
      {file.input}
    </>
  );
}
