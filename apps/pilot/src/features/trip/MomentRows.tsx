import { useMemo } from 'react';
import { fedBy, type MachineModel } from '@yare/commissioning';
import { duration } from '@yare/commissioning/trips';
import type { RecordingData, TripDetail } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { nearestOf } from '@yare/core/trips';
import { Chart } from '../../ui/chart/Chart';
import type { Pane } from '../../ui/chart/pane';
import { go } from '../../ui/go';
import { ActRow, Note, SectionHead, SheetRow } from '../../ui/sheet';
import { marginSecond } from './marginText';

const leastSpan: Readonly<Record<string, number>> = {
  outputFrequency: 5,
  motorCurrent: 2,
  busVoltage: 60,
  torque: 20,
  feedback: 10,
  outputVoltage: 40,
};
/** Channels of the minutes before that a case shows; all of them are in its recording. */
const shown = new Set(['outputFrequency', 'motorCurrent', 'busVoltage', 'torque', 'feedback']);

/** A recording with its end as the moment of the trip. */
function Before({ r, model, height, testID }: { r: RecordingData; model: MachineModel; height: number; testID: string }) {
  const end = r.time.at(-1) ?? 0;
  const { overvoltageTrip, undervoltageTrip } = model.drafted.levels;
  const panes = useMemo((): Pane[] => {
    const time = r.time.map((t) => t - end);
    return r.meta.channels
      .filter((c) => shown.has(c.key))
      .map((c) => ({
        ...{ key: c.key, name: c.name, unit: c.unit, decimals: c.decimals, leastSpan: leastSpan[c.key] },
        series: [{ time, values: r.data[c.key] ?? [] }],
        ...(c.key === 'busVoltage' && {
          limits: [
            { value: overvoltageTrip, label: `trips at ${overvoltageTrip}`, side: 'above' as const },
            { value: undervoltageTrip, label: `trips at ${undervoltageTrip}`, side: 'below' as const },
          ],
        }),
      }));
  }, [r, end, overvoltageTrip, undervoltageTrip]);
  const domain = useMemo((): [number, number] => [-end, 0], [end]);
  return (
    <Chart
      panes={panes}
      domain={domain}
      xUnit="s"
      xDecimals={end > 20 ? 1 : 3}
      xName="before the trip"
      paneHeight={height}
      restCursor={0}
      explore
      testID={testID}
    />
  );
}

/** The figures of the moment, against limits and plate. */
function SnapshotRows({ model, detail }: { model: MachineModel; detail: TripDetail }) {
  const { snapshot: s } = detail;
  const { overvoltageTrip, undervoltageTrip } = model.drafted.levels;
  const { current } = model.plate;
  const rating = model.drafted.hardware();
  const rows: Array<[label: string, value: number | null, decimals: number, unit: string, second?: string]> = [
    ['Output', s.outputFrequency, 1, 'Hz', s.reference === null ? undefined : `reference ${formatFigure(s.reference, 1)} Hz`],
    ['Motor current', s.motorCurrent, 1, 'A', `stamped ${formatFigure(current, 1)} A; trips at ${formatFigure(rating.overcurrentTrip, 0)} A`],
    ['DC bus', s.busVoltage, 0, 'V', `trips below ${undervoltageTrip} and above ${overvoltageTrip} V`],
    ['Motor voltage', s.outputVoltage, 0, 'V'],
    ['Torque', s.torque, 0, '%', 'of rated'],
    ['Drive temperature', s.driveTemperature, 0, '°C', `trips at ${rating.temperatureTrip} °C`],
    ['Motor heat', s.motorHeat, 0, '%', 'of the overload’s trip point'],
    ['Drive heat', s.driveHeat, 0, '%', 'of its overload’s trip point'],
    ['Signal', s.analogueInput, 1, '%', 'of the analogue input’s range'],
  ];
  const known = rows.filter(([, value]) => value !== null);
  return (
    <>
      <SectionHead right={detail.entry.source === 'link' ? 'the drive’s own record' : 'as told'}>The moment</SectionHead>
      {known.length === 0 && <Note>No figures are known of it.</Note>}
      {known.map(([label, value, decimals, unit, second]) => (
        <SheetRow key={label} label={label} figure={formatFigure(value, decimals)} unit={unit} second={second} />
      ))}
      {s.since !== null && (
        <SheetRow label="It had run for" text={duration(s.since)} second={s.hours === null ? undefined : `${formatFigure(s.hours, 0)} h in all`} />
      )}
    </>
  );
}

/** How near every other limit came in the minutes before, the nearest first. */
function NearestRows({ model, trend }: { model: MachineModel; trend: RecordingData }) {
  const nearest = useMemo(() => {
    const { busVoltage = [], motorCurrent = [], motorHeat = [] } = trend.data;
    const at = busVoltage.map((v, i) => ({
      busVoltage: v,
      motorCurrent: motorCurrent[i] ?? 0,
      motorHeat: motorHeat[i] ?? 0,
      driveTemperature: null,
    }));
    return nearestOf(at, model.drafted.hardware(), fedBy(model.drafted, model.machine.supply));
  }, [trend, model]);
  return (
    <>
      {nearest.slice(0, 3).map((m) => (
        <SheetRow key={m.kind} label={`Came to ${formatFigure(100 * m.used, 0)} % of a trip`} second={marginSecond(m)} />
      ))}
    </>
  );
}

/** The drive's last two seconds, the moment itself, and the minutes before over the link. */
export function MomentRows({
  model,
  detail,
  trace,
  trend,
}: {
  model: MachineModel;
  detail: TripDetail;
  trace: RecordingData | null;
  trend: RecordingData | null;
}) {
  const { tag } = model.machine;
  return (
    <>
      {trace && (
        <>
          <SectionHead right="each ms, from the drive">The last two seconds</SectionHead>
          <Before r={trace} model={model} height={52} testID="trip-trace" />
        </>
      )}
      <SnapshotRows model={model} detail={detail} />
      {trend && (
        <>
          <SectionHead right="over the link">The minutes before</SectionHead>
          <Before r={trend} model={model} height={44} testID="trip-trend" />
          <NearestRows model={model} trend={trend} />
          <ActRow text="Open the recording" second="marks, cursors, CSV" onPress={() => go(`/m/${tag}/recordings/${trend.meta.id}`)} />
        </>
      )}
    </>
  );
}
