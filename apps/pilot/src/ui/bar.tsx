import { View } from '@tamagui/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { Pressable, type GestureResponderEvent } from 'react-native';
import { say } from '@yare/words/pages/ui';
import { useHotkeys, type KeyAct } from './keys';
import { keepRelease } from './ownRelease';
import { measure } from './palette';
import { drawnWhenChanged } from './drawnWhenChanged';
import { Mono, Strong } from './text';
import { usePalette, useWide } from './theme';

export interface Act extends KeyAct {
  text: string;
  main?: boolean;
  /** stops something: nothing may come before it */
  atOnce?: boolean;
  /** changes a machine: has to be held for {@link holdFor}; on a wide screen by the space bar */
  held?: boolean;
  testID?: string;
}

/** A deliberate act is held for this long, ms. */
export const holdFor = 1000;

/** What the thumb reaches: the acts of the screen, the main one filled. */
export function ActionBar({ acts }: { acts: Act[] }) {
  useHotkeys(acts);
  return (
    <View flexDirection="row" height={measure.bar} borderTopWidth={2} borderColor="$ink" backgroundColor="$sheet" flexShrink={0}>
      {acts.map((a) => (a.held ? <HeldButton key={a.text} {...a} /> : <ActButton key={a.text} {...a} {...(a.atOnce && { onNow: a.onPress })} />))}
    </View>
  );
}

/** Whether a press began by a key on what has the focus. */
const isKey = ({ nativeEvent }: GestureResponderEvent): boolean => (nativeEvent as unknown as Event).type === 'keydown';

/** What the space bar works by itself. */
const takesSpace = 'input, textarea, button, a, [role=button], [role=checkbox], [role=radio], [role=switch], [role=link]';

/** An act that is done once it was held long enough; let go before, nothing happens. */
function HeldButton(a: Act) {
  const [holding, setHolding] = useState(false);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const act = useRef(a.onPress);
  act.current = a.onPress;
  const { disabled } = a;
  const letGo = useCallback(() => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    setHolding(false);
  }, []);
  const press = useCallback(
    (byKey = false) => {
      if (timer.current || disabled) return;
      setHolding(true);
      timer.current = setTimeout(() => {
        letGo();
        if (!byKey) keepRelease();
        act.current();
      }, holdFor);
    },
    [disabled, letGo],
  );
  useEffect(() => {
    // a thing that takes the space bar itself has it
    const ours = (event: KeyboardEvent) => event.key === ' ' && !disabled && !(event.target instanceof Element && event.target.closest(takesSpace));
    const down = (event: KeyboardEvent) => {
      if (!ours(event)) return;
      event.preventDefault();
      if (!event.repeat) press(true);
    };
    const up = (event: KeyboardEvent) => event.key === ' ' && letGo();
    window.addEventListener('keydown', down);
    window.addEventListener('keyup', up);
    window.addEventListener('blur', letGo);
    return () => {
      window.removeEventListener('keydown', down);
      window.removeEventListener('keyup', up);
      window.removeEventListener('blur', letGo);
    };
  }, [disabled, press, letGo]);
  useEffect(() => letGo, [letGo]);
  const { onPress: _, ...shown } = a;
  return <BarButton {...shown} text={holding ? say.keepHolding : a.text} hotkey=" " onPressIn={(event) => press(isKey(event))} onPressOut={letGo} />;
}

const ActButton = drawnWhenChanged(function ActButton({ onNow, ...a }: Act & { onNow?: () => void }) {
  // what stops something acts when the finger comes down, and again when a touch was too short for that to be told
  return <BarButton {...a} onPress={onNow ?? a.onPress} {...(onNow && { onPressIn: onNow })} />;
});

function BarButton(a: Omit<Act, 'onPress'> & { onPress?: () => void; onPressIn?: (event: GestureResponderEvent) => void; onPressOut?: () => void }) {
  const palette = usePalette();
  const wide = useWide();
  return (
    <Pressable
      testID={a.testID}
      {...(a.atOnce && { dataSet: { atOnce: true } })}
      role="button"
      onPress={a.onPress}
      onPressIn={a.onPressIn}
      onPressOut={a.onPressOut}
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
          <Mono color={a.main && !a.disabled ? '$onPlum' : '$soft'}>{a.hotkey === ' ' ? say.space : a.hotkey.toUpperCase()}</Mono>
        </View>
      )}
    </Pressable>
  );
}
