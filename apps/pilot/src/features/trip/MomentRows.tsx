import { useMemo } from 'react';
import { fedBy, type MachineModel } from '@yare/commissioning';
import { duration } from '@yare/commissioning/trips';
import type { RecordingData, TripDetail } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { nearestOf } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';
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
            { value: overvoltageTrip, label: say.tripsAt({ overvoltageTrip }), side: 'above' as const },
            { value: undervoltageTrip, label: say.tripsAt2({ undervoltageTrip }), side: 'below' as const },
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
      xName={say.beforeTheTrip}
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
    [say.output, s.outputFrequency, 1, say.hz, s.reference === null ? undefined : say.referenceHz({ reference: s.reference })],
    [say.motorCurrent, s.motorCurrent, 1, 'A', say.stampedATripsAtA({ current, overcurrentTrip: rating.overcurrentTrip })],
    [say.dcBus, s.busVoltage, 0, 'V', say.tripsBelowAndAboveV({ undervoltageTrip, overvoltageTrip })],
    [say.motorVoltage, s.outputVoltage, 0, 'V'],
    [say.torque, s.torque, 0, '%', say.ofRated],
    [say.driveTemperature, s.driveTemperature, 0, '°C', say.tripsAtC({ temperatureTrip: rating.temperatureTrip })],
    [say.motorHeat, s.motorHeat, 0, '%', say.ofTheOverloadsTripPoint],
    [say.driveHeat, s.driveHeat, 0, '%', say.ofItsOverloadsTripPoint],
    [say.signal, s.analogueInput, 1, '%', say.ofTheAnalogueInputsRange],
  ];
  const known = rows.filter(([, value]) => value !== null);
  return (
    <>
      <SectionHead right={detail.entry.source === 'link' ? say.theDrivesOwnRecord : say.asTold}>{say.theMoment}</SectionHead>
      {known.length === 0 && <Note>{say.noFiguresAreKnownOf}</Note>}
      {known.map(([label, value, decimals, unit, second]) => (
        <SheetRow key={label} label={label} figure={formatFigure(value, decimals)} unit={unit} second={second} />
      ))}
      {s.since !== null && (
        <SheetRow label={say.itHadRunFor} text={duration(s.since)} second={s.hours === null ? undefined : say.hInAll({ hours: s.hours })} />
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
        <SheetRow key={m.kind} label={say.cameToOfATrip({ used: 100 * m.used })} second={marginSecond(m)} />
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
          <SectionHead right={say.eachMsFromTheDrive}>{say.theLastTwoSeconds}</SectionHead>
          <Before r={trace} model={model} height={52} testID="trip-trace" />
        </>
      )}
      <SnapshotRows model={model} detail={detail} />
      {trend && (
        <>
          <SectionHead right={say.overTheLink}>{say.theMinutesBefore}</SectionHead>
          <Before r={trend} model={model} height={44} testID="trip-trend" />
          <NearestRows model={model} trend={trend} />
          <ActRow text={say.openTheRecording} second={say.marksCursorsCsv} onPress={() => go(`/m/${tag}/recordings/${trend.meta.id}`)} />
        </>
      )}
    </>
  );
}
