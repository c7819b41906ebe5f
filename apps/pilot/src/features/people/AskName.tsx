import { View } from '@tamagui/core';
import { useState, type ReactNode } from 'react';
import { TextInput } from 'react-native';
import { say } from '@yare/words/pages/people';
import { useDevice } from '../../data/device';
import { ActionBar } from '../../ui/bar';
import { fontFamily } from '../../ui/palette';
import { Note, SheetFoot } from '../../ui/sheet';
import { StageHead } from '../../ui/StageHead';
import { usePalette } from '../../ui/theme';

/** Asks once who works on this device, since every edit, write and run carries a name. */
export function AskName({ children }: { children: ReactNode }) {
  const author = useDevice((d) => d.author);
  const setAuthor = useDevice((d) => d.setAuthor);
  const [name, setName] = useState('');
  const palette = usePalette();
  if (author) return children;
  const ready = name.trim().length > 0;
  const take = () => setAuthor(name);
  return (
    <View flex={1} backgroundColor="$paper" alignItems="center">
      <View flex={1} width="100%" maxWidth={720} backgroundColor="$sheet">
        <StageHead title={say.whoIsAtThisDevice} />
        <Note>{say.yourNameGoesWithEvery}</Note>
        <TextInput
          testID="author"
          aria-label={say.yourName}
          value={name}
          onChangeText={setName}
          onSubmitEditing={() => ready && take()}
          placeholder={say.nameAsColleaguesKnowIt}
          placeholderTextColor={palette.soft}
          maxLength={60}
          autoComplete="name"
          style={{
            height: 64,
            fontSize: 20,
            fontFamily: fontFamily.text,
            color: palette.ink,
            paddingHorizontal: 16,
            marginLeft: 42,
            borderLeftWidth: 1,
            borderBottomWidth: 1,
            borderColor: palette.plum,
          }}
        />
        <SheetFoot />
        <ActionBar acts={[{ text: say.useThisName, main: true, disabled: !ready, onPress: take, testID: 'author-set' }]} />
      </View>
    </View>
  );
}
