import { View } from '@tamagui/core';
import { memo, useMemo } from 'react';
import { largestOf, type LookAhead, type MachineSpec } from '@yare/core';
import { say } from '@yare/words/pages/motion';
import type { LookAheadState } from '../../data/lookAhead';
import { Chart } from '../../ui/chart/Chart';
import type { Pane } from '../../ui/chart/pane';
import { Note } from '../../ui/sheet';
import { Second } from '../../ui/text';

/** The run ahead: frequency, current and bus, draft against what is in the drive. */
export const AheadChart = memo(function AheadChart({ state, spec }: { state: LookAheadState; spec: MachineSpec | null }) {
  const { draft, inDrive } = state;
  const panes = useMemo((): Pane[] => {
    if (!draft || !spec) return [];
    const series = (key: keyof LookAhead['series']) => [
      { time: draft.series.time, values: draft.series[key], label: 'draft' },
      ...(inDrive ? [{ time: inDrive.series.time, values: inDrive.series[key], dashed: true, label: say.inDrive }] : []),
    ];
    return [
      { key: 'frequency', name: say.output, unit: say.hz, decimals: 1, series: series('frequency'), leastSpan: 10 },
      {
        key: 'current',
        name: say.motor,
        unit: 'A',
        decimals: 1,
        series: series('current'),
        limits: [{ value: spec.drive.currentLimit, label: say.limit({ currentLimit: spec.drive.currentLimit }), side: 'above' }],
        leastSpan: 1,
      },
      {
        key: 'bus',
        name: say.dcBus,
        unit: 'V',
        decimals: 0,
        series: series('busVoltage'),
        leastSpan: 200,
        limits: [
          { value: spec.rating.overvoltageTrip, label: say.tripsAt({ overvoltageTrip: spec.rating.overvoltageTrip }), side: 'above' },
          { value: spec.rating.undervoltageTrip, label: say.tripsAt2({ undervoltageTrip: spec.rating.undervoltageTrip }), side: 'below' },
        ],
      },
    ];
  }, [draft, inDrive, spec]);
  if (!draft || !spec) return state.busy ? <Note>{say.lookingAhead}</Note> : null;
  const end = Math.max(draft.series.time.at(-1) ?? 1, Math.min(inDrive?.series.time.at(-1) ?? 0, 3 * (draft.series.time.at(-1) ?? 1)));
  const peak = draft.series.busVoltage.indexOf(largestOf(draft.series.busVoltage));
  return (
    <>
      <Chart panes={panes} domain={[0, end]} xUnit="s" paneHeight={66} restCursor={draft.series.time[peak]} testID="look-ahead" />
      {inDrive && (
        <View flexDirection="row" paddingHorizontal={14} paddingBottom={6} backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
          <Second>{say.solidDraftDashedWhatIs}</Second>
        </View>
      )}
    </>
  );
});
