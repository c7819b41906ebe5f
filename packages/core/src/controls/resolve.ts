import { clampReference, InputJob, limitedBy, LiveZeroAction, StartContact, StartSource, StopKey, SwitchOver } from '../drive';
import { Contacts } from './contacts';
import { losersOf } from './losers';
import { stepRestarts, type RestartState } from './restarts';
import { speedOf, type SpeedTaken } from './speed';
import type { CommandInputs, CommandMemory, CommandMode, CommandSettings, HoldBack, Lost, Resolution, StartGiver } from './command';

/** Who is asked for a start in the mode in force, and whether it is given. */
export interface StartTaken {
  giver: StartGiver;
  input: number | null;
  asks: boolean;
  direction: 1 | -1;
  /** run forward and run reverse are closed together */
  both: boolean;
}

function modeOf(c: Contacts): CommandMode {
  if (c.selector) {
    const [hand, auto] = [c.closed(InputJob.hand), c.closed(InputJob.auto)];
    if (hand === auto) return 'off';
    if (hand) return 'hand';
  }
  return c.closed(InputJob.local) ? 'local' : 'remote';
}

/** Buttons: what they latch stays until a stop opens. A button that was closed before anybody could press it now latches nothing. */
function latchOf(i: CommandInputs, c: Contacts, before: CommandMemory): -1 | 0 | 1 {
  if (c.stopped || !i.torqueAllowed || i.borrowed) return 0;
  if (i.trip !== null) return before.latched;
  if (c.pressed(InputJob.startPulse)) return 1;
  if (c.pressed(InputJob.reversePulse)) return -1;
  return before.latched;
}

/** The keypad's start stays until its stop, or until somebody else has command. */
function keyedOf(s: CommandSettings, i: CommandInputs, c: Contacts, before: CommandMemory, mode: CommandMode): 0 | 1 {
  if (c.stopped || i.keypad.stop || !i.torqueAllowed || i.borrowed) return 0;
  const takesKey = (mode === 'remote' || mode === 'local') && s[mode].start === StartSource.keypad;
  if (!takesKey) return 0;
  // taken over while it turns: the keypad has the run it finds, and its stop ends it
  const takenOver = before.mode !== null && before.mode !== mode && before.ran && s.switchOver === SwitchOver.carriesOn;
  return (i.keypad.start && i.trip === null) || takenOver ? 1 : before.keyed;
}

const sign = (c: Contacts): 1 | -1 => (c.closed(InputJob.direction) ? -1 : 1);

type Latches = Pick<CommandMemory, 'latched' | 'keyed'>;

/** Who gives the start: the selector, the pair in force, or a jog contact while nobody else asks. */
function startOf(s: CommandSettings, i: CommandInputs, c: Contacts, mode: CommandMode, memory: Latches): StartTaken {
  if (mode === 'hand') return { giver: 'hand contact', input: c.at(InputJob.hand), asks: true, direction: 1, both: false };
  if (mode === 'off') return { giver: 'nothing', input: null, asks: false, direction: 1, both: false };
  const pair = pairStart(s, i, c, mode, memory);
  const [forward, reverse] = [c.closed(InputJob.jogForward), c.closed(InputJob.jogReverse)];
  if (pair.asks || !(forward || reverse)) return pair;
  const job = reverse && !forward ? InputJob.jogReverse : InputJob.jogForward;
  return { giver: 'jog contact', input: c.at(job), asks: true, direction: job === InputJob.jogReverse ? -1 : 1, both: forward && reverse };
}

/** The start of the pair in force. */
function pairStart(s: CommandSettings, i: CommandInputs, c: Contacts, mode: CommandMode, memory: Latches): StartTaken {
  const { start } = mode === 'local' ? s.local : s.remote;
  if (start === StartSource.keypad) return { giver: 'keypad', input: null, asks: memory.keyed === 1, direction: sign(c), both: false };
  if (start === StartSource.link) return { giver: 'link', input: null, asks: i.link.run, direction: 1, both: false };
  if (c.selector) return { giver: 'auto contact', input: c.at(InputJob.auto), asks: c.closed(InputJob.auto), direction: sign(c), both: false };
  if (memory.latched !== 0 || c.wired(InputJob.startPulse) || c.wired(InputJob.reversePulse)) {
    const backward = memory.latched === -1;
    const job = backward || !c.wired(InputJob.startPulse) ? InputJob.reversePulse : InputJob.startPulse;
    const asks = memory.latched !== 0;
    if (asks || !(c.closed(InputJob.runForward) || c.closed(InputJob.runReverse)))
      return { giver: 'start button', input: c.at(job), asks, direction: backward ? -1 : sign(c), both: false };
  }
  const [forward, reverse] = [c.closed(InputJob.runForward), c.closed(InputJob.runReverse)];
  const job = reverse && !forward ? InputJob.runReverse : InputJob.runForward;
  const asks = forward || reverse;
  const giver = c.wired(InputJob.runForward) || c.wired(InputJob.runReverse) ? 'run contact' : 'nothing';
  return { giver, input: c.at(job), asks, direction: job === InputJob.runReverse ? -1 : sign(c), both: forward && reverse };
}

