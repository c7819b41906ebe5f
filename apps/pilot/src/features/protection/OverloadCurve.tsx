import { useMemo } from 'react';
import { View } from '@tamagui/core';
import Svg, { G, Line, Path, Rect, Text } from 'react-native-svg';
import { driveTimeToTrip, formatFigure, steadyHeat, timeToTrip } from '@yare/core';
import { say } from '@yare/words/pages/protection';
import { fontFamily, type Palette } from '../../ui/palette';
import { Second } from '../../ui/text';
import { usePalette } from '../../ui/theme';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';

export interface OverloadCurveProps {
  /** A: what the overload protects, what the plate says, what the current limit lets through, what the size carries */
  overload: number;
  plate: number;
  limit: number;
  rating: number;
  tripClass: number;
  /** share of rated current the size carries for 60 s */
  overloadShare: number;
  /** the run-up as looked ahead: A at most, and for how long, s */
  runUp: { current: number; time: number } | null;
}

const width = 380;
const height = 300;
const frame = { left: 62, right: 12, top: 14, bottom: 34 };
const times = [1, 10, 60, 600, 3600] as const;
const timeText = { 1: '1 s', 10: '10 s', 60: say.min, 600: say.min2, 3600: '1 h' } as const;

/** s the curve is drawn between, and of how many points. */
const shortest = 0.7;
const longest = 7200;
const drawn = 240;

/** A logarithmic axis from one figure to another, px to px. */
const decades = (from: number, to: number, start: number, end: number) => (value: number) =>
  start + ((end - start) * Math.log(value / from)) / Math.log(to / from);
type Axis = ReturnType<typeof decades>;

/** The axes, what the current axis spans, and the curves as svg path data. */
function curvesOf(p: OverloadCurveProps) {
  const most = Math.max(8 * p.plate, 1.2 * p.limit, 2.2 * p.rating);
  const least = 0.7 * Math.min(p.plate, p.overload);
  const x = decades(least, most, frame.left, width - frame.right);
  const y = decades(shortest, longest, height - frame.bottom, frame.top);
  const points = Array.from({ length: drawn }, (_, i) => least * (most / least) ** (i / (drawn - 1)));
  const draw = (time: (current: number) => number) => {
    const seen = points.map((c) => [c, time(c)] as const).filter(([, t]) => t < longest && t > shortest);
    return seen.map(([c, t], i) => `${i === 0 ? 'M' : 'L'}${x(c).toFixed(1)} ${y(t).toFixed(1)}`).join(' ');
  };
  return {
    ...{ x, y, least, most },
    cold: draw((c) => timeToTrip(c / p.overload, p.tripClass)),
    warm: draw((c) => timeToTrip(c / p.overload, p.tripClass, steadyHeat(1))),
    drive: draw((c) => driveTimeToTrip(c / p.rating, p.overloadShare)),
  };
}

const bottom = height - frame.bottom;

/** Times and currents along the edges. */
function Axes({ x, y, currents, palette }: { x: Axis; y: Axis; currents: readonly number[]; palette: Palette }) {
  const small = { fontFamily: fontFamily.mono, fontSize: 13, fill: palette.soft };
  return (
    <>
      {times.map((t) => (
        <G key={t}>
          <Line x1={frame.left} x2={width - frame.right} y1={y(t)} y2={y(t)} stroke={palette.rule} />
          <Text x={frame.left - 5} y={y(t) + 4} textAnchor="end" {...small}>
            {timeText[t]}
          </Text>
        </G>
      ))}
      {currents.map((c) => (
        <G key={c}>
          <Line x1={x(c)} x2={x(c)} y1={bottom} y2={bottom + 4} stroke={palette.rule2} />
          <Text x={x(c)} y={bottom + 16} textAnchor="middle" {...small}>
            {formatFigure(c, c < 10 ? 1 : 0)}
          </Text>
        </G>
      ))}
      <Text x={width - frame.right} y={height - 3} textAnchor="end" {...small}>
        {say.aLogScale}
      </Text>
      <Rect x={frame.left} y={frame.top} width={width - frame.left - frame.right} height={bottom - frame.top} fill="none" stroke={palette.rule2} />
    </>
  );
}

/** A current that matters, as an upright line with its words. */
function Level({ at, text, colour, row, dash }: { at: number; text: string; colour: string; row: number; dash?: string }) {
  return (
    <G>
      <Line x1={at} x2={at} y1={frame.top + row * 15} y2={bottom} stroke={colour} strokeWidth={1.5} strokeDasharray={dash} />
      <Text x={at + 4} y={frame.top + 11 + row * 14} fontFamily={fontFamily.text} fontSize={13} fill={colour}>
        {text}
      </Text>
    </G>
  );
}

/** Time over current: the motor overload cold and warm, the drive's own limit, and the currents that matter drawn as lines. */
export const OverloadCurve = drawnWhenChanged(function OverloadCurve(p: OverloadCurveProps) {
  const palette = usePalette();
  const { overload, plate, limit, rating, tripClass, overloadShare, runUp } = p;
  const { x, y, least, most, cold, warm, drive } = useMemo(
    () => curvesOf({ overload, plate, limit, rating, tripClass, overloadShare, runUp: null }),
    [overload, plate, limit, rating, tripClass, overloadShare],
  );
  const at150 = timeToTrip(1.5, tripClass, steadyHeat(1));
  const currents = [1, 1.5, 2, 3, 5, 8].map((k) => k * plate).filter((c) => c <= most);
  return (
    <View padding={8} backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" testID="overload-curve">
      <Svg viewBox={`0 0 ${width} ${height}`} width="100%" height={height} role="img" aria-label={say.overloadAtOfAIt({ overload, at150 })}>
        <Axes x={x} y={y} currents={currents} palette={palette} />
        <Level at={x(plate)} text={say.plateA({ plate, plate2: plate < 10 ? 2 : 1 })} colour={palette.ink} row={0} />
        <Level at={x(limit)} text={say.limit({ limit: (limit / plate) * 100 })} colour={palette.plum} row={1} dash="2 3" />
        <Path d={drive} stroke={palette.red} strokeWidth={1.6} strokeDasharray="7 4" fill="none" />
        <Path d={cold} stroke={palette.ink} strokeWidth={1.2} strokeDasharray="2 3" fill="none" />
        <Path d={warm} stroke={palette.ink} strokeWidth={2.4} fill="none" />
        {runUp && runUp.time > shortest && runUp.current > least && (
          <G>
            <Rect x={x(runUp.current) - 4} y={y(runUp.time) - 4} width={8} height={8} fill={palette.plum} />
            <Text x={x(runUp.current) + 8} y={y(runUp.time) + 4} fontFamily={fontFamily.text} fontSize={13} fill={palette.plum}>
              {say.runUp}
            </Text>
          </G>
        )}
      </Svg>
      <Second paddingHorizontal={8}>{say.solidOverloadFromWarmS({ at150, overloadShare: overloadShare * 100 })}</Second>
    </View>
  );
});
