import { View } from '@tamagui/core';
import { Link } from 'expo-router';
import { say } from '@yare/words/pages/not-found';
import { LinkText, Strong } from '../../ui/text';

/** An address that leads nowhere. */
export function NotFoundScreen() {
  return (
    <View flex={1} backgroundColor="$sheet" alignItems="center" justifyContent="center" gap={16} padding={24}>
      <Strong>{say.thereIsNoSuchPage}</Strong>
      <Link href="/">
        <LinkText>{say.goToThePlant}</LinkText>
      </Link>
    </View>
  );
}