/** Everything that stands between a start and a turning shaft, but for the speed. */
function holdsOf(s: CommandSettings, i: CommandInputs, c: Contacts, mode: CommandMode, start: StartTaken, speed: SpeedTaken): HoldBack[] {
  const out: HoldBack[] = [];
  if (!i.torqueAllowed) out.push('safe torque off');
  if (i.trip !== null) out.push('tripped');
  if (i.borrowed) out.push('borrowed');
  if (mode === 'off') out.push(c.closed(InputJob.hand) ? 'selector both' : 'selector off');
  if (c.stopped) out.push('stop contact');
  if (i.keypad.stop && (s.stopKey === StopKey.always || start.giver === 'keypad')) out.push('stop key');
  if (c.wired(InputJob.enable) && !c.closed(InputJob.enable)) out.push('enable contact');
  if (start.both) out.push('both directions');
  if (speed.lost && s.onLiveZeroLoss === LiveZeroAction.stop) out.push('live zero lost');
  if ((start.giver === 'link' || speed.giver === 'link') && !i.link.alive) out.push('link lost');
  if (!start.asks && mode !== 'off') out.push('not asked');
  return out;
}

/** What takes a start away for good: it has to be given anew afterwards. */
const takenForGood: readonly HoldBack[] = ['safe torque off', 'stop contact', 'stop key', 'both directions', 'live zero lost', 'link lost'];

/**
 * A contact that had been closed all the while and comes to be asked only because something else was let go: letting go of anything never starts.
 * A selector or a switch-over between local and remote is a start of its own, see SwitchOver.
 */
function leftOver(i: CommandInputs, before: CommandMemory, mode: CommandMode, { giver, input }: StartTaken): boolean {
  if (giver !== 'run contact' && giver !== 'jog contact') return false;
  if (before.mode !== mode || before.giver === null || before.giver === giver || input === null) return false;
  return before.closed?.[input] === i.closed[input];
}

/** Whether a start that is given has to be taken away and given anew. */
function renewal(
  s: CommandSettings,
  i: CommandInputs,
  before: CommandMemory,
  mode: CommandMode,
  start: StartTaken,
  holds: readonly HoldBack[],
): boolean {
  if (!start.asks) return false;
  if (before.mustRelease || i.borrowed || leftOver(i, before, mode, start)) return true;
  // a stop that closes again, a wire or a link that comes back never give a start back by themselves (IEC 60204-1, 9.2.3)
  if (holds.some((h) => takenForGood.includes(h))) return true;
  if (before.mode !== null && before.mode !== mode && before.ran && s.switchOver === SwitchOver.stops) return true;
  const closesNow = before.mode !== null && holds.every((h) => h === 'tripped');
  return s.startContact === StartContact.edge && start.giver === 'run contact' && !closesNow;
}

/** What a tripped drive does in this scan: by its reset button, or by itself where it may. */
function afterTrip(s: CommandSettings, i: CommandInputs, c: Contacts, before: CommandMemory, asks: boolean, dt: number) {
  if (i.trip === null)
    return {
      restarts: before.restarts.sinceTrip === 0 ? before.restarts : { made: before.restarts.made, sinceTrip: 0 },
      clears: false,
      needsPerson: false,
    };
  const restarts: RestartState = { ...before.restarts };
  const pressed = c.closed(InputJob.resetTrip) && !before.reset;
  if (pressed) restarts.made = 0;
  if (!asks || i.borrowed) {
    restarts.sinceTrip += dt;
    return { restarts, clears: pressed && !i.borrowed, needsPerson: false };
  }
  const act = stepRestarts(restarts, s.restarts, i.trip, dt);
  return { restarts, clears: pressed || act === 'clears', needsPerson: pressed || act === 'needs a person' };
}

