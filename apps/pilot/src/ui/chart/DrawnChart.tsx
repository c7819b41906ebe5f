import { View } from '@tamagui/core';
import { memo, useEffect, useId, useMemo, useRef, useState, type ReactNode } from 'react';
import Svg, { Defs, Line, Pattern, Text as SvgText } from 'react-native-svg';
import { say } from '@yare/words/pages/ui';
import { fontFamily } from '../palette';
import { usePalette } from '../theme';
import { drawingHeight, layout, type ChartProps } from './pane';
import { PaneCursors, PaneFrame, PaneLines, PaneReading, placed, type Drawing } from './PaneDrawing';
import { ReadOut } from './ReadOut';
import { roomyTicks, scaleFor, stepOf, tickLabel, type Scale } from './scale';
import { beyond, useReading, useWidth, useZoom } from './useFrame';
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
  const { zoomed, handle, layer } = useZoom(frame, explore && width > 0, layout.left, right, height);
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
  // lines are drawn beyond both edges, and an axis fits all of that
  const more = beyond(zoomed, layout.left, right);
  const wider = useMemo(() => scaleFor([x.invert(layout.left - more), x.invert(right + more)], [layout.left - more, right + more]), [x, right, more]);
  const places = useMemo(() => {
    const [low = 0, high = 0] = wider.domain();
    return placed(panes, paneHeight, low, high);
  }, [panes, paneHeight, wider]);
  const inSight = (at: number | null): number | null => (at !== null && at >= from && at <= to ? at : null);
  const seen = inSight(cursor ?? props.restCursor ?? null);
  const useTool = (tool: ZoomTool) => {
    if (tool === 'fit') handle.current?.fit();
    else if (tool === 'in' || tool === 'out') handle.current?.by(tool === 'in' ? 2 : 0.5, cursor === null ? undefined : [x(cursor), 0]);
    else handle.current?.shift(((tool === 'left' ? 1 : -1) * (right - layout.left)) / 4 / zoomed.k);
  };
  const pin = () => {
    const at = pinned === null ? seen : null;
    setPinned(at);
    props.onPinned?.(at);
  };
  const drawing: Drawing = { id, palette, x, right, marks, cursors: [inSight(pinned), seen] };
  return (
    <View backgroundColor="$sheet" testID={testID}>
      <ReadOut seen={seen} pinned={pinned} x={{ name: xName, unit: xUnit, decimals: xDecimals }} testID={testID && `${testID}-readout`} />
      <div
        ref={(node) => {
          frame.current = node;
        }}
        role="img"
        aria-label={say.chartOf({ panes: panes.map((p) => `${p.name}, ${p.unit}`).join('; ') })}
        style={{
          position: 'relative',
          height,
          touchAction: explore && zoomed.k > 1 ? 'none' : 'pan-y',
          cursor: 'crosshair',
          userSelect: 'none',
          flexShrink: 0,
        }}
      >
        {width > 0 && (
          <>
            <Svg width={width} height={height}>
              <Defs>
                <Pattern id={`h${id}`} width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                  <Line x1={0} y1={0} x2={0} y2={7} stroke={palette.red} strokeWidth={1} opacity={0.55} />
                </Pattern>
              </Defs>
              {places.map((p) => (
                <PaneFrame key={p.pane.key} at={p} d={drawing} />
              ))}
            </Svg>
            <Moving layer={layer} box={[layout.left, 0, right - layout.left, height - layout.axis]} more={more}>
              {places.map((p) => (
                <PaneLines key={p.pane.key} at={p} x={wider} id={id} palette={palette} marks={marks} />
              ))}
              {places.map((p) => (
                <PaneCursors key={p.pane.key} at={p} d={drawing} />
              ))}
            </Moving>
            <div style={{ position: 'absolute', left: 0, top: 0, pointerEvents: 'none' }}>
              <Svg width={width} height={height}>
                {places.map((p) => (
                  <PaneReading key={p.pane.key} at={p} d={drawing} />
                ))}
              </Svg>
            </div>
            <Moving layer={layer} box={[0, height - layout.axis, width, layout.axis]} more={more}>
              <TimeAxis x={x} wider={wider} right={right} y={height - 6} unit={xUnit} colour={palette.soft} />
            </Moving>
          </>
        )}
      </div>
      {explore && <ZoomBar onTool={useTool} pinned={pinned !== null} canPin={seen !== null} onPin={pin} />}
    </View>
  );
});

/** Room for the ring of a cursor at the right edge, px. */
const ring = 7;

/** What moves when the chart is panned, seen through a box of the frame and drawn for some px more on either side. */
function Moving({
  layer,
  box: [left, top, width, height],
  more,
  children,
}: {
  layer: (node: HTMLElement | null) => void;
  box: readonly [number, number, number, number];
  more: number;
  children: ReactNode;
}) {
  const across = width + 2 * more;
  return (
    <div style={{ position: 'absolute', left, top, width: width + ring, height, overflow: 'hidden', pointerEvents: 'none' }}>
      <div
        ref={layer}
        style={{ position: 'absolute', left: -more, top: 0, width: across + ring, height, ...(more > 0 && { willChange: 'transform' }) }}
      >
        <Svg width={across + ring} height={height} viewBox={`${left - more} ${top} ${across + ring} ${height}`}>
          {children}
        </Svg>
      </div>
    </div>
  );
}

/** A label nearer to the right edge than this is set to its left, px. */
const edge = 16;

function TimeAxis({ x, wider, right, y, unit, colour }: { x: Scale; wider: Scale; right: number; y: number; unit: string; colour: string }) {
  const inSight = roomyTicks(x, right, unit);
  const step = stepOf(inSight);
  const [first = 0, last = 0] = [inSight[0], inSight.at(-1)];
  const [low = 0, high = 0] = wider.domain();
  // as far as lines are drawn beyond the edges; the unit stands with the last in sight
  const before = Array.from({ length: Math.max(0, Math.floor((first - low) / step)) }, (_, i) => first - step * (i + 1));
  const after = Array.from({ length: Math.max(0, Math.floor((high - last) / step)) }, (_, i) => last + step * (i + 1));
  return (
    <>
      {[...before, ...inSight, ...after].map((t) => (
        <SvgText
          key={t}
          x={x(t)}
          y={y}
          textAnchor={t === last && x(t) > right - edge ? 'end' : 'middle'}
          fontFamily={fontFamily.mono}
          fontSize={13}
          fill={colour}
        >
          {tickLabel(t, step) + (t === last ? ` ${unit}` : '')}
        </SvgText>
      ))}
    </>
  );
}
