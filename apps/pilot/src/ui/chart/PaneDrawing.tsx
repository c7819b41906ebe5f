import { memo } from 'react';
import { Circle, ClipPath, Defs, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg';
import type { RecordingMark } from '@yare/core/recordings';
import { formatFigure } from '@yare/core/units';
import { fontFamily, type Palette } from '../palette';
import { layout, readingOf, type Limit, type Pane } from './pane';
import { linePath, paneDomain, scaleFor, sideLabel, stepOf, type Scale } from './scale';

/** What every pane is drawn with. */
export interface Drawing {
  /** unique on the page */
  id: string;
  palette: Palette;
  x: Scale;
  right: number;
  marks: readonly RecordingMark[];
  /** the pinned cursor, then the one that reads; null where there is none in sight */
  cursors: ReadonlyArray<number | null>;
}

const axisText = { fontFamily: fontFamily.mono, fontSize: 13 };
/** Pixels a limit's label is high, with the line under it. */
const labelHeight = 15;
/** Pixels a sign of a limit's label takes, and one of a reading. */
const signWidth = 7.2;
const readingSign = 9.3;

/** Where a pane stands, with its y-axis. */
export interface Placed {
  pane: Pane;
  index: number;
  top: number;
  bottom: number;
  y: Scale;
}

/** Every pane with its place and the axis of what is in sight, from and to a value of x. */
export const placed = (panes: readonly Pane[], paneHeight: number, from: number, to: number): Placed[] =>
  panes.map((pane, index) => {
    const top = index * (layout.head + paneHeight + layout.gap) + layout.head;
    const bottom = top + paneHeight;
    return { pane, index, top, bottom, y: scaleFor(paneDomain(pane, from, to), [bottom, top]) };
  });

/** What of a pane stands while it is panned: its axis, limits and name. */
export function PaneFrame({ at: { pane, top, bottom, y }, d }: { at: Placed; d: Drawing }) {
  const { palette, right } = d;
  const ticks = y.ticks(3);
  return (
    <G>
      <SvgText x={right - 6} y={top - 6} textAnchor="end" fontFamily={fontFamily.bold} fontSize={13} fill={palette.ink}>
        {`${pane.name}, ${pane.unit}`}
      </SvgText>
      {ticks.map((t) => (
        <G key={t}>
          <Line x1={layout.left} x2={right} y1={y(t)} y2={y(t)} stroke={palette.rule} />
          <SvgText x={layout.left - 7} y={y(t) + 4} textAnchor="end" {...axisText} fill={palette.soft}>
            {sideLabel(t, stepOf(ticks))}
          </SvgText>
        </G>
      ))}
      {(pane.limits ?? []).map((l) => (
        <LimitBand key={l.label} limit={l} y={y} top={top} bottom={bottom} d={d} />
      ))}
    </G>
  );
}

/** What of a pane moves when it is panned: its lines and marks, over all of a scale. */
export const PaneLines = memo(function PaneLines({
  at: { pane, index, top, bottom, y },
  x,
  id,
  palette,
  marks,
}: { at: Placed; x: Scale } & Pick<Drawing, 'id' | 'palette' | 'marks'>) {
  const [left = 0, right = 0] = x.range();
  const clip = `c${id}${index}`;
  return (
    <G>
      <Defs>
        <ClipPath id={clip}>
          <Rect x={left} y={top} width={right - left} height={bottom - top} />
        </ClipPath>
      </Defs>
      <G clipPath={`url(#${clip})`}>
        {[...pane.series].reverse().map((s, k) => (
          <Path
            key={s.label ?? k}
            d={linePath(s, x, y)}
            fill="none"
            stroke={s.dashed ? palette.soft : palette.ink}
            strokeWidth={s.dashed ? 1.4 : 2}
            strokeDasharray={s.dashed ? '4 3' : undefined}
            strokeLinejoin="round"
          />
        ))}
        {marks.map((m, k) => (
          <Line key={k} x1={x(m.time)} x2={x(m.time)} y1={top} y2={bottom} stroke={palette.blue} strokeDasharray="1 3" strokeWidth={1.5} />
        ))}
      </G>
    </G>
  );
});

/** The cursors through a pane, which move with its lines. */
export function PaneCursors({ at: { pane, index, top, bottom, y }, d }: { at: Placed; d: Drawing }) {
  return d.cursors.map(
    (at, k) => at !== null && <Cursor key={k} at={at} pinned={k === 0} pane={pane} y={y} top={top} bottom={bottom} first={index === 0} d={d} />,
  );
}

/** What the first line says where the cursor stands, at the head of its pane, and how far that is from the pinned one. */
export function PaneReading({
  at: { pane, top },
  d: {
    cursors: [pinned, seen],
    palette,
  },
}: {
  at: Placed;
  d: Drawing;
}) {
  const y = top - 5;
  const [now, then] = [readingOf(pane, seen), readingOf(pane, pinned)];
  if (now === null) return null;
  const change = then === null ? '' : ` Δ ${formatFigure(now - then, pane.decimals)}`;
  const text = `${formatFigure(now, pane.decimals)} ${pane.unit}${change}`;
  return (
    <G>
      <Rect x={layout.left - 4} y={y - 13} width={text.length * readingSign + 8} height={17} fill={palette.sheet} />
      <SvgText x={layout.left} y={y} fontFamily={fontFamily.monoBold} fontSize={15} fill={palette.plum}>
        {text}
      </SvgText>
    </G>
  );
}

/** A level with the side that must not be reached hatched. */
function LimitBand({ limit, y, top, bottom, d }: { limit: Limit; y: Scale; top: number; bottom: number; d: Drawing }) {
  const { palette, right } = d;
  const level = y(limit.value);
  if (level < top || level > bottom) return null;
  // where there is no room above it, its label stands below
  const foot = level - labelHeight < top ? level + labelHeight : level;
  const band = limit.side === 'above' ? { y: top, height: level - top } : { y: level, height: bottom - level };
  return (
    <G>
      <Rect x={layout.left} width={right - layout.left} {...band} fill={`url(#h${d.id})`} />
      <Line x1={layout.left} x2={right} y1={level} y2={level} stroke={palette.red} strokeWidth={1.6} />
      <Rect
        x={layout.left + 3}
        y={foot - labelHeight}
        width={limit.label.length * signWidth + 6}
        height={labelHeight - 1}
        fill={palette.sheet}
        opacity={0.85}
      />
      <SvgText x={layout.left + 6} y={foot - 4} {...axisText} fill={palette.red}>
        {limit.label}
      </SvgText>
    </G>
  );
}

interface CursorProps {
  at: number;
  pinned: boolean;
  pane: Pane;
  y: Scale;
  top: number;
  bottom: number;
  first: boolean;
  d: Drawing;
}

/** A cursor through a pane, with a ring on its first line. */
function Cursor({ at, pinned, pane, y, top, bottom, first, d }: CursorProps) {
  const { palette, x } = d;
  const v = readingOf(pane, at);
  return (
    <G>
      <Line
        x1={x(at)}
        x2={x(at)}
        y1={top - (first ? 8 : layout.head)}
        y2={bottom}
        stroke={palette.plum}
        strokeWidth={1.6}
        strokeDasharray={pinned ? '5 3' : undefined}
      />
      {v !== null && (
        <Circle cx={x(at)} cy={Math.min(bottom, Math.max(top, y(v)))} r={4.5} fill={palette.sheet} stroke={palette.plum} strokeWidth={2} />
      )}
    </G>
  );
}
