import { useEffect, useRef, useState } from 'react';
import { decode, readingOf, type MachineModel } from '@yare/commissioning';
import { formatFigure, largestOf, smallestOf, type ProcessSensor } from '@yare/core';
import { say } from '@yare/words/pages/sleep';
import { noteFound, useFound } from '../../data/days';
import { useLive } from '../../data/live';
import { takeChanges } from '../../machine/takeChanges';
import type { Entry } from '../../ui/entryStore';
import { EntryRow } from '../../ui/EntryRow';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { LoadRunRows, type LoadRunState } from '../../machine/LoadRun';

/** % of the range a fall has to go, and s it has to last, before it tells. */
const tells = { fall: 0.5, seconds: 3 };

/** s over which what holds a pressure is averaged, s of it that are enough, and % of the range the feedback may move meanwhile: a loop is never quite still. */
const averaged = { over: 20, enough: 12, within: 3 };

/** What holds the feedback, averaged over the last seconds of a run; null before there is enough of it. */
function useHolding(tag: string, runs: boolean): { frequency: number; highest: number; feedback: number } | null {
  const live = useLive([tag])(tag);
  const seen = useRef<Array<{ at: number; frequency: number; feedback: number }>>([]);
  const [mean, setMean] = useState<{ frequency: number; highest: number; feedback: number } | null>(null);
  const { at, outputFrequency, feedback } = live ?? { at: 0, outputFrequency: 0, feedback: 0 };
  useEffect(() => {
    if (!runs) {
      seen.current = [];
      setMean(null);
      return;
    }
    const all = seen.current;
    all.push({ at, frequency: outputFrequency, feedback });
    while (all.length > 1 && at - (all[0]?.at ?? at) > averaged.over * 1000) all.shift();
    // while it runs up, or somebody turns a tap, it holds nothing
    const feedbacks = all.map((x) => x.feedback);
    if (largestOf(feedbacks) - smallestOf(feedbacks) > averaged.within) {
      all.splice(0, all.length - 1);
      setMean(null);
    }
    if (at - (all[0]?.at ?? at) < averaged.enough * 1000) return;
    const of = (key: 'frequency' | 'feedback') => all.reduce((sum, x) => sum + x[key], 0) / all.length;
    setMean({ frequency: of('frequency'), highest: largestOf(all.map((x) => x.frequency)), feedback: of('feedback') });
  }, [runs, at, outputFrequency, feedback]);
  return mean;
}

/** How fast the feedback falls while the pump stands: % of the range a second; null before that can be told. */
function useFall(tag: string): number | null {
  const live = useLive([tag])(tag);
  const stands = live?.link === 'up' && live.outputFrequency === 0 && (live.state === 'asleep' || live.state === 'ready');
  const from = useRef<{ at: number; feedback: number } | null>(null);
  const [fall, setFall] = useState<number | null>(null);
  const { at, feedback } = live ?? { at: 0, feedback: 0 };
  useEffect(() => {
    if (!stands) {
      from.current = null;
      return;
    }
    if (!from.current || feedback > from.current.feedback) from.current = { at, feedback };
    const [fallen, seconds] = [from.current.feedback - feedback, (at - from.current.at) / 1000];
    if (fallen >= tells.fall && seconds >= tells.seconds) setFall(fallen / seconds);
  }, [stands, at, feedback]);
  return fall;
}

/** What the flow of a draw is entered with. */
export const drawEntry = (tag: string, flow: number | null, most: number, onSet: (flow: number) => void): Entry => ({
  ...{ id: `${tag} sleep draw`, label: say.itMaySleepThrough, value: flow, unit: 'm³/h', decimals: 1, min: 0.1, max: most },
  onSet: (v) => v !== null && onSet(v),
});

/** What somebody finds out at the pump: the sleep speed itself, and how long the pressure stands. */
export function DrawRows({
  model,
  sensor,
  signal,
  s,
  entry,
  flow,
}: {
  model: MachineModel;
  sensor: ProcessSensor;
  signal: number;
  s: LoadRunState;
  entry: Entry;
  flow: number | null;
}) {
  const { tag } = model.machine;
  const { shut, draw } = useFound(tag);
  const live = useLive([tag])(tag);
  const fall = useFall(tag);
  const { held, drafted } = model;
  const runs = live?.link === 'up' && live.state === 'running' && held !== null && decode(held, live).told.speed === 'process';
  const said = (percent: number) => {
    const r = readingOf(sensor, signal, percent);
    return `${formatFigure(r.figure, r.decimals > 0 ? r.decimals + 1 : 0)} ${r.unit}`;
  };
  const holding = useHolding(tag, runs);
  // a loop is never quite still: what it only ever touched lets it stay below
  const below = draw ? Math.ceil(10 * draw.highest) / 10 : 0;
  const change = draw ? drafted.change('sleepFrequency', below, 'measured') : [];
  const already = change.every((c) => drafted.values[c.code] === c.value);
  return (
    <>
      <SectionHead right={draw ? say.noted : say.notNoted}>{say.foundOutAtThePump}</SectionHead>
      <Note>{say.theSleepSpeedIsThe}</Note>
      <EntryRow entry={entry} second={say.asMuchAsMayBe} mark="C" testID="draw-flow" />
      <ActRow
        text={say.noteWhatHoldsItNow}
        second={
          holding
            ? say.hzUpToHold({ frequency: holding.frequency, highest: holding.highest, said: said(holding.feedback) })
            : runs
              ? say.aFewSecondsMoreIt
              : say.letItRunInAuto
        }
        disabled={!holding || flow === null}
        onPress={() => holding && flow !== null && noteFound(tag, { draw: { flow, ...holding, falls: draw?.falls ?? null } })}
        testID="note-draw"
      />
      {draw && (
        <SheetRow
          label={say.holdsItWithThatDraw}
          second={`${formatFigure(draw.flow, 1)} m³/h · ${said(draw.feedback)}`}
          figure={formatFigure(draw.frequency, 1)}
          unit={say.hz}
          testID="draw-held"
        />
      )}
      {draw && !already && (
        <Finding
          severity="act"
          sentence={say.sleepBelowHzThatIs({ below, flow: draw.flow })}
          act={say.takeItIntoTheDraft}
          onAct={() => takeChanges(model, change)}
        />
      )}
      {draw && fall !== null && (
        <ActRow
          text={say.noteHowFastItFalls}
          second={say.aMinutePumpAtRest({ fall: (fall / 100) * (sensor.high - sensor.low) * 60, unit: sensor.unit })}
          onPress={() => noteFound(tag, { draw: { ...draw, falls: fall } })}
          testID="note-fall"
        />
      )}
      {draw && draw.falls === null && fall === null && <Note>{say.leaveThatTapOpenWhile}</Note>}
      {draw?.falls && (
        <SheetRow
          label={say.fallsAtRest}
          second={say.withThatDraw}
          figure={formatFigure((draw.falls / 100) * (sensor.high - sensor.low) * 60, 2)}
          unit={`${sensor.unit}/min`}
          testID="draw-falls"
        />
      )}
      {sensor.measures === 'pressure' && (
        <>
          <ActRow
            text={s.open === 'shut' ? say.shutTheRun : say.runItAgainstTheShut}
            second={shut ? say.notedAtSpeeds({ shut: shut.length }) : say.holdToRunTheLeast}
            disabled={s.turning}
            onPress={() => s.setOpen(s.open === 'shut' ? null : 'shut')}
            testID="shut-here"
          />
          {s.open === 'shut' && <LoadRunRows model={model} s={s} />}
        </>
      )}
    </>
  );
}
