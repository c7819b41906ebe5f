import { View } from '@tamagui/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import { live, type TuneKind } from '../data/live';
import { Mono, Second, Strong } from '../ui/text';
import { usePalette, useWide } from '../ui/theme';

/** Pressing shorter than this starts nothing, ms. */
const armTime = 700;

export interface HoldButtonProps {
  tag: string;
  frequency: number;
  /** why it cannot be pressed now; null when it can */
  blocked: string | null;
  turning: boolean;
  /** measure the motor while it is held, instead of running at the frequency */
  tune?: TuneKind;
}

/** Hold to run. Starts only after being held a moment; letting go, sliding off, a second finger or anything that hides the page stops it. */
export function HoldButton({ tag, frequency, blocked, turning, tune }: HoldButtonProps) {
  const palette = usePalette();
  const wide = useWide();
  const node = useRef<HTMLElement | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const [phase, setPhase] = useState<'idle' | 'arming' | 'holding'>('idle');

  const up = useCallback((why?: string) => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    live.letGo(why);
    setPhase('idle');
  }, []);

  const down = useCallback(() => {
    if (blocked || timer.current || live.isHolding) return;
    setPhase('arming');
    timer.current = setTimeout(() => setPhase(live.hold(tag, frequency, tune) ? 'holding' : 'idle'), armTime);
  }, [blocked, tag, frequency, tune]);

  useEffect(() => () => up('the page was left'), [up]);

  useEffect(() => {
    const el = node.current;
    if (!el) return;
    const onDown = (event: PointerEvent) => {
      if (!event.isPrimary || event.button !== 0) return up('a second finger touched the screen');
      event.preventDefault();
      el.setPointerCapture(event.pointerId);
      down();
    };
    const onMove = (event: PointerEvent) => {
      if (!timer.current) return;
      const box = el.getBoundingClientRect();
      const off = event.clientX < box.left || event.clientX > box.right || event.clientY < box.top - 20 || event.clientY > box.bottom + 20;
      if (off) up('the finger slid off');
    };
    const onUp = () => up();
    const noMenu = (event: Event) => event.preventDefault();
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.key !== ' ') return;
      event.preventDefault();
      if (!event.repeat) down();
    };
    const onKeyUp = (event: KeyboardEvent) => {
      if (event.key === ' ') up();
    };
    const gone = () => up('the window lost the focus');
    const onElement: Array<[string, (event: never) => void]> = [
      ['pointerdown', onDown],
      ['pointermove', onMove],
      ['pointerup', onUp],
      ['pointercancel', onUp],
      ['lostpointercapture', onUp],
      ['contextmenu', noMenu],
      ['keydown', onKeyDown],
      ['keyup', onKeyUp],
      ['blur', gone],
    ];
    const listeners = [
      ...onElement.map(([type, run]) => [el, type, run] as const),
      [window, 'blur', gone] as const,
      [document, 'visibilitychange', gone] as const,
    ];
    for (const [target, type, run] of listeners) target.addEventListener(type, run as EventListener);
    return () => {
      for (const [target, type, run] of listeners) target.removeEventListener(type, run as EventListener);
    };
  }, [down, up]);

  const words =
    blocked ??
    (phase === 'arming'
      ? 'Keep holding…'
      : phase === 'holding'
        ? 'Let go to stop'
        : turning
          ? 'Stopping'
          : tune
            ? 'Hold to measure'
            : `Hold to run at ${frequency} Hz`);
  return (
    <View
      ref={(n: unknown) => {
        node.current = n as HTMLElement | null;
      }}
      role="button"
      tabIndex={0}
      aria-disabled={blocked !== null}
      testID="hold"
      height={112}
      alignItems="center"
      justifyContent="center"
      flexShrink={0}
      borderTopWidth={2}
      borderColor="$ink"
      overflow="hidden"
      backgroundColor={blocked ? '$paper' : phase === 'holding' ? '$plum' : '$plumFill'}
      style={{ touchAction: 'none', userSelect: 'none', cursor: blocked ? 'not-allowed' : 'pointer', WebkitTouchCallout: 'none' } as object}
    >
      <Strong
        fontSize={21}
        lineHeight={28}
        textAlign="center"
        paddingHorizontal={16}
        color={blocked ? '$soft' : phase === 'holding' ? '$sheet' : '$onPlum'}
      >
        {words}
      </Strong>
      {!blocked && phase === 'idle' && (
        <View flexDirection="row" gap={8} alignItems="center" paddingTop={4}>
          <Second color="$onPlum">{turning ? 'the motor still turns' : 'a short touch starts nothing; let go and it ramps down'}</Second>
          {wide && (
            <View borderWidth={1} borderColor={palette.onPlum as never} paddingHorizontal={5}>
              <Mono color="$onPlum">Space</Mono>
            </View>
          )}
        </View>
      )}
    </View>
  );
}
