import { useMemo } from 'react';
import type { TripMemory } from '@yare/contract';
import { formatFigure, present } from '@yare/core';
import { useTripMemory } from '../../data/bench';
import { Chart } from '../../ui/chart/Chart';
import type { Pane } from '../../ui/chart/pane';
import { SectionHead, SheetRow } from '../../ui/sheet';

/** What the drive remembers of its last trip: the instant, and the two seconds before it. */
export function LastTrip({ tag, trips }: { tag: string; trips: number }) {
  const { data } = useTripMemory(tag, trips);
  return data ? <Memory memory={data} /> : null;
}

function Memory({ memory: t }: { memory: TripMemory }) {
  const panes = useMemo((): Pane[] => {
    const pane = (key: string, name: string, unit: string, decimals: number, leastSpan: number): Pane => ({
      key,
      name,
      unit,
      decimals,
      leastSpan,
      series: [{ time: t.time, values: t.history[key] ?? [] }],
    });
    return [pane('frequency', 'Output', 'Hz', 1, 5), pane('current', 'Motor', 'A', 1, 2), pane('busVoltage', 'DC bus', 'V', 0, 60)];
  }, [t]);
  const figure = (x: number, decimals: number) => formatFigure(x, decimals);
  return (
    <>
      <SectionHead right="two seconds before it, every ms">{`Last trip: ${t.name}`}</SectionHead>
      {t.time.length > 1 && (
        <Chart
          panes={panes}
          domain={[present(t.time[0]), 0]}
          xUnit="s"
          xDecimals={2}
          xName="at"
          paneHeight={52}
          restCursor={0}
          testID="trip-history"
        />
      )}
      <SheetRow label="Output" second={`reference ${figure(t.reference, 1)} Hz`} figure={figure(t.frequency, 1)} unit="Hz" />
      <SheetRow
        label="Motor current"
        second={`${figure(t.voltage, 0)} V at the motor, torque ${figure(t.torque, 0)} %`}
        figure={figure(t.current, 1)}
        unit="A"
      />
      <SheetRow label="DC bus" figure={figure(t.busVoltage, 0)} unit="V" />
      <SheetRow
        label="Heatsink"
        second={`motor heat ${figure(t.motorHeat, 0)} %, drive heat ${figure(t.driveHeat, 0)} % of their trip points`}
        figure={figure(t.heatsink, 0)}
        unit="°C"
      />
    </>
  );
}
