import { View } from '@tamagui/core';
import Svg, { Circle, Line, Polyline, Text } from 'react-native-svg';
import { fontFamily } from '../../ui/palette';
import { usePalette } from '../../ui/theme';

const size = { width: 340, height: 170, left: 58, right: 14, top: 14, bottom: 30 };

type Ends = readonly [least: number, most: number];
type Point = readonly [across: number, up: number];

export interface SignalDrawingProps {
  label: string;
  /** ends of the axes in the units of the points */
  across: Ends;
  up: Ends;
  line: readonly Point[];
  /** where it stands now */
  dot: Point | null;
  /** across, from where on down it counts as lost */
  lostBelow?: number;
  marks: { across: ReadonlyArray<readonly [at: number, text: string]>; up: ReadonlyArray<readonly [at: number, text: string]> };
}

/** What a signal is worth, as a line over its range. */
export function SignalDrawing({ label, across, up, line, dot, lostBelow, marks }: SignalDrawingProps) {
  const palette = usePalette();
  const along = (at: number, [least, most]: Ends) => (at - least) / (most - least);
  const px = (at: number) => size.left + along(at, across) * (size.width - size.left - size.right);
  const py = (at: number) => size.height - size.bottom - along(at, up) * (size.height - size.top - size.bottom);
  const foot = py(up[0]);
  const text = (x: number, y: number, words: string, anchor: 'middle' | 'end') => (
    <Text key={words} x={x} y={y} fontSize={13} fontFamily={fontFamily.mono} fill={palette.soft} textAnchor={anchor}>
      {words}
    </Text>
  );
  return (
    <View backgroundColor="$sheet" alignItems="center" borderBottomWidth={1} borderColor="$rule">
      <Svg width="100%" height={size.height} viewBox={`0 0 ${size.width} ${size.height}`} role="img" aria-label={label}>
        <Line x1={size.left} y1={foot} x2={size.width - size.right} y2={foot} stroke={palette.rule2} />
        <Line x1={px(across[0])} y1={size.top} x2={px(across[0])} y2={foot} stroke={palette.rule2} />
        <Polyline points={line.map(([x, y]) => `${px(x)},${py(y)}`).join(' ')} fill="none" stroke={palette.ink} strokeWidth={2} />
        {lostBelow !== undefined && <Line x1={px(lostBelow)} y1={size.top} x2={px(lostBelow)} y2={foot} stroke={palette.red} strokeDasharray="4 3" />}
        {dot && <Circle cx={px(Math.max(across[0], dot[0]))} cy={py(dot[1])} r={6} fill={palette.plum} />}
        {marks.across.map(([at, words]) =>
          at === across[1] ? text(size.width - size.right, size.height - 12, words, 'end') : text(px(at), size.height - 12, words, 'middle'),
        )}
        {marks.up.map(([at, words]) => text(size.left - 9, py(at) + 5, words, 'end'))}
      </Svg>
    </View>
  );
}
