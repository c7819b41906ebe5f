import Svg, { Circle, G, Path } from 'react-native-svg';
import { say } from '@yare/words/pages/ui';
import { usePalette } from './theme';

export type MachineState = 'ready' | 'running' | 'stopping' | 'asleep' | 'held' | 'tripped' | 'no link';

/** The state's word, always beside its shape. */
export const stateWord: Record<MachineState, string> = {
  ready: say.ready,
  running: say.running,
  stopping: say.stopping,
  asleep: say.asleep,
  held: say.held,
  tripped: say.tripped,
  'no link': say.noLink,
};

/** Ring, disc with a forward mark, crescent, bars, triangle, broken ring: each state by shape as well as colour (IEC 60073). */
export function StateShape({ state, size = 24 }: { state: MachineState; size?: number }) {
  const palette = usePalette();
  const colour = {
    ready: palette.green,
    running: palette.green,
    stopping: palette.green,
    asleep: palette.green,
    held: palette.yellow,
    tripped: palette.red,
    'no link': palette.soft,
  }[state];
  return (
    <Svg width={size} height={size} viewBox="0 0 24 24" aria-hidden>
      {state === 'ready' && <Circle cx={12} cy={12} r={9} stroke={colour} strokeWidth={3} fill="none" />}
      {(state === 'running' || state === 'stopping') && (
        <G>
          <Circle cx={12} cy={12} r={11} fill={colour} />
          {state === 'running' ? <Path d="M9 6.5 L17.5 12 L9 17.5 Z" fill={palette.sheet} /> : <Path d="M6 9 L18 9 L12 17 Z" fill={palette.sheet} />}
        </G>
      )}
      {state === 'asleep' && <Path d="M15 3 A9.5 9.5 0 1 0 21 16.5 A8 8 0 0 1 15 3 Z" fill={colour} />}
      {state === 'held' && <Path d="M7 4 V20 M17 4 V20" stroke={colour} strokeWidth={4} />}
      {state === 'tripped' && <Path d="M12 2 L23 21 H1 Z" fill={colour} />}
      {state === 'no link' && <Path d="M12 3 A9 9 0 0 1 21 12 M12 21 A9 9 0 0 1 3 12" stroke={colour} strokeWidth={3} fill="none" />}
    </Svg>
  );
}

export type ProofState = 'proved' | 'not yet' | 'stale' | 'act' | 'not needed';

/** Tick, small ring, diamond, dash; nothing for what is not needed. */
export function ProofShape({ proof, size = 20 }: { proof: ProofState; size?: number }) {
  const palette = usePalette();
  return (
    <Svg width={size} height={size} viewBox="0 0 20 20" aria-hidden>
      {proof === 'proved' && <Path d="M3.5 10.5 L8 15 L16.5 5.5" stroke={palette.green} strokeWidth={3} fill="none" />}
      {proof === 'not yet' && <Circle cx={10} cy={10} r={5.5} stroke={palette.soft} strokeWidth={1.6} fill="none" />}
      {proof === 'stale' && <Path d="M10 3 L17 10 L10 17 L3 10 Z" stroke={palette.yellow} strokeWidth={2} fill="none" />}
      {proof === 'act' && <Path d="M4 10 H16" stroke={palette.blue} strokeWidth={3} />}
    </Svg>
  );
}

export function WarningShape({ colour, size = 20 }: { colour: string; size?: number }) {
  const palette = usePalette();
  return (
    <Svg width={size} height={size} viewBox="0 0 20 20" aria-hidden>
      <Path d="M10 1.5 L19.5 18 H0.5 Z" fill={colour} />
      <Path d="M10 7 V12.5 M10 14.2 V16.4" stroke={palette.sheet} strokeWidth={2} />
    </Svg>
  );
}
