import { View } from '@tamagui/core';
import { Pressable, TextInput } from 'react-native';
import { fontFamily, measure } from './palette';
import { Second, Strong } from './text';
import { drawnWhenChanged } from './drawnWhenChanged';
import { usePalette } from './theme';

/** A line of the sheet that takes words, with one act at its end. */
export const TextLine = drawnWhenChanged(function TextLine({
  label,
  value,
  onChange,
  placeholder,
  act,
  onAct,
  secret = false,
  figures = false,
  caption,
  testID,
  actTestID,
}: {
  label: string;
  value: string;
  onChange: (text: string) => void;
  placeholder: string;
  act?: string;
  onAct?: () => void;
  secret?: boolean;
  /** a code: large, in the type of figures, in capitals */
  figures?: boolean;
  /** stands above the words, where no heading says what they are */
  caption?: string;
  testID?: string;
  actTestID?: string;
}) {
  const palette = usePalette();
  return (
    <View flexDirection="row" backgroundColor="$sheet" borderBottomWidth={1} borderColor="$rule" minHeight={measure.row} alignItems="stretch">
      <View width={measure.margin} borderRightWidth={1} borderColor="$plum" flexShrink={0} />
      <View flex={1} minWidth={0}>
        {caption !== undefined && (
          <View paddingLeft={10} paddingTop={7} aria-hidden>
            <Second>{caption}</Second>
          </View>
        )}
        <TextInput
          testID={testID}
          aria-label={label}
          value={value}
          onChangeText={onChange}
          onSubmitEditing={onAct}
          placeholder={placeholder}
          placeholderTextColor={palette.soft}
          secureTextEntry={secret}
          {...(figures && { autoCapitalize: 'characters' as const, autoComplete: 'off' as const, autoCorrect: false, spellCheck: false })}
          maxLength={400}
          style={{
            flex: 1,
            minWidth: 0,
            fontSize: figures ? 23 : 17,
            fontFamily: figures ? fontFamily.mono : fontFamily.text,
            color: palette.ink,
            paddingHorizontal: 10,
            minHeight: caption === undefined ? measure.row : 40,
          }}
        />
      </View>
      {act && onAct && (
        <Pressable
          role="button"
          aria-label={act}
          testID={actTestID}
          onPress={onAct}
          style={{ minWidth: 84, paddingHorizontal: 12, alignItems: 'center', justifyContent: 'center' }}
        >
          <Strong color="$plum">{act}</Strong>
        </Pressable>
      )}
    </View>
  );
});
