import type { MachineModel } from '@yare/commissioning';
import { present } from '@yare/core';
import { startTransition, useEffect, useState } from 'react';
import { say } from '@yare/words/pages/frame';
import { live } from '../data/live';
import { Chart } from '../ui/chart/Chart';
import type { Pane } from '../ui/chart/pane';
import { Note } from '../ui/sheet';
import { drawnWhenChanged } from '../ui/drawnWhenChanged';

/** How far back the live trend looks, s. */
export const shownSeconds = 30;

/** The trend is drawn anew this often, ms, and gives way to a finger. */
const drawEvery = 400;

/** Output, current and bus of the last seconds, as the drive reports them. */
export const TrendChart = drawnWhenChanged(function TrendChart({ tag, model }: { tag: string; model: MachineModel }) {
  const [, setDrawn] = useState(0);
  useEffect(() => {
    const timer = setInterval(() => startTransition(() => setDrawn((n) => n + 1)), drawEvery);
    return () => clearInterval(timer);
  }, []);
  const trend = live.trends.get(tag);
  if (!trend || trend.time.length < 2) return <Note>{say.noLiveValuesYet}</Note>;
  const now = present(trend.time[trend.time.length - 1]);
  const first = trend.time.findIndex((t) => t >= now - shownSeconds);
  const time = trend.time.slice(first).map((t) => t - now);
  const of = (key: 'outputFrequency' | 'motorCurrent' | 'busVoltage') => [{ time, values: trend[key].slice(first) }];
  const level = model.drafted.levels;
  const panes: Pane[] = [
    { key: 'f', name: say.output, unit: say.hz, decimals: 1, series: of('outputFrequency'), leastSpan: 10 },
    { key: 'i', name: say.motor, unit: 'A', decimals: 1, series: of('motorCurrent'), leastSpan: 2 },
    {
      key: 'v',
      name: say.dcBus,
      unit: 'V',
      decimals: 0,
      series: of('busVoltage'),
      leastSpan: 60,
      limits: [{ value: level.overvoltageTrip, label: say.tripsAt({ overvoltageTrip: level.overvoltageTrip }), side: 'above' }],
    },
  ];
  return <Chart panes={panes} domain={[-shownSeconds, 0]} xUnit="s" xName="at" paneHeight={58} restCursor={0} testID="trend" />;
});
