import { View } from '@tamagui/core';
import { present } from '@yare/core';
import Svg, { Circle, G, Line, Rect, Text } from 'react-native-svg';
import type { StampedPlate } from '@yare/core';
import { say } from '@yare/words/pages/plate';
import { fontFamily } from '../../ui/palette';
import { Second } from '../../ui/text';
import { usePalette } from '../../ui/theme';
import { drawnWhenChanged } from '../../ui/drawnWhenChanged';

type Post = [name: string, column: number, row: number];

type Connected = Pick<StampedPlate, 'leads' | 'connection' | 'joined'>;

/** Posts of a terminal board, in rows from the top. IEC 60034-8 for six leads, NEMA MG 1 part 2 for nine (both from memory). */
function boardOf({ leads = 3, connection, joined }: Connected): Post[] {
  const row = (names: string[], at: number) => names.map((n, i): Post => [n, i, at]);
  const drive = row(leads === 9 ? ['T1', 'T2', 'T3'] : ['U1', 'V1', 'W1'], leads === 9 ? 2 : 1);
  if (leads === 3) return drive;
  if (leads === 6) return [...row(['W2', 'U2', 'V2'], 0), ...drive];
  return [
    ...row(connection === 'delta' && joined === 'parallel' ? ['T6', 'T4', 'T5'] : ['T4', 'T5', 'T6'], 0),
    ...row(['T7', 'T8', 'T9'], 1),
    ...drive,
  ];
}

/** Links between posts, and the posts the drive's leads come to. */
export function linksOf(plate: Connected): {
  links: Array<[string, string]>;
  lines: string[];
  text: string;
} {
  const { leads = 3 } = plate;
  const lines = leads === 9 ? ['T1', 'T2', 'T3'] : ['U1', 'V1', 'W1'];
  if (leads === 6)
    return plate.connection === 'star'
      ? {
          lines,
          links: [
            ['W2', 'U2'],
            ['U2', 'V2'],
          ],
          text: say.starOneRowOfLinks,
        }
      : {
          lines,
          links: [
            ['W2', 'U1'],
            ['U2', 'V1'],
            ['V2', 'W1'],
          ],
          text: say.deltaThreeLinksEachStraight,
        };
  if (leads === 9 && plate.joined === 'parallel' && plate.connection === 'delta')
    return {
      lines,
      links: [
        ['T6', 'T7'],
        ['T7', 'T1'],
        ['T4', 'T8'],
        ['T8', 'T2'],
        ['T5', 'T9'],
        ['T9', 'T3'],
      ],
      text: say.lowVoltsHalvesInParallel,
    };
  if (leads === 9)
    return plate.joined === 'parallel'
      ? {
          lines,
          links: [
            ['T4', 'T5'],
            ['T5', 'T6'],
            ['T7', 'T1'],
            ['T8', 'T2'],
            ['T9', 'T3'],
          ],
          text: say.lowVoltsHalvesInParallel2,
        }
      : {
          lines,
          links: [
            ['T4', 'T7'],
            ['T5', 'T8'],
            ['T6', 'T9'],
          ],
          text: say.highVoltsHalvesInSeries,
        };
  return { lines, links: [], text: say.threeLeadsNothingToLink };
}

/** The terminal box with its links for the connection entered. */
export const TerminalBox = drawnWhenChanged(function TerminalBox({ plate }: { plate: StampedPlate }) {
  const palette = usePalette();
  const posts = boardOf(plate);
  const { links, lines, text } = linksOf(plate);
  const at = (name: string): [number, number] => {
    const [, column, row] = present(posts.find(([n]) => n === name));
    return [70 + column * 70, 34 + row * 48];
  };
  const lowest = Math.max(...posts.map(([, , row]) => row));
  const height = 34 + lowest * 48 + 62;
  return (
    <View backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" paddingVertical={10} alignItems="center" testID="terminal-box">
      <Svg width={280} height={height} viewBox={`0 0 280 ${height}`} role="img" aria-label={text}>
        <Rect x={26} y={6} width={228} height={34 + lowest * 48 + 16} stroke={palette.ink} strokeWidth={1.5} fill="none" />
        {links.map(([a, b]) => {
          const [[x1, y1], [x2, y2]] = [at(a), at(b)];
          return <Line key={a + b} x1={x1} y1={y1} x2={x2} y2={y2} stroke={palette.plum} strokeWidth={9} strokeLinecap="round" />;
        })}
        {posts.map(([name]) => {
          const [x, y] = at(name);
          return (
            <G key={name}>
              <Circle cx={x} cy={y} r={9} fill={palette.sheet} stroke={palette.ink} strokeWidth={2} />
              <Text x={x + 10} y={y - 9} fontFamily={fontFamily.mono} fontSize={13} fill={palette.ink}>
                {name}
              </Text>
            </G>
          );
        })}
        {lines.map((name, i) => {
          const [x, y] = at(name);
          return (
            <G key={name}>
              <Line x1={x} y1={y + 9} x2={x} y2={height - 16} stroke={palette.ink} strokeWidth={2} />
              <Text x={x} y={height - 3} textAnchor="middle" fontFamily={fontFamily.mono} fontSize={13} fill={palette.ink}>
                {['U', 'V', 'W'][i]}
              </Text>
            </G>
          );
        })}
      </Svg>
      <Second paddingHorizontal={16} textAlign="center">
        {say.uVWComeFrom({ text })}
      </Second>
    </View>
  );
});