/** Mode, start and speed in force, with the contacts they were read from. */
interface Taken {
  c: Contacts;
  mode: CommandMode;
  latched: -1 | 0 | 1;
  keyed: 0 | 1;
  start: StartTaken;
  speed: SpeedTaken;
}

function takenOf(s: CommandSettings, i: CommandInputs, before: CommandMemory, dt: number): Taken {
  const remote = new Contacts(s.jobs, i.closed, before.closed);
  const mode = modeOf(remote);
  const c = mode === 'local' ? new Contacts(s.localJobs, i.closed, before.closed) : remote;
  const latched = latchOf(i, c, before);
  const keyed = keyedOf(s, i, c, before, mode);
  const start = startOf(s, i, c, mode, { latched, keyed });
  return { c, mode, latched, keyed, start, speed: speedOf(s, i, c, mode, start, before, dt) };
}

/** Starts and speeds that are given and not taken, at the moment {@link resolveCommand} resolves. */
export function whoLost(s: CommandSettings, i: CommandInputs, before: CommandMemory, dt: number): Lost[] {
  const { c, mode, start, speed } = takenOf(s, i, before, dt);
  return losersOf(s, i, c, mode, start, speed);
}

/**
 * Resolves everything that speaks to a drive to one command and one speed reference, with the reason; who lost to it tells {@link whoLost}. Pure: what is
 * carried from scan to scan goes in as `before` and comes out as `memory`. A stop overrides a start, and closing a supply, a safety channel or
 * a trip's reset starts nothing (IEC 60204-1, 7.5 and 9.2).
 * @param dt s since the scan before
 */
export function resolveCommand(s: CommandSettings, i: CommandInputs, before: CommandMemory, dt: number): Resolution {
  const { c, mode, latched, keyed, start, speed } = takenOf(s, i, before, dt);
  const trip = afterTrip(s, i, c, before, start.asks, dt);
  const held = holdsOf(s, i, c, mode, start, speed);
  const mustRelease = renewal(s, i, before, mode, start, held) || trip.needsPerson;
  // what a button or a key has latched is taken away by forgetting it
  const forgets = mustRelease && (start.giver === 'start button' || start.giver === 'keypad');
  if (mustRelease) held.push('start to be renewed');
  const asked = speed.asked === null ? null : speed.asked * (speed.givesDirection ? 1 : start.direction);
  const reference = asked === null ? null : clampReference(s.limits, asked, i.present);
  const limited = asked === null || reference === null ? null : limitedBy(s.limits, asked, reference);
  if (limited === 'reverse forbidden') held.push(limited);
  else if (asked === 0) held.push('no speed');
  const blocked = held.some((h) => h !== 'reverse forbidden' && h !== 'no speed');
  const run = start.asks && !blocked;
  return {
    mode,
    borrowed: i.borrowed,
    asks: start.asks,
    run,
    start: start.giver,
    startInput: start.input,
    speed: speed.giver,
    preset: speed.preset,
    asked,
    reference,
    limited,
    secondRamp: c.closed(InputJob.secondRamp),
    secondSetpoint: c.closed(InputJob.secondSetpoint),
    externalTrip: c.wired(InputJob.externalTrip) && c.closed(InputJob.externalTrip) === s.externalTripOpenIsHealthy,
    liveZeroLost: speed.lost,
    flow: c.wired(InputJob.flowSwitch) ? c.closed(InputJob.flowSwitch) : null,
    emergency: c.wired(InputJob.emergency) && c.closed(InputJob.emergency) !== s.emergencyOpenAsks,
    frost: c.closed(InputJob.frost),
    cleanNow: c.closed(InputJob.cleanNow),
    freezeStat: c.wired(InputJob.freezeStat) && !c.closed(InputJob.freezeStat),
    clearsTrip: trip.clears,
    holds: held,
    memory: {
      latched: forgets ? 0 : latched,
      keyed: forgets ? 0 : keyed,
      lastReference: speed.lastReference,
      upDown: speed.upDown,
      mustRelease: mustRelease && !forgets,
      ran: run,
      mode,
      giver: start.giver,
      speed: speed.giver,
      closed: i.closed,
      reset: c.closed(InputJob.resetTrip),
      restarts: trip.restarts,
    },
  };
}
