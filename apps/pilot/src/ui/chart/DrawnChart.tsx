import { View } from '@tamagui/core';
import { memo, useEffect, useId, useMemo, useRef, useState } from 'react';
import Svg, { Defs, Line, Pattern, Text as SvgText } from 'react-native-svg';
import { fontFamily } from '../palette';
import { usePalette } from '../theme';
import { drawingHeight, layout, type ChartProps } from './pane';
import { PaneDrawing, type Drawing } from './PaneDrawing';
import { ReadOut } from './ReadOut';
import { roomyTicks, scaleFor, stepOf, tickLabel, type Scale } from './scale';
import { useReading, useWidth, useZoom } from './useFrame';
import { ZoomBar, type ZoomTool } from './ZoomBar';

/** The part of the axis that is in sight once it is zoomed. */
function rescaled(base: Scale, { k, shift }: { k: number; shift: number }): Scale {
  const [left = 0, right = 0] = base.range();
  return base.copy().domain([base.invert((left - shift) / k), base.invert((right - shift) / k)]);
}

const held = (value: number, [low, high]: readonly [number, number]): number => Math.min(Math.max(value, low), high);

/** Stacked panes over one axis with one cursor through all of them and a read-out above them. */
export default memo(function DrawnChart(props: ChartProps) {
  const { panes, domain, xUnit, xName = 'at', xDecimals = 1, marks = [], paneHeight = layout.pane, explore = false, testID } = props;
  const palette = usePalette();
  const id = useId().replace(/[^a-zA-Z0-9]/g, '');
  const [cursor, setCursor] = useState<number | null>(null);
  const [pinned, setPinned] = useState<number | null>(null);
  const frame = useRef<HTMLElement | null>(null);
  const width = useWidth(frame);
  const right = Math.max(layout.left + 10, width - layout.rightPad);
  const height = drawingHeight(panes.length, paneHeight);
  const { zoomed, handle } = useZoom(frame, explore && width > 0, layout.left, right, height);
  const [first, last] = domain;
  const base = useMemo(() => scaleFor([first, last], [layout.left, right]), [first, last, right]);
  // a part of one axis is not the same part of another: what has become longer is shown whole, with the cursor in sight
  useEffect(() => handle.current?.fit(), [handle, first, last]);
  const x = useMemo(() => rescaled(base, zoomed), [base, zoomed]);
  useReading(frame, zoomed.k > 1, (px) => {
    const at = held(x.invert(px), domain);
    setCursor(at);
    props.onCursor?.(at);
  });
  const [from = 0, to = 0] = x.domain();
  const inSight = (at: number | null): number | null => (at !== null && at >= from && at <= to ? at : null);
  const seen = inSight(cursor ?? props.restCursor ?? null);
  const useTool = (tool: ZoomTool) => {
    if (tool === 'fit') handle.current?.fit();
    else if (tool === 'in' || tool === 'out') handle.current?.by(tool === 'in' ? 2 : 0.5, cursor === null ? undefined : [x(cursor), 0]);
    else handle.current?.shift(((tool === 'left' ? 1 : -1) * (right - layout.left)) / 4 / zoomed.k);
  };
  const drawing: Drawing = { id, palette, x, right, paneHeight, marks, cursors: [inSight(pinned), seen] };
  return (
    <View backgroundColor="$sheet" testID={testID}>
      <ReadOut seen={seen} pinned={pinned} x={{ name: xName, unit: xUnit, decimals: xDecimals }} testID={testID && `${testID}-readout`} />
      <div
        ref={(node) => {
          frame.current = node;
        }}
        role="img"
        aria-label={`Chart of ${panes.map((p) => `${p.name}, ${p.unit}`).join('; ')}`}
        style={{ height, touchAction: explore && zoomed.k > 1 ? 'none' : 'pan-y', cursor: 'crosshair', userSelect: 'none', flexShrink: 0 }}
      >
        {width > 0 && (
          <Svg width={width} height={height}>
            <Defs>
              <Pattern id={`h${id}`} width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <Line x1={0} y1={0} x2={0} y2={7} stroke={palette.red} strokeWidth={1} opacity={0.55} />
              </Pattern>
            </Defs>
            {panes.map((pane, i) => (
              <PaneDrawing key={pane.key} pane={pane} index={i} d={drawing} />
            ))}
            <TimeAxis x={x} right={right} y={height - 6} unit={xUnit} colour={palette.soft} />
          </Svg>
        )}
      </div>
      {explore && <ZoomBar onTool={useTool} pinned={pinned !== null} canPin={seen !== null} onPin={() => setPinned(pinned === null ? seen : null)} />}
    </View>
  );
});

/** A label nearer to the right edge than this is set to its left, px. */
const edge = 16;

function TimeAxis({ x, right, y, unit, colour }: { x: Scale; right: number; y: number; unit: string; colour: string }) {
  const ticks = roomyTicks(x, right, unit);
  return (
    <>
      {ticks.map((t, i) => (
        <SvgText key={t} x={x(t)} y={y} textAnchor={x(t) > right - edge ? 'end' : 'middle'} fontFamily={fontFamily.mono} fontSize={13} fill={colour}>
          {tickLabel(t, stepOf(ticks)) + (i === ticks.length - 1 ? ` ${unit}` : '')}
        </SvgText>
      ))}
    </>
  );
}
