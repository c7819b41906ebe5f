import { View } from '@tamagui/core';
import { Pressable } from 'react-native';
import { say } from '@yare/words/pages/ui';
import { LinkText, Second, Strong } from './text';

/** A page with nothing on it yet, or with what went wrong and the way out. */
export function Waiting({ error, onRetry }: { error?: string; onRetry?: () => void }) {
  return (
    <View flex={1} backgroundColor="$sheet" padding={24} gap={10} justifyContent="center" alignItems="center" role={error ? 'alert' : 'status'}>
      {error ? (
        <>
          <Strong textAlign="center">{error}</Strong>
          <Pressable role="button" style={{ minHeight: 48, justifyContent: 'center' }} onPress={onRetry}>
            <LinkText>{say.tryAgain}</LinkText>
          </Pressable>
        </>
      ) : (
        <Second>{say.readingTheSheet}</Second>
      )}
    </View>
  );
}
