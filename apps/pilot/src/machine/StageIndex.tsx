import type { MachineModel, StagePath } from '@yare/commissioning';
import { View } from '@tamagui/core';
import { Link } from 'expo-router';
import { Fragment } from 'react';
import { Pressable } from 'react-native';
import { say } from '@yare/words/pages/frame';
import { useStandings } from '../data/standings';
import { measure } from '../ui/palette';
import { ProofShape } from '../ui/shapes';
import { drawnWhenChanged } from '../ui/drawnWhenChanged';
import { Body, Mono, Second, Strong } from '../ui/text';
import { usePalette } from '../ui/theme';

/** The narrow left index of a wide screen: the plant, the machine, its stages with how far each is. */
export const StageIndex = drawnWhenChanged(function StageIndex({ model, stage }: { model: MachineModel; stage?: StagePath }) {
  const palette = usePalette();
  const { machine } = model;
  const standings = useStandings(model);
  return (
    <View width={measure.index} backgroundColor="$paper" flexShrink={0} role="navigation" overflow="scroll">
      <Link href="/" asChild>
        <Pressable role="link" style={{ minHeight: 48, justifyContent: 'center', paddingHorizontal: 16 }}>
          <Body color="$plum">‹ {machine.site}</Body>
        </Pressable>
      </Link>
      <Link href={`/m/${machine.tag}` as '/'} asChild>
        <Pressable role="link" style={{ paddingHorizontal: 16, paddingBottom: 10, borderBottomWidth: 1, borderColor: palette.rule2 }}>
          <Mono color="$plum" fontFamily="$monoBold" fontSize={16} lineHeight={22}>
            {machine.tag}
          </Mono>
          <Strong>{machine.name}</Strong>
          <Second>{machine.area}</Second>
        </Pressable>
      </Link>
      {standings.map(({ stage: s, proof, text }, i) => {
        const here = s.path === stage;
        const firstTool = s.number === null && standings[i - 1]?.stage.number !== null;
        return (
          <Fragment key={s.path}>
            {firstTool && <View height={1} backgroundColor="$rule2" marginVertical={5} />}
            <Link href={`/m/${machine.tag}/${s.path}` as '/'} asChild>
              <Pressable
                role="link"
                aria-current={here ? 'page' : undefined}
                aria-label={`${s.name}: ${text}`}
                style={{
                  flexDirection: 'row',
                  alignItems: 'center',
                  minHeight: 44,
                  paddingHorizontal: 8,
                  gap: 10,
                  backgroundColor: here ? palette.sheet : 'transparent',
                  borderLeftWidth: 3,
                  borderColor: here ? palette.plum : 'transparent',
                }}
              >
                {s.number === null ? <View width={20} /> : <ProofShape proof={proof} />}
                <View flex={1}>{here ? <Strong>{s.name}</Strong> : <Body>{s.name}</Body>}</View>
                <Mono color="$soft" paddingRight={8}>
                  {s.key.toUpperCase()}
                </Mono>
              </Pressable>
            </Link>
          </Fragment>
        );
      })}
      <View flex={1} />
      <View padding={12} paddingLeft={16}>
        <Second>{say.listsTheKeys}</Second>
      </View>
    </View>
  );
});
