import { startTransition, useEffect, useState } from 'react';
import { sensorPercent, straightIn, type MachineModel } from '@yare/commissioning';
import { swingText } from '@yare/commissioning/processWords';
import { type ProcessSensor } from '@yare/core';
import { swingingOf, type Swinging } from '@yare/core/loop';
import { say } from '@yare/words/pages/process';
import { live } from '../../data/live';
import { useMarks } from '../../data/liveTuning';
import { SettingRow } from '../../machine/SettingRow';
import { takeChanges } from '../../machine/takeChanges';
import { Refusal } from '../../ui/Answer';
import { Chart } from '../../ui/chart/Chart';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { useWide } from '../../ui/theme';
import { when } from '../../ui/when';
import { feedbackPane, inUnit, outputPane } from '../../machine/panes';
import { moves, valuesText, type LiveTuneState } from './liveTune';
import { feedbackGain, rampOf, rawGains } from './tuning';

/** s of the trend shown, and ms after which it is drawn anew. */
export const loopSeconds = 120;
const drawEvery = 500;
/** s of the trend a swing is looked for in: the last ones first, so that one that has just begun is seen. */
const looked = [20, 45, 90, 170] as const;

/** The last seconds of a machine's trend. */
function lastOf(tag: string, seconds: number) {
  const trend = live.trends.get(tag);
  if (!trend || trend.time.length < 2) return null;
  const now = trend.time[trend.time.length - 1] ?? 0;
  const first = trend.time.findIndex((t) => t >= now - seconds);
  const cut = (values: readonly number[]) => values.slice(first);
  return { now, time: cut(trend.time), feedback: cut(trend.feedback), setpoint: cut(trend.setpoint), output: cut(trend.outputFrequency) };
}

/** Drawn anew now and then. */
function useTick(every: number): void {
  const [, setDrawn] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => startTransition(() => setDrawn((n) => n + 1)), every);
    return () => clearInterval(timer);
  }, [every]);
}

/** Feedback against its set point and the output, with every change of values marked. */
export function LoopTrend({ model, sensor }: { model: MachineModel; sensor: ProcessSensor }) {
  const { tag } = model.machine;
  useTick(drawEvery);
  const marks = useMarks(tag);
  const trend = lastOf(tag, loopSeconds);
  if (!trend) return <Note>{say.noLiveValuesYet}</Note>;
  const straight = model.held && straightIn(model.held);
  const time = trend.time.map((t) => t - trend.now);
  const tells = model.held?.book.words.live.setpoint !== undefined;
  return (
    <Chart
      panes={[
        feedbackPane(sensor, [
          { time, values: trend.feedback.map(inUnit(sensor)), label: 'feedback' },
          ...(tells
            ? [{ time, values: trend.setpoint.map((v) => inUnit(sensor)(sensorPercent(straight, v))), dashed: true, label: say.setPointLine }]
            : []),
        ]),
        outputPane([{ time, values: trend.output }]),
      ]}
      domain={[-loopSeconds, 0]}
      xUnit="s"
      xName="at"
      marks={marks.map((m) => ({ time: m.time - trend.now, label: m.label })).filter((m) => m.time > -loopSeconds)}
      paneHeight={76}
      restCursor={0}
      testID="loop-trend"
    />
  );
}

/** Whether the loop swings, looked at again and again while it runs. */
function useSwinging(model: MachineModel, running: boolean): Swinging | null {
  const { tag } = model.machine;
  const [found, setFound] = useState<Swinging | null>(null);
  const { held } = model;
  useEffect(() => {
    if (!running || !held) return setFound(null);
    const top = held.roleValue('maximumFrequency');
    const now = rawGains(held);
    const look = () => {
      let found: Swinging | null = null;
      for (const seconds of looked) {
        const trend = lastOf(tag, seconds);
        found ??=
          trend && swingingOf({ time: trend.time, feedback: trend.feedback, output: trend.output.map((f) => (100 * f) / top) }, now, rampOf(held));
      }
      setFound(found);
    };
    look();
    const timer = setInterval(look, 2000);
    return () => clearInterval(timer);
  }, [tag, running, held]);
  return found;
}

