import { View } from '@tamagui/core';
import { useLayoutEffect } from 'react';
import { Pressable } from 'react-native';
import { measure } from './palette';
import { drawnWhenChanged } from './drawnWhenChanged';
import { Mono, Strong } from './text';
import { usePalette, useWide } from './theme';

export interface Act {
  text: string;
  onPress: () => void;
  /** the key that does it on a wide screen, as `KeyboardEvent.key` in lower case */
  hotkey?: string;
  main?: boolean;
  disabled?: boolean;
  /** stops something: nothing may come before it */
  atOnce?: boolean;
  testID?: string;
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** Listens for single keys while nothing is being typed, from the first frame that shows what they do. */
export function useHotkeys(acts: ReadonlyArray<{ hotkey?: string; onPress: () => void; disabled?: boolean }>): void {
  useLayoutEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.repeat || typing(event.target)) return;
      const act = acts.find((a) => a.hotkey === event.key.toLowerCase() && !a.disabled);
      if (!act) return;
      event.preventDefault();
      act.onPress();
    };
    window.addEventListener('keydown', onKey);
    return () => window.removeEventListener('keydown', onKey);
  }, [acts]);
}

/** What the thumb reaches: the acts of the screen, the main one filled. */
export function ActionBar({ acts }: { acts: Act[] }) {
  useHotkeys(acts);
  return (
    <View flexDirection="row" height={measure.bar} borderTopWidth={2} borderColor="$ink" backgroundColor="$sheet" flexShrink={0}>
      {acts.map((a) => (
        <ActButton key={a.text} {...a} {...(a.atOnce && { onNow: a.onPress })} />
      ))}
    </View>
  );
}

const ActButton = drawnWhenChanged(function ActButton(a: Act & { onNow?: () => void }) {
  const palette = usePalette();
  const wide = useWide();
  return (
    <Pressable
      testID={a.testID}
      role="button"
      // what stops something acts when the finger comes down, and again when a touch was too short for that to be told
      onPress={a.onNow ?? a.onPress}
      onPressIn={a.onNow}
      disabled={a.disabled}
      aria-disabled={a.disabled}
      style={({ pressed }) => ({
        opacity: pressed ? 0.6 : 1,
        flex: a.main ? 3 : 2,
        alignItems: 'center',
        justifyContent: 'center',
        flexDirection: 'row',
        gap: 8,
        paddingHorizontal: 6,
        backgroundColor: a.main && !a.disabled ? palette.plumFill : 'transparent',
        borderLeftWidth: a.main ? 0 : 1,
        borderColor: palette.rule,
      })}
    >
      <Strong fontSize={17} textAlign="center" color={a.disabled ? '$soft' : a.main ? '$onPlum' : '$plum'}>
        {a.text}
      </Strong>
      {wide && a.hotkey && (
        <View borderWidth={1} borderColor={a.main && !a.disabled ? '$onPlum' : '$rule2'} paddingHorizontal={5}>
          <Mono color={a.main && !a.disabled ? '$onPlum' : '$soft'}>{a.hotkey === ' ' ? 'Space' : a.hotkey.toUpperCase()}</Mono>
        </View>
      )}
    </Pressable>
  );
});
