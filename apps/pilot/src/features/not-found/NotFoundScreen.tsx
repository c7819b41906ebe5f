import { View } from '@tamagui/core';
import { Link } from 'expo-router';
import { LinkText, Strong } from '../../ui/text';

/** An address that leads nowhere. */
export function NotFoundScreen() {
  return (
    <View flex={1} backgroundColor="$sheet" alignItems="center" justifyContent="center" gap={16} padding={24}>
      <Strong>There is no such page.</Strong>
      <Link href="/">
        <LinkText>Go to the plant</LinkText>
      </Link>
    </View>
  );
}
