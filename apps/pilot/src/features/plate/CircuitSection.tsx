import { View } from '@tamagui/core';
import { memo, useMemo } from 'react';
import {
  breakdown,
  formatFigure,
  speedCurve,
  stampedPower,
  usualStartingCurrent,
  type circuitFromPlate,
  type CircuitValue,
  type StampedPlate,
} from '@yare/core';
import { say } from '@yare/words/pages/plate';
import { Chart } from '../../ui/chart/Chart';
import { SheetRow } from '../../ui/sheet';
import { Second, Strong } from '../../ui/text';
import { useWide } from '../../ui/theme';
import { CircuitDrawing } from './Circuit';

const names = {
  r1: ['R1', say.statorResistance],
  x1: ['X1', say.statorLeakage],
  xm: [say.xm, 'magnetising'],
  r2: ['R2', say.rotorResistanceReferred],
  x2: ['X2', say.rotorLeakageReferred],
  rFe: ['RFe', say.coreLoss],
} as const satisfies Record<CircuitValue, readonly [string, string]>;
const values = ['r1', 'x1', 'xm', 'r2', 'x2', 'rFe'] as const satisfies readonly CircuitValue[];

export type CircuitEstimate = Extract<ReturnType<typeof circuitFromPlate>, { ok: true }>;

export const CircuitSection = memo(function CircuitSection({ solved, plate }: { solved: CircuitEstimate; plate: StampedPlate }) {
  const wide = useWide();
  const phase = plate.voltage / Math.sqrt(3);
  const start = usualStartingCurrent(stampedPower(plate));
  const pullOut = breakdown(solved.circuit, phase, plate.frequency);
  return (
    <>
      <CircuitDrawing estimate={solved} />
      {values.map((k) => {
        const v = solved.circuit[k];
        return (
          <SheetRow
            key={k}
            label={names[k][0]}
            second={`${names[k][1]} · ± ${Math.max(1, Math.round(solved.spread[k] * 100))} %`}
            figure={formatFigure(v, v < 1 ? 3 : v < 100 ? 2 : 0)}
            unit="Ω"
            mark="W"
            estimate
          />
        );
      })}
      <SheetRow
        label={say.breakdownTorque}
        second={say.assumedFromSizeAndPoles({ slip: pullOut.slip * 100 })}
        figure={formatFigure(pullOut.torque, 1)}
        unit="N·m"
        mark="W"
        estimate
      />
      <SheetRow
        label={say.startingCurrent}
        second={say.straightAcrossTheLineAs({ least: start.least * plate.current, most: start.most * plate.current })}
        figure={formatFigure(start.times * plate.current, 1)}
        unit="A"
        mark="W"
        estimate
      />
      {!wide && <Curves plate={plate} estimate={solved} />}
    </>
  );
});

/** Torque and current over speed, across the line. */
export const Curves = memo(function Curves({ plate, estimate }: { plate: StampedPlate; estimate: CircuitEstimate }) {
  const curve = useMemo(
    () => speedCurve(estimate.circuit, plate.voltage / Math.sqrt(3), plate.frequency, 161),
    [estimate, plate.voltage, plate.frequency],
  );
  const speed = curve.map((p) => p.speed);
  return (
    <View>
      <View flexDirection="row" justifyContent="space-between" paddingHorizontal={16} paddingTop={14} paddingBottom={4}>
        <Strong>{say.acrossTheLine}</Strong>
        <Second>{say.estimate}</Second>
      </View>
      <Chart
        testID="curves"
        panes={[
          { key: 'torque', name: say.torque, unit: 'N·m', decimals: 1, series: [{ time: speed, values: curve.map((p) => p.torque) }] },
          { key: 'current', name: say.current, unit: 'A', decimals: 1, series: [{ time: speed, values: curve.map((p) => p.current) }] },
        ]}
        domain={[0, speed.at(-1) ?? 0]}
        xUnit="rpm"
        xDecimals={0}
        paneHeight={96}
        restCursor={plate.speed}
      />
    </View>
  );
});
