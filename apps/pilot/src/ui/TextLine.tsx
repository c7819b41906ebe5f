import { View } from '@tamagui/core';
import { useEffect, useRef, useState } from 'react';
import { Pressable, TextInput } from 'react-native';
import { fontFamily, measure } from './palette';
import { Second, Strong } from './text';
import { drawnWhenChanged } from './drawnWhenChanged';
import { usePalette } from './theme';

export interface TextLineProps {
  label: string;
  value: string;
  onChange: (text: string) => void;
  placeholder: string;
  act?: string;
  onAct?: () => void;
  onLeave?: () => void;
  secret?: boolean;
  /** a code: large, in the type of figures, in capitals */
  figures?: boolean;
  /** of several lines, such as a table pasted */
  lines?: number;
  /** stands above the words, where no heading says what they are */
  caption?: string;
  testID?: string;
  actTestID?: string;
}

/** A line of the sheet that takes words, with one act at its end. */
export const TextLine = drawnWhenChanged(function TextLine({
  label,
  value,
  onChange,
  placeholder,
  act,
  onAct,
  onLeave,
  secret = false,
  figures = false,
  lines,
  caption,
  testID,
  actTestID,
}: TextLineProps) {
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
          onBlur={onLeave}
          placeholder={placeholder}
          placeholderTextColor={palette.soft}
          secureTextEntry={secret}
          {...(figures && { autoCapitalize: 'characters' as const, autoComplete: 'off' as const, autoCorrect: false, spellCheck: false })}
          {...(lines ? { multiline: true, numberOfLines: lines } : {})}
          maxLength={lines ? 4000 : 400}
          style={{
            flex: 1,
            minWidth: 0,
            fontSize: figures ? 23 : 17,
            fontFamily: figures ? fontFamily.mono : fontFamily.text,
            color: palette.ink,
            paddingHorizontal: 10,
            ...(lines ? { paddingVertical: 10 } : {}),
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

/** Free text is kept once nobody has typed for this long, ms; leaving the line keeps it at once. */
const keptAfter = 800;

/** A line of free text that is kept as it is typed, as figures are: by a pause, by leaving it, by leaving the page. */
export function KeptTextLine({
  value,
  onKeep,
  ...line
}: Omit<TextLineProps, 'onChange' | 'act' | 'onAct' | 'onLeave' | 'actTestID'> & { onKeep: (text: string) => void }) {
  const [text, setText] = useState<string | null>(null);
  const last = useRef({ text, value, onKeep });
  last.current = { text, value, onKeep };
  const keep = () => {
    const { text: typed, value: kept, onKeep: give } = last.current;
    if (typed !== null && typed.trim() !== kept) give(typed.trim());
  };
  useEffect(() => {
    if (text === null) return;
    const timer = setTimeout(keep, keptAfter);
    return () => clearTimeout(timer);
  }, [text]);
  useEffect(() => keep, []);
  return <TextLine {...line} value={text ?? value} onChange={setText} onAct={keep} onLeave={keep} />;
}
