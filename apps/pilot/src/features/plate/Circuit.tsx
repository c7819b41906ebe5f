import { View } from '@tamagui/core';
import Svg, { Circle, G, Line, Path, Rect, Text as SvgText } from 'react-native-svg';
import { formatFigure, type CircuitEstimate } from '@yare/core';
import { say } from '@yare/words/pages/plate';
import { fontFamily } from '../../ui/palette';
import { Second } from '../../ui/text';
import { usePalette } from '../../ui/theme';

const ohms = (x: number) => `${formatFigure(x, x < 1 ? 3 : x < 100 ? 2 : 0)} Ω`;

/** The T equivalent circuit of one phase with its values; estimated values stand in italics. */
export function CircuitDrawing({ estimate }: { estimate: CircuitEstimate }) {
  const palette = usePalette();
  const c = estimate.circuit;
  const ink = palette.ink;
  const text = (x: number, y: number, text: string, bold = false, anchor: 'start' | 'middle' = 'middle') => (
    <SvgText
      x={x}
      y={y}
      textAnchor={anchor}
      fontFamily={bold ? fontFamily.monoBold : fontFamily.mono}
      fontStyle={bold ? 'normal' : 'italic'}
      fontSize={13}
      fill={bold ? ink : palette.soft}
    >
      {text}
    </SvgText>
  );
  const coil = (x: number, y: number) => (
    <Path
      d={`M${x} ${y} ${[0, 1, 2, 3].map((i) => `A5.5 5.5 0 0 1 ${x + 11 * (i + 1)} ${y}`).join(' ')}`}
      stroke={ink}
      strokeWidth={1.6}
      fill="none"
    />
  );
  const standingCoil = (x: number, y: number) => (
    <Path
      d={`M${x} ${y} ${[0, 1, 2, 3].map((i) => `A5.5 5.5 0 0 1 ${x} ${y + 11 * (i + 1)}`).join(' ')}`}
      stroke={ink}
      strokeWidth={1.6}
      fill="none"
    />
  );
  const line = (x1: number, y1: number, x2: number, y2: number) => <Line x1={x1} y1={y1} x2={x2} y2={y2} stroke={ink} strokeWidth={1.6} />;
  return (
    <View padding={8} role="img" aria-label={say.equivalentCircuitOfOnePhase}>
      <Svg width="100%" height={178} viewBox="0 0 400 178">
        <Circle cx={14} cy={50} r={4} stroke={ink} fill="none" strokeWidth={1.6} />
        <Circle cx={14} cy={160} r={4} stroke={ink} fill="none" strokeWidth={1.6} />
        {line(18, 50, 34, 50)}
        <Rect x={34} y={42} width={44} height={16} stroke={ink} fill="none" strokeWidth={1.6} />
        {line(78, 50, 92, 50)}
        {coil(92, 50)}
        {line(136, 50, 262, 50)}
        {coil(262, 50)}
        {line(306, 50, 366, 50)}
        {line(366, 50, 366, 78)}
        <Rect x={358} y={78} width={16} height={44} stroke={ink} fill="none" strokeWidth={1.6} />
        {line(366, 122, 366, 160)}
        {line(18, 160, 366, 160)}
        {line(170, 50, 170, 78)}
        <Rect x={162} y={78} width={16} height={44} stroke={ink} fill="none" strokeWidth={1.6} />
        {line(170, 122, 170, 160)}
        {line(226, 50, 226, 78)}
        {standingCoil(226, 78)}
        {line(226, 122, 226, 160)}
        <G>
          {text(56, 34, 'R1', true)}
          {text(56, 18, ohms(c.r1))}
          {text(114, 34, 'X1', true)}
          {text(114, 18, ohms(c.x1))}
          {text(284, 34, 'X2', true)}
          {text(284, 18, ohms(c.x2))}
          {text(336, 92, 'R2/s', true)}
          {text(330, 108, ohms(c.r2))}
          {text(142, 96, 'RFe', true)}
          {text(132, 112, ohms(c.rFe))}
          {text(258, 96, say.xm, true)}
          {text(268, 112, ohms(c.xm))}
        </G>
      </Svg>
      <Second textAlign="center">{say.onePhaseStarEquivalentReactances({ ratedFrequency: c.ratedFrequency })}</Second>
    </View>
  );
}
