import { View } from '@tamagui/core';
import { useCallback, useEffect, useRef, useState } from 'react';
import type { RunGuide } from '@yare/contract';
import { say } from '@yare/words/pages/frame';
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
  /** what the run is led through while it is held */
  guide?: RunGuide;
}

type Phase = 'idle' | 'arming' | 'holding';

/** Whether a pointer has left the button; a finger's width above and below still counts as on it. */
const isOff = (el: HTMLElement, event: PointerEvent) => {
  const box = el.getBoundingClientRect();
  return event.clientX < box.left || event.clientX > box.right || event.clientY < box.top - 20 || event.clientY > box.bottom + 20;
};

/** Everything that may press the button or let it go, listened to; returns what stops listening. */
function listen(el: HTMLElement, down: () => void, up: (why?: string) => void, arming: () => boolean): () => void {
  const heard: AbortController = new AbortController();
  const on = { signal: heard.signal };
  el.addEventListener(
    'pointerdown',
    (event) => {
      if (!event.isPrimary || event.button !== 0) return up(say.aSecondFingerTouchedThe);
      event.preventDefault();
      el.setPointerCapture(event.pointerId);
      down();
    },
    on,
  );
  el.addEventListener('pointermove', (event) => arming() && isOff(el, event) && up(say.theFingerSlidOff), on);
  el.addEventListener('pointerup', () => up(), on);
  el.addEventListener('pointercancel', () => up(), on);
  el.addEventListener('lostpointercapture', () => up(), on);
  el.addEventListener('contextmenu', (event) => event.preventDefault(), on);
  el.addEventListener(
    'keydown',
    (event) => {
      if (event.key !== ' ') return;
      event.preventDefault();
      if (!event.repeat) down();
    },
    on,
  );
  el.addEventListener('keyup', (event) => event.key === ' ' && up(), on);
  const gone = () => up(say.theWindowLostTheFocus);
  el.addEventListener('blur', gone, on);
  window.addEventListener('blur', gone, on);
  document.addEventListener('visibilitychange', gone, on);
  return () => heard.abort();
}

/** The hand on the button: pressed a moment before anything starts, let go by whatever takes the hand or the page away. */
function useHold({ tag, frequency, blocked, tune, guide }: HoldButtonProps) {
  const node = useRef<HTMLElement | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout> | null>(null);
  const [phase, setPhase] = useState<Phase>('idle');
  const up = useCallback((why?: string) => {
    if (timer.current) clearTimeout(timer.current);
    timer.current = null;
    live.letGo(why);
    setPhase('idle');
  }, []);
  const down = useCallback(() => {
    if (blocked || timer.current || live.isHolding) return;
    setPhase('arming');
    timer.current = setTimeout(() => setPhase(live.hold(tag, frequency, tune, guide) ? 'holding' : 'idle'), armTime);
  }, [blocked, tag, frequency, tune, guide]);
  useEffect(() => () => up(say.thePageWasLeft), [up]);
  useEffect(() => (node.current ? listen(node.current, down, up, () => timer.current !== null) : undefined), [down, up]);
  return { node, phase };
}

/** What the button says. */
function holdText({ blocked, turning, tune, guide, frequency }: HoldButtonProps, phase: Phase): string {
  if (blocked) return blocked;
  if (phase === 'arming') return say.keepHolding;
  if (phase === 'holding') return say.letGoToStop;
  if (turning) return say.stopping;
  if (guide) return guide.kind === 'speeds' ? say.holdToRunThroughThe : say.holdToTestAtHz({ frequency });
  return tune ? say.holdToMeasure : say.holdToRunAtHz({ frequency });
}

/** Hold to run. Starts only after being held a moment; letting go, sliding off, a second finger or anything that hides the page stops it. */
export function HoldButton(props: HoldButtonProps) {
  const { blocked, turning } = props;
  const palette = usePalette();
  const wide = useWide();
  const { node, phase } = useHold(props);
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
        {holdText(props, phase)}
      </Strong>
      {!blocked && phase === 'idle' && (
        <View flexDirection="row" gap={8} alignItems="center" paddingTop={4}>
          <Second color="$onPlum">{turning ? say.theMotorStillTurns : say.aShortTouchStartsNothing}</Second>
          {wide && (
            <View borderWidth={1} borderColor={palette.onPlum as never} paddingHorizontal={5}>
              <Mono color="$onPlum">{say.space}</Mono>
            </View>
          )}
        </View>
      )}
    </View>
  );
}
