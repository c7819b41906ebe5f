import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import { say } from '@yare/words/pages/ui';
import { drawnWhenChanged } from './drawnWhenChanged';
import { Margin } from './sheet';
import { Body, Mono, Second, Strong, Title } from './text';
import { useWide } from './theme';

/** The head of a stage: its number in the margin, the machine, its name. */
export const StageHead = drawnWhenChanged(function StageHead({
  number,
  tag,
  name,
  title,
  second,
  onMachine,
}: {
  number?: number;
  tag?: string;
  name?: string;
  title: string;
  second?: string;
  /** the machine's name leads there */
  onMachine?: () => void;
}) {
  const wide = useWide();
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule2">
      <Margin justifyContent="flex-start" paddingTop={wide ? 16 : 15}>
        {number !== undefined && <Mono color="$soft">{number}</Mono>}
      </Margin>
      <View flex={1} paddingHorizontal={10} paddingVertical={12}>
        {!wide && tag && (
          <Pressable
            role="link"
            aria-label={onMachine ? say.workPlanOf({ tag, name: name ?? '' }) : undefined}
            onPress={onMachine}
            disabled={!onMachine}
            testID="to-plan"
            style={{ minHeight: 48, marginTop: -12, justifyContent: 'center' }}
          >
            <Body numberOfLines={1}>
              <Strong color="$plum" fontFamily="$monoBold">
                {onMachine && '‹ '}
                {tag}
              </Strong>{' '}
              {name}
            </Body>
          </Pressable>
        )}
        <Title aria-level={1} tabIndex={-1} outlineWidth={0} id="title">
          {title}
        </Title>
        {second && <Second color="$plum">{second}</Second>}
      </View>
    </View>
  );
});