/** That it swings, why, and what calms it. */
export function SwingFinding({ model, sensor, running }: { model: MachineModel; sensor: ProcessSensor; running: boolean }) {
  const swinging = useSwinging(model, running);
  if (!swinging) return null;
  const { cure } = swinging;
  const changes = cure
    ? [
        ...model.drafted.change('proportionalGain', cure.gain / feedbackGain(model.drafted)),
        ...model.drafted.change('integralTime', cure.integralTime),
        ...model.drafted.change('derivativeTime', 0),
      ].filter((c) => model.draftOf(c.code).value !== c.value)
    : [];
  const values = Object.fromEntries(changes.map((c) => [c.code, c.value]));
  const told = valuesText(model.drafted.having(['proportionalGain', 'integralTime', 'derivativeTime']), values);
  const calms = changes.length > 0 ? say.shouldCalmIt({ charAt: told.charAt(0).toUpperCase(), told: told.slice(1) }) : '';
  return (
    <Finding
      severity={swinging.cause === 'too tight' || swinging.cause === 'ramp' ? 'error' : 'warning'}
      sentence={`${swingText(swinging, sensor)}${calms}`}
      {...(changes.length > 0 && { act: say.putThatIntoTheDraft, onAct: () => takeChanges(model, changes) })}
    />
  );
}

/** The loop tuned while it runs: its trend, its values, and the way back. */
export function LiveTuneRows({ model, sensor, l }: { model: MachineModel; sensor: ProcessSensor; l: LiveTuneState }) {
  const { good } = l;
  // beside the values where there is room for it
  const wide = useWide();
  return (
    <>
      <SectionHead right={l.running ? say.theLoopRuns : say.theLoopDoesNotRun}>{say.tuneItWhileItRuns}</SectionHead>
      <ActRow
        text={l.open ? say.doneChangingValues : say.changeTheValuesWhileIt}
        second={say.eachChangeIsWrittenAnd}
        disabled={l.busy}
        onPress={() => l.setOpen(!l.open)}
        testID="tune-live"
      />
      {l.open && (
        <>
          <Refusal of={l.error} />
          {l.trouble && <Finding severity="error" sentence={l.trouble} />}
          {!l.running && <Note>{say.startItInAutoFirst}</Note>}
          {!wide && <LoopTrend model={model} sensor={sensor} />}
          {l.settings.map((s) => (
            <SettingRow key={s.code} model={model} setting={s} stage="live" />
          ))}
          <ActRow
            text={say.softer}
            second={say.gain({ proportionalGain: moves.proportionalGain })}
            onPress={() => l.move('proportionalGain', 1 / moves.proportionalGain)}
            testID="softer"
          />
          <ActRow
            text={say.firmer}
            second={say.gain2({ proportionalGain: moves.proportionalGain })}
            onPress={() => l.move('proportionalGain', moves.proportionalGain)}
            testID="firmer"
          />
          <ActRow
            text={say.integralSlower}
            second={say.integralTime({ integralTime: moves.integralTime })}
            onPress={() => l.move('integralTime', moves.integralTime)}
            testID="slower-integral"
          />
          <ActRow
            text={say.integralFaster}
            second={say.integralTime2({ integralTime: moves.integralTime })}
            onPress={() => l.move('integralTime', 1 / moves.integralTime)}
            testID="faster-integral"
          />
          {/* it comes and goes by itself: what is touched again and again stands above it */}
          <SwingFinding model={model} sensor={sensor} running={l.running} />
          {good && (
            <SheetRow
              label={say.lastGood}
              second={`${valuesText(l.settings, good.values)} · ${when(new Date(good.at).toISOString())}`}
              testID="last-good"
            />
          )}
          <ActRow
            text={say.itRunsWellRememberThis}
            {...(l.remember ? {} : { second: say.onceEverythingIsWritten })}
            disabled={!l.remember}
            onPress={() => l.remember?.()}
            testID="remember-good"
          />
        </>
      )}
    </>
  );
}
