import { statisticsOf } from '@yare/commissioning/recording';
import type { RecordingData } from '@yare/contract';
import { formatFigure } from '@yare/core';
import { say } from '@yare/words/pages/recordings';
import { SectionHead, SheetRow, Note } from '../../ui/sheet';

/** Every channel between the two cursors: mean, smallest and largest, root mean square, spread and slope. */
export function BetweenRows({ recording: { meta, time, data }, from, to }: { recording: RecordingData; from: number; to: number }) {
  const span = Math.abs(to - from);
  const rows = meta.channels.flatMap((c) => {
    const s = statisticsOf(time, data[c.key] ?? [], from, to);
    return s ? [{ c, s }] : [];
  });
  const [first] = rows;
  return (
    <>
      <SectionHead right={first ? say.samples({ samples: first.s.samples }) : say.noTwoSamples}>{say.betweenTheCursorsS({ span })}</SectionHead>
      {!first && <Note>{say.setTheCursorsFurtherApart}</Note>}
      {rows.map(({ c, s }) => {
        const f = (x: number) => formatFigure(x, c.decimals);
        const finer = (x: number) => formatFigure(x, c.decimals + 1);
        return (
          <SheetRow
            key={c.key}
            label={say.mean({ name: c.name })}
            second={`${f(s.smallest)} to ${f(s.largest)} · RMS ${f(s.rms)} · spread ${finer(s.deviation)} · ${finer(s.slope)} ${c.unit}/s`}
            figure={f(s.mean)}
            unit={c.unit}
            testID={`between-${c.key}`}
          />
        );
      })}
    </>
  );
}
