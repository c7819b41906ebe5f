import { readingOf, type MachineModel } from '@yare/commissioning';
import { sortedPoints, straighteningText } from '@yare/commissioning/steady';
import { formatFigure, type ProcessSensor } from '@yare/core';
import { straighten, type SteadyPoint } from '@yare/core/loop';
import { Fragment, useState } from 'react';
import { notePoints, usePoints } from '../../data/loop';
import { useLive } from '../../data/live';
import { ActRow, Finding, Note, SectionHead, SheetRow } from '../../ui/sheet';

/** How the process stands at several speeds, noted one by one while it runs in hand: a controller has to hold it at all of them. */
export function SteadyRows({ model, sensor, signal }: { model: MachineModel; sensor: ProcessSensor; signal: number }) {
  const { tag } = model.machine;
  const points = usePoints(tag);
  const [open, setOpen] = useState<SteadyPoint | null>(null);
  const live = useLive([tag])(tag);
  const top = model.held?.role('maximumFrequency') ?? model.drafted.role('maximumFrequency') ?? 50;
  if (sensor.measures === 'level') return null;
  const running = live?.link === 'up' && live.state === 'running' && live.outputFrequency > 1;
  const note = () => live && notePoints(tag, sortedPoints([...points, { output: (100 * live.outputFrequency) / top, feedback: live.feedback }]));
  const leaveOut = (p: SteadyPoint) => {
    setOpen(null);
    notePoints(
      tag,
      points.filter((q) => q !== p),
    );
  };
  const said = straighteningText(straighten(points));
  return (
    <>
      <SectionHead right={points.length > 0 ? `${points.length} noted` : 'not noted'}>Over the speeds</SectionHead>
      {points.length === 0 && (
        <Note>
          A pump or fan answers more steeply the faster it turns. Run it in hand at three or more speeds; each time it stands, note it here. The
          values below are then judged where it is steepest.
        </Note>
      )}
      {points.map((p) => {
        const r = readingOf(sensor, signal, p.feedback);
        return (
          <Fragment key={p.output}>
            <SheetRow
              label={`${formatFigure((p.output / 100) * top, 1)} Hz`}
              second={`${formatFigure(p.output, 1)} % of output`}
              figure={formatFigure(r.figure, r.decimals > 0 ? r.decimals + 1 : 0)}
              unit={r.unit}
              inHand={open === p}
              onPress={() => setOpen(open === p ? null : p)}
              testID={`point-${Math.round(p.output)}`}
            />
            {open === p && <ActRow text="Leave it out" onPress={() => leaveOut(p)} testID="leave-point" />}
          </Fragment>
        );
      })}
      {points.length > 0 && <Finding severity={said.severity} sentence={said.sentence} />}
      <ActRow
        text="Note it as it stands now"
        second={running ? `${formatFigure(live.outputFrequency, 1)} Hz` : 'it does not run'}
        disabled={!running}
        onPress={note}
        testID="note-point"
      />
    </>
  );
}
