import { View } from '@tamagui/core';
import Svg, { Circle, G, Line, Rect, Text } from 'react-native-svg';
import { drawStrip, type Mark, type StripTerminal } from '@yare/commissioning';
import { say } from '@yare/words/pages/terminals';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';
import { fontFamily } from '../../ui/palette';
import { usePalette } from '../../ui/theme';

const family = { plain: fontFamily.text, bold: fontFamily.bold, code: fontFamily.monoBold };

/** The strip drawn as it lies: contacts at rest as drawn, what is closed or on now filled. */
export const StripDrawing = drawnWhenChanged(function StripDrawing({
  strip,
  closed,
  on,
}: {
  strip: readonly StripTerminal[];
  /** inputs closed and outputs on now; null while nobody can tell */
  closed: readonly boolean[] | null;
  on: readonly boolean[] | null;
}) {
  const palette = usePalette();
  const drawing = drawStrip(strip);
  const live = (m: Mark) =>
    ('input' in m && m.input !== undefined && closed?.[m.input] === true) || ('output' in m && m.output !== undefined && on?.[m.output] === true);
  return (
    <View backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" alignItems="center" paddingVertical={6}>
      <Svg
        width="100%"
        height={drawing.height}
        viewBox={`0 0 ${drawing.width} ${drawing.height}`}
        role="img"
        aria-label={strip.map((t) => say.closed({ id: t.id, used: t.used, job: t.job, input: !!(t.input !== null && closed?.[t.input]) })).join('; ')}
      >
        <G>
          {drawing.marks.map((m, i) => {
            const colour = live(m) ? palette.green : palette.ink;
            switch (m.kind) {
              case 'line':
                return (
                  <Line
                    key={i}
                    x1={m.x1}
                    y1={m.y1}
                    x2={m.x2}
                    y2={m.lever && live(m) ? m.y1 : m.y2}
                    stroke={colour}
                    strokeWidth={live(m) ? 2.5 : 1.2}
                  />
                );
              case 'box':
                return (
                  <Rect
                    key={i}
                    x={m.x}
                    y={m.y}
                    width={m.width}
                    height={m.height}
                    fill={live(m) ? palette.greenGround : 'none'}
                    stroke={colour}
                    strokeWidth={live(m) ? 2.5 : 1.2}
                  />
                );
              case 'circle':
                return <Circle key={i} cx={m.x} cy={m.y} r={m.r} fill="none" stroke={colour} />;
              case 'text':
                return (
                  <Text
                    key={i}
                    x={m.x}
                    y={m.y}
                    fontSize={m.size}
                    textAnchor={m.anchor}
                    fontFamily={family[m.weight]}
                    fill={m.soft ? palette.soft : palette.ink}
                  >
                    {m.text}
                  </Text>
                );
            }
          })}
        </G>
      </Svg>
    </View>
  );
});
