import { levelsOf } from '@yare/books';
import { useTrend } from '../data/live';
import type { MachineModel } from '../data/machineModel';
import { Chart } from './Chart';
import type { Pane } from './chartScale';
import { Note } from './sheet';

/** How far back the live trend looks, s. */
export const shownSeconds = 30;

/** Output, current and bus of the last seconds, as the drive reports them. */
export function TrendChart({ tag, model }: { tag: string; model: MachineModel }) {
  const trend = useTrend(tag);
  if (!trend || trend.time.length < 2) return <Note>No live values yet.</Note>;
  const now = trend.time[trend.time.length - 1]!;
  const time = trend.time.map((t) => t - now);
  const level = levelsOf(model.book, model.machine.size);
  const panes: Pane[] = [
    { key: 'f', name: 'Output', unit: 'Hz', decimals: 1, series: [{ time, values: trend.outputFrequency }], leastSpan: 10 },
    { key: 'i', name: 'Motor', unit: 'A', decimals: 1, series: [{ time, values: trend.motorCurrent }], leastSpan: 2 },
    {
      key: 'v',
      name: 'DC bus',
      unit: 'V',
      decimals: 0,
      series: [{ time, values: trend.busVoltage }],
      leastSpan: 60,
      limits: [{ value: level.overvoltageTrip, label: `trips at ${level.overvoltageTrip}`, side: 'above' }],
    },
  ];
  return <Chart panes={panes} domain={[-shownSeconds, 0]} xUnit="s" xName="at" paneHeight={58} restCursor={0} testID="trend" />;
}
