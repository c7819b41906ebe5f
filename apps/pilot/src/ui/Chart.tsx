import { View } from '@tamagui/core';
import { select } from 'd3-selection';
import { zoom, zoomIdentity, type D3ZoomEvent, type ZoomBehavior, type ZoomTransform } from 'd3-zoom';
import type { ScaleLinear } from 'd3-scale';
import { memo, useEffect, useLayoutEffect, useId, useMemo, useRef, useState } from 'react';
import { Pressable } from 'react-native';
import Svg, { Circle, ClipPath, Defs, G, Line, Path, Pattern, Rect, Text as SvgText } from 'react-native-svg';
import { formatFigure, valueAt, type RecordingMark } from '@yare/core';
import { linePath, paneDomain, scaleFor, type Pane } from './chartScale';
import { fontFamily } from './palette';
import { Mono, Second, Strong } from './text';
import { usePalette } from './theme';

export interface ChartProps {
  panes: Pane[];
  /** whole extent of the x-axis */
  domain: [number, number];
  xUnit: string;
  xName?: string;
  xDecimals?: number;
  marks?: readonly RecordingMark[];
  paneHeight?: number;
  /** zoom, pan and the second cursor */
  explore?: boolean;
  /** where the cursor stands when nobody has placed it */
  restCursor?: number;
  onCursor?: (at: number) => void;
  testID?: string;
}

const left = 50;
const rightPad = 14;
const headHeight = 20;
const gap = 6;
const axisHeight = 22;
const mostZoom = 400;

/** A tick's label with as many decimals as its step needs. */
const tickLabel = (value: number, step: number): string => formatFigure(value, step < 0.1 ? 2 : step < 1 ? 1 : 0);

/** Ticks of the x-axis, the last one carrying the unit and given the room it needs. */
function roomyTicks(x: ScaleLinear<number, number>, right: number, unit: string): number[] {
  const ticks = x.ticks(Math.max(2, Math.floor((right - x.range()[0]!) / 75)));
  const last = ticks[ticks.length - 1];
  if (last === undefined) return [];
  const room = 45 + unit.length * 8;
  return ticks.filter((t) => t === last || Math.min(x(last), right - room / 2) - x(t) > room);
}

