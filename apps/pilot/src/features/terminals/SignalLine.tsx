import { View } from '@tamagui/core';
import Svg, { Circle, Line, Polyline, Text } from 'react-native-svg';
import { analogueIds, type MachineModel } from '@yare/commissioning';
import { analogueSpeed, AnalogueSignal, formatFigure, lostBelow, signalAt, signalEnds, SpeedSource } from '@yare/core';
import type { CommandNow } from '../../data/commandNow';
import { fontFamily } from '../../ui/palette';
import { SectionHead, SheetRow } from '../../ui/sheet';
import { usePalette } from '../../ui/theme';

const size = { width: 340, height: 170, left: 46, right: 14, top: 14, bottom: 30 };

/** The first signal as a line from mA or V to Hz, with where it stands now and, of a live zero, from where it counts as lost. */
export function SignalLine({ model, now }: { model: MachineModel; now: CommandNow | null }) {
  const palette = usePalette();
  const { command } = model.drafted.controls();
  const { analogue: scale, remote, local } = command;
  const [name] = analogueIds(model.drafted);
  if (name === undefined) return null;
  const { unit, high } = signalEnds[scale.signal];
  const least = scale.signal === AnalogueSignal.bothWays ? -high : 0;
  const speeds = [scale.low, scale.high, ...(scale.signal === AnalogueSignal.bothWays ? [-scale.high] : [])];
  const [bottom, top] = [Math.min(0, ...speeds), Math.max(1, ...speeds)];
  const px = (signal: number) => size.left + ((signal - least) / (high - least)) * (size.width - size.left - size.right);
  const py = (hertz: number) => size.height - size.bottom - ((hertz - bottom) / (top - bottom)) * (size.height - size.top - size.bottom);
  const shares = scale.signal === AnalogueSignal.bothWays ? [-1, -scale.deadBand, -scale.deadBand, scale.deadBand, scale.deadBand, 1] : [0, 1];
  const points = shares.map((s, i) => {
    // a dead band is a step: just inside it the speed is zero
    const inside = scale.deadBand > 0 && (i === 2 || i === 3);
    return `${px(signalAt(scale.signal, s))},${py(inside ? 0 : analogueSpeed({ ...scale, deadBand: 0 }, s))}`;
  });
  const share = now ? now.analogue / 100 : null;
  const used = [remote.speed, local.speed].includes(SpeedSource.analogue);
  const label = (x: number, y: number, text: string, anchor: 'start' | 'middle' | 'end') => (
    <Text x={x} y={y} fontSize={13} fontFamily={fontFamily.mono} fill={palette.soft} textAnchor={anchor}>
      {text}
    </Text>
  );
  return (
    <>
      <SectionHead
        right={used ? 'gives the speed' : remote.speed === SpeedSource.process ? 'is the feedback' : 'not in use'}
      >{`Signal at ${name}`}</SectionHead>
      <View backgroundColor="$sheet" alignItems="center" borderBottomWidth={1} borderColor="$rule">
        <Svg
          width="100%"
          height={size.height}
          viewBox={`0 0 ${size.width} ${size.height}`}
          role="img"
          aria-label={`${name}: ${signalEnds[scale.signal].low} to ${high} ${unit} is ${scale.low} to ${scale.high} Hz`}
        >
          <Line x1={size.left} y1={py(bottom)} x2={size.width - size.right} y2={py(bottom)} stroke={palette.rule2} />
          <Line x1={px(least)} y1={size.top} x2={px(least)} y2={size.height - size.bottom} stroke={palette.rule2} />
          <Polyline points={points.join(' ')} fill="none" stroke={palette.ink} strokeWidth={2} />
          {scale.signal === AnalogueSignal.liveZero && (
            <Line x1={px(lostBelow)} y1={size.top} x2={px(lostBelow)} y2={size.height - size.bottom} stroke={palette.red} strokeDasharray="4 3" />
          )}
          {share !== null && (
            <Circle cx={px(Math.max(least, signalAt(scale.signal, share)))} cy={py(analogueSpeed(scale, share))} r={6} fill={palette.plum} />
          )}
          {label(px(signalEnds[scale.signal].low), size.height - 12, `${signalEnds[scale.signal].low} ${unit}`, 'middle')}
          {label(size.width - size.right, size.height - 12, `${high} ${unit}`, 'end')}
          {label(size.left - 4, py(scale.high) + 5, formatFigure(scale.high, 0), 'end')}
          {label(size.left - 4, py(scale.low) + 5, formatFigure(scale.low, 0), 'end')}
        </Svg>
      </View>
      {share !== null && (
        <SheetRow
          label="Now"
          second={`${formatFigure(signalAt(scale.signal, share), 1)} ${unit}, ${formatFigure(100 * share, 0)} % of the range`}
          figure={formatFigure(analogueSpeed(scale, share), 1)}
          unit="Hz"
        />
      )}
    </>
  );
}
