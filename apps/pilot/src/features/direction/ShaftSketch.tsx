import { View } from '@tamagui/core';
import Svg, { Circle, G, Line, Path, Rect } from 'react-native-svg';
import { say } from '@yare/words/pages/direction';
import { usePalette } from '../../ui/theme';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';

/** Where the arrow is that the shaft has to follow, drawn for each kind of machine. */
export const ShaftSketch = drawnWhenChanged(function ShaftSketch({ kind }: { kind: string }) {
  const palette = usePalette();
  const pen = { stroke: palette.ink, strokeWidth: 2, fill: 'none' } as const;
  const arrow = { stroke: palette.plum, strokeWidth: 3.5, fill: 'none' } as const;
  return (
    <View padding={10} alignItems="center" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule">
      <Svg width="100%" height={130} viewBox="0 0 320 130" role="img" aria-label={say.whatTurnsOnAAnd({ kind })}>
        <Rect x={14} y={38} width={86} height={56} {...pen} />
        {[28, 42, 56, 70, 84].map((x) => (
          <Line key={x} x1={x} x2={x} y1={44} y2={88} stroke={palette.rule2} strokeWidth={2} />
        ))}
        <Line x1={100} x2={150} y1={66} y2={66} stroke={palette.ink} strokeWidth={5} />
        {kind === 'conveyor' ? (
          <G>
            <Circle cx={176} cy={66} r={26} {...pen} />
            <Circle cx={288} cy={66} r={16} {...pen} />
            <Line x1={176} x2={288} y1={40} y2={50} {...pen} />
            <Line x1={176} x2={288} y1={92} y2={82} {...pen} />
            <Path d="M190 26 L262 34 M248 24 L262 34 L246 42" {...arrow} />
          </G>
        ) : kind === 'hoist' ? (
          <G>
            <Circle cx={190} cy={50} r={34} {...pen} />
            <Circle cx={190} cy={50} r={6} fill={palette.ink} />
            <Line x1={224} x2={224} y1={50} y2={92} {...pen} />
            <Path d="M224 92 v8 a10 10 0 1 1 -10 10" {...pen} />
            <Path d="M262 116 V58 M252 70 L262 56 L272 70" {...arrow} />
          </G>
        ) : (
          <G>
            <Circle cx={214} cy={66} r={46} {...pen} />
            {kind === 'pump' && <Path d="M246 33 L246 6 L276 6 L276 74" {...pen} />}
            {kind === 'fan' && <Path d="M260 66 L306 66 L306 14 L226 14" {...pen} />}
            {kind === 'agitator' && <Path d="M214 20 V2 M196 66 H232 M214 48 V84" {...pen} />}
            <Circle cx={214} cy={66} r={7} fill={palette.ink} />
            <Path d="M190 84 A30 30 0 1 1 241 79 M249 91 L241 78 L256 73" {...arrow} />
          </G>
        )}
      </Svg>
    </View>
  );
});