/** Stacked panes over one axis with one cursor through all of them and a read-out row under it. */
export const Chart = memo(function Chart(props: ChartProps) {
  const { panes, domain, xUnit, xName = 'at', xDecimals = 1, marks = [], paneHeight = 74, explore = false } = props;
  const palette = usePalette();
  const id = useId().replace(/[^a-zA-Z0-9]/g, '');
  const [width, setWidth] = useState(0);
  const [transform, setTransform] = useState<ZoomTransform>(zoomIdentity);
  const [cursor, setCursor] = useState<number | null>(null);
  const [pinned, setPinned] = useState<number | null>(null);
  const frame = useRef<HTMLElement | null>(null);
  const behaviour = useRef<ZoomBehavior<HTMLElement, unknown> | null>(null);
  const right = Math.max(left + 10, width - rightPad);
  const height = panes.length * (headHeight + paneHeight + gap) + axisHeight;

  const base = useMemo(() => scaleFor(domain, [left, right]), [domain[0], domain[1], right]); // eslint-disable-line react-hooks/exhaustive-deps
  const x = useMemo(() => transform.rescaleX(base), [transform, base]);
  const [from, to] = x.domain() as [number, number];

  const place = useRef<(clientX: number) => void>(() => undefined);
  place.current = (clientX) => {
    const box = frame.current?.getBoundingClientRect();
    if (!box) return;
    const at = Math.min(Math.max(x.invert(clientX - box.left), domain[0]), domain[1]);
    setCursor(at);
    props.onCursor?.(at);
  };

  useLayoutEffect(() => {
    const node = frame.current;
    if (!node) return;
    const size = new ResizeObserver(([entry]) => setWidth(entry!.contentRect.width));
    size.observe(node);
    return () => size.disconnect();
  }, []);

  useEffect(() => {
    const node = frame.current;
    if (!node || width === 0) return;
    const onMove = (event: PointerEvent) => {
      const zoomed = behaviour.current !== null && (node as { __zoom?: ZoomTransform }).__zoom?.k !== 1;
      if (event.pointerType === 'mouse' ? event.buttons === 0 : event.buttons > 0 && !zoomed) place.current(event.clientX);
    };
    const onDown = (event: PointerEvent) => {
      if (event.isPrimary) place.current(event.clientX);
    };
    node.addEventListener('pointermove', onMove);
    node.addEventListener('pointerdown', onDown);
    return () => {
      node.removeEventListener('pointermove', onMove);
      node.removeEventListener('pointerdown', onDown);
    };
  }, [width]);

  useEffect(() => {
    const node = frame.current;
    if (!explore || !node || width === 0) return;
    const z = zoom<HTMLElement, unknown>()
      .scaleExtent([1, mostZoom])
      .extent([
        [left, 0],
        [right, height],
      ])
      .translateExtent([
        [left, -Infinity],
        [right, Infinity],
      ])
      .filter((event: Event) => {
        const k = (node as { __zoom?: ZoomTransform }).__zoom?.k ?? 1;
        if (event.type === 'touchstart') return k > 1 || (event as TouchEvent).touches.length > 1;
        if (event.type === 'mousedown') return (event as MouseEvent).button === 0;
        return true;
      })
      .on('zoom', (event: D3ZoomEvent<HTMLElement, unknown>) => setTransform(event.transform));
    behaviour.current = z;
    const selection = select(node).call(z);
    selection.on('dblclick.zoom', () => selection.call(z.transform, zoomIdentity));
    return () => {
      selection.on('.zoom', null);
      behaviour.current = null;
    };
  }, [explore, width, right, height]);

  const act = (kind: 'in' | 'out' | 'fit' | 'left' | 'right') => {
    const z = behaviour.current;
    if (!z || !frame.current) return;
    const s = select(frame.current);
    if (kind === 'fit') s.call(z.transform, zoomIdentity);
    else if (kind === 'left' || kind === 'right') s.call(z.translateBy, ((kind === 'left' ? 1 : -1) * (right - left)) / 4 / transform.k, 0);
    else s.call(z.scaleBy, kind === 'in' ? 2 : 0.5, cursor === null ? undefined : [x(cursor), 0]);
  };

  const at = cursor ?? props.restCursor ?? null;
  const seen = at !== null && at >= from && at <= to ? at : null;
  const xTicks = roomyTicks(x, right, xUnit);
  const readOut = (time: number) => panes.map((p) => ({ p, v: p.series[0] ? valueAt(p.series[0].time, p.series[0].values, time) : null }));

  return (
    <View backgroundColor="$sheet" testID={props.testID}>
      <View
        ref={(node: unknown) => {
          frame.current = node as HTMLElement | null;
        }}
        height={height}
        role="img"
        aria-label={`Chart of ${panes.map((p) => `${p.name}, ${p.unit}`).join('; ')}`}
        style={{ touchAction: explore && transform.k > 1 ? 'none' : 'pan-y', cursor: 'crosshair', userSelect: 'none' } as object}
      >
        {width > 0 && (
          <Svg width={width} height={height}>
            <Defs>
              <Pattern id={`h${id}`} width={7} height={7} patternUnits="userSpaceOnUse" patternTransform="rotate(45)">
                <Line x1={0} y1={0} x2={0} y2={7} stroke={palette.red} strokeWidth={1} opacity={0.55} />
              </Pattern>
            </Defs>
            {panes.map((pane, i) => {
              const top = i * (headHeight + paneHeight + gap) + headHeight;
              const bottom = top + paneHeight;
              const y = scaleFor(paneDomain(pane, from, to), [bottom, top]);
              const ticks = y.ticks(3);
              const step = ticks.length > 1 ? ticks[1]! - ticks[0]! : 1;
              return (
                <G key={pane.key}>
                  <Defs>
                    <ClipPath id={`c${id}${i}`}>
                      <Rect x={left} y={top} width={right - left} height={paneHeight} />
                    </ClipPath>
                  </Defs>
                  <SvgText
                    x={right}
                    y={top - 6}
                    textAnchor="end"
                    fontFamily={fontFamily.bold}
                    fontSize={13}
                    fill={palette.ink}
                  >{`${pane.name}, ${pane.unit}`}</SvgText>
                  {ticks.map((t) => (
                    <G key={t}>
                      <Line x1={left} x2={right} y1={y(t)} y2={y(t)} stroke={palette.rule} />
                      <SvgText x={left - 7} y={y(t) + 4} textAnchor="end" fontFamily={fontFamily.mono} fontSize={11.5} fill={palette.soft}>
                        {tickLabel(t, step)}
                      </SvgText>
                    </G>
                  ))}
                  {(pane.limits ?? []).map((l) => {
                    const yl = y(l.value);
                    if (yl < top || yl > bottom) return null;
                    const band = l.side === 'above' ? { y: top, height: yl - top } : { y: yl, height: bottom - yl };
                    return (
                      <G key={l.label}>
                        <Rect x={left} width={right - left} {...band} fill={`url(#h${id})`} />
                        <Line x1={left} x2={right} y1={yl} y2={yl} stroke={palette.red} strokeWidth={1.6} />
                        <Rect x={left + 3} y={yl - 15} width={l.label.length * 7.2 + 6} height={14} fill={palette.sheet} opacity={0.85} />
                        <SvgText x={left + 6} y={yl - 4} fontFamily={fontFamily.mono} fontSize={11.5} fill={palette.red}>
                          {l.label}
                        </SvgText>
                      </G>
                    );
                  })}
                  <G clipPath={`url(#c${id}${i})`}>
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
                      <Line
                        key={k}
                        x1={x(m.time)}
                        x2={x(m.time)}
                        y1={top}
                        y2={bottom}
                        stroke={palette.blue}
                        strokeDasharray="1 3"
                        strokeWidth={1.5}
                      />
                    ))}
                  </G>
                  {[pinned, seen].map((c, k) => {
                    if (c === null || c < from || c > to) return null;
                    const v = pane.series[0] ? valueAt(pane.series[0].time, pane.series[0].values, c) : null;
                    return (
                      <G key={k}>
                        <Line
                          x1={x(c)}
                          x2={x(c)}
                          y1={top - (i === 0 ? 8 : headHeight)}
                          y2={bottom}
                          stroke={palette.plum}
                          strokeWidth={1.6}
                          strokeDasharray={k === 0 ? '5 3' : undefined}
                        />
                        {v !== null && (
                          <Circle
                            cx={x(c)}
                            cy={Math.min(bottom, Math.max(top, y(v)))}
                            r={4.5}
                            fill={palette.sheet}
                            stroke={palette.plum}
                            strokeWidth={2}
                          />
                        )}
                      </G>
                    );
                  })}
                </G>
              );
            })}
            {xTicks.map((t, i) => (
              <SvgText
                key={t}
                x={x(t)}
                y={height - 6}
                textAnchor={x(t) > right - 16 ? 'end' : 'middle'}
                fontFamily={fontFamily.mono}
                fontSize={11.5}
                fill={palette.soft}
              >
                {tickLabel(t, xTicks.length > 1 ? xTicks[1]! - xTicks[0]! : 1) + (i === xTicks.length - 1 ? ` ${xUnit}` : '')}
              </SvgText>
            ))}
          </Svg>
        )}
      </View>
      <View
        flexDirection="row"
        flexWrap="wrap"
        alignItems="baseline"
        paddingLeft={left}
        paddingRight={rightPad}
        paddingVertical={8}
        columnGap={16}
        rowGap={2}
        justifyContent="space-between"
        borderBottomWidth={1}
        borderColor="$rule"
        aria-live="off"
        testID={props.testID && `${props.testID}-readout`}
      >
        {seen === null ? (
          <Second>Touch the chart to read it</Second>
        ) : (
          <>
            <View flexDirection="row" alignItems="baseline" gap={5}>
              <Second>{xName}</Second>
              <Mono fontFamily="$monoBold" fontSize={16}>
                {formatFigure(seen, xDecimals)}
              </Mono>
              <Second>{xUnit}</Second>
            </View>
            {readOut(seen).map(({ p, v }) => (
              <View key={p.key} flexDirection="row" alignItems="baseline" gap={5}>
                <Mono fontFamily="$monoBold" fontSize={16}>
                  {formatFigure(v, p.decimals)}
                </Mono>
                <Second>{p.unit}</Second>
              </View>
            ))}
          </>
        )}
      </View>
      {pinned !== null && seen !== null && (
        <View
          flexDirection="row"
          flexWrap="wrap"
          alignItems="baseline"
          paddingLeft={left}
          paddingRight={rightPad}
          paddingVertical={6}
          columnGap={16}
          justifyContent="space-between"
          borderBottomWidth={1}
          borderColor="$rule"
        >
          <View flexDirection="row" alignItems="baseline" gap={5}>
            <Second>Δ</Second>
            <Mono fontSize={16}>{formatFigure(seen - pinned, xDecimals)}</Mono>
            <Second>{xUnit}</Second>
          </View>
          {readOut(seen).map(({ p, v }, i) => {
            const other = readOut(pinned)[i]!.v;
            return (
              <View key={p.key} flexDirection="row" alignItems="baseline" gap={5}>
                <Mono fontSize={16}>{v === null || other === null ? '–' : formatFigure(v - other, p.decimals)}</Mono>
                <Second>{p.unit}</Second>
              </View>
            );
          })}
        </View>
      )}
      {explore && (
        <View flexDirection="row" borderBottomWidth={1} borderColor="$rule2" role="toolbar">
          {(
            [
              ['◀', 'left', 'Earlier'],
              ['−', 'out', 'Zoom out'],
              ['Fit', 'fit', 'Fit all'],
              ['+', 'in', 'Zoom in'],
              ['▶', 'right', 'Later'],
            ] as const
          ).map(([label, kind, name]) => (
            <Pressable
              key={kind}
              onPress={() => act(kind)}
              role="button"
              aria-label={name}
              style={{ flex: 1, height: 48, alignItems: 'center', justifyContent: 'center' }}
            >
              <Strong color="$plum">{label}</Strong>
            </Pressable>
          ))}
          <Pressable
            onPress={() => setPinned(pinned === null ? seen : null)}
            disabled={seen === null && pinned === null}
            role="button"
            aria-label="Second cursor"
            style={{ flex: 1.4, height: 48, alignItems: 'center', justifyContent: 'center' }}
          >
            <Strong color={seen === null && pinned === null ? '$soft' : '$plum'}>{pinned === null ? 'Pin' : 'Unpin'}</Strong>
          </Pressable>
        </View>
      )}
    </View>
  );
});
