import { HandSpeed, InputJob, LiveZeroAction, SpeedSource, UpDownKeeps } from '../drive';
import { analogueSpeed, liveZeroLost } from './analogue';
import type { Contacts } from './contacts';
import type { AnalogueScale, CommandInputs, CommandMemory, CommandMode, CommandSettings, SpeedGiver } from './command';
import type { StartTaken } from './resolve';

/** The speed in force, Hz, before limits. */
export interface SpeedTaken {
  giver: SpeedGiver;
  preset: number;
  /** null when the process gives it */
  asked: number | null;
  /** its sign is not turned round by a reverse contact: a link says its own */
  givesDirection: boolean;
  /** its live zero is lost and that matters */
  lost: boolean;
  lastReference: number;
  upDown: number;
}

/** Up and down contacts move the speed while it runs; a stop forgets it or keeps it. */
function upDownOf(s: CommandSettings, c: Contacts, before: CommandMemory, present: number, dt: number): number {
  const { minimumFrequency, maximumFrequency } = s.limits;
  if (!before.ran) return s.upDownKeeps === UpDownKeeps.keeps ? before.upDown : minimumFrequency;
  // it begins where the ramp stands, so that getting the speed is no step
  const from = before.speed === 'up and down' ? before.upDown : Math.abs(present);
  const way = (c.closed(InputJob.faster) ? 1 : 0) - (c.closed(InputJob.slower) ? 1 : 0);
  return Math.min(maximumFrequency, Math.max(minimumFrequency, from + way * s.upDownRate * dt));
}

/** The source in force by its priority: jog, hand, a preset that is selected, then the pair's own. */
function sourceOf(s: CommandSettings, mode: CommandMode, start: StartTaken, preset: number): SpeedSource | 'jog' | 'preset' {
  if (start.giver === 'jog contact') return 'jog';
  if (mode === 'hand') return s.handSpeed === HandSpeed.secondAnalogue ? SpeedSource.secondAnalogue : SpeedSource.keypad;
  if (preset > 0) return 'preset';
  return mode === 'local' ? s.local.speed : s.remote.speed;
}

/** A speed, and what is remembered of it. */
const taken = (giver: SpeedGiver, asked: number | null, before: CommandMemory, lost = false, lastReference = before.lastReference): SpeedTaken => ({
  giver,
  preset: 0,
  asked,
  givesDirection: false,
  lost,
  lastReference,
  upDown: before.upDown,
});

/** The speed of a signal; a lost one gives the last good speed where that is set. */
function signalSpeed(s: CommandSettings, giver: SpeedGiver, scale: AnalogueScale, share: number, before: CommandMemory): SpeedTaken {
  const gone = s.onLiveZeroLoss !== LiveZeroAction.ignore && liveZeroLost(scale.signal, share);
  const asked = gone && s.onLiveZeroLoss === LiveZeroAction.holdLast ? before.lastReference : analogueSpeed(scale, share);
  return taken(giver, asked, before, gone, gone ? before.lastReference : asked);
}

/** What the source in force asks for, and the memory that goes with it. */
export function speedOf(
  s: CommandSettings,
  i: CommandInputs,
  c: Contacts,
  mode: CommandMode,
  start: StartTaken,
  before: CommandMemory,
  dt: number,
): SpeedTaken {
  const preset = mode === 'hand' ? 0 : c.preset;
  const source = sourceOf(s, mode, start, preset);
  switch (source) {
    case 'jog':
      return taken('jog', s.jogSpeed, before);
    case 'preset': {
      const speed = taken('preset', s.presets[preset - 1] ?? 0, before);
      speed.preset = preset;
      return speed;
    }
    case SpeedSource.analogue:
      return signalSpeed(s, 'analogue', s.analogue, i.analogue, before);
    case SpeedSource.secondAnalogue:
      return signalSpeed(s, 'second analogue', s.second, i.second, before);
    case SpeedSource.process:
      return taken('process', null, before, s.onLiveZeroLoss !== LiveZeroAction.ignore && liveZeroLost(s.analogue.signal, i.analogue));
    case SpeedSource.link: {
      const speed = taken('link', i.link.alive ? i.link.reference : before.lastReference, before, false, i.link.reference);
      speed.givesDirection = true;
      return speed;
    }
    case SpeedSource.upDown: {
      const speed = taken('up and down', null, before);
      speed.upDown = upDownOf(s, c, before, i.present, dt);
      speed.asked = speed.upDown;
      return speed;
    }
    default:
      return taken('keypad', s.keypadSpeed, before);
  }
}
