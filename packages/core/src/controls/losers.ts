import { InputJob, SpeedSource, StartSource } from '../drive';
import { analogueSpeed } from './analogue';
import type { Contacts } from './contacts';
import type { CommandInputs, CommandMode, CommandSettings, Lost, SpeedGiver, StartGiver } from './command';
import type { SpeedTaken } from './speed';
import type { StartTaken } from './resolve';

/** A signal nearer to its low end than this share speaks to nobody. */
const silentShare = 0.02;

const startJobs = [
  InputJob.runForward,
  InputJob.runReverse,
  InputJob.startPulse,
  InputJob.reversePulse,
  InputJob.jogForward,
  InputJob.jogReverse,
] as const;

const giverOf = (job: InputJob): StartGiver => {
  if (job === InputJob.runForward || job === InputJob.runReverse) return 'run contact';
  return job === InputJob.jogForward || job === InputJob.jogReverse ? 'jog contact' : 'start button';
};

/** What a start that is not taken lost to. */
function startLostTo(i: CommandInputs, mode: CommandMode, c: Contacts, start: StartTaken, from: StartGiver): Lost['to'] {
  if (i.borrowed) return 'borrowed';
  if (mode === 'hand') return 'hand';
  if (mode === 'off' || start.giver === 'auto contact') return 'selector';
  if (start.giver === 'jog contact') return 'jog';
  if (c.stopped && from === 'start button') return 'stop';
  return 'source';
}

function lostStarts(s: CommandSettings, i: CommandInputs, c: Contacts, mode: CommandMode, start: StartTaken): Lost[] {
  const out: Lost[] = [];
  const lose = (from: StartGiver, input: number | null) => out.push({ what: 'start', from, input, to: startLostTo(i, mode, c, start, from) });
  for (const job of startJobs) {
    const from = giverOf(job);
    const pressedInVain = c.closed(job) && (from !== start.giver || (from === 'start button' && c.stopped));
    if (pressedInVain) lose(from, c.at(job));
  }
  if (i.keypad.start && start.giver !== 'keypad') lose('keypad', null);
  if (i.link.alive && i.link.run && start.giver !== 'link') lose('link', null);
  // auto is closed and another source starts it: the position alone starts nothing
  const pair = mode === 'local' ? s.local : s.remote;
  if ((mode === 'remote' || mode === 'local') && c.closed(InputJob.auto) && pair.start !== StartSource.terminals)
    out.push({ what: 'start', from: 'auto contact', input: c.at(InputJob.auto), to: 'source' });
  return out;
}

/** What a speed that is not taken lost to. */
function speedLostTo(i: CommandInputs, mode: CommandMode, speed: SpeedTaken, from: SpeedGiver): Lost['to'] {
  if (i.borrowed) return 'borrowed';
  if (speed.giver === 'jog') return 'jog';
  if (mode === 'hand') return 'hand';
  if (speed.giver === 'preset') return 'preset';
  return speed.giver === 'process' && from !== 'process' ? 'process' : 'source';
}

/** Starts and speeds that are given and not taken. */
export function losersOf(s: CommandSettings, i: CommandInputs, c: Contacts, mode: CommandMode, start: StartTaken, speed: SpeedTaken): Lost[] {
  const out = lostStarts(s, i, c, mode, start);
  const lose = (from: SpeedGiver, input: number | null = null) => {
    if (from !== speed.giver || i.borrowed) out.push({ what: 'speed', from, input, to: speedLostTo(i, mode, speed, from) });
  };
  if (c.preset > 0) {
    const bit = [InputJob.presetBit0, InputJob.presetBit1, InputJob.presetBit2, InputJob.presetBit3].find((job) => c.closed(job));
    lose('preset', bit === undefined ? null : c.at(bit));
  }
  const pairs = [s.remote.speed, s.local.speed];
  // the first signal is the process's own where it has a loop, and the second is hand's own unless a pair names it
  const speaks = (share: number) => Math.abs(share) > silentShare;
  if (speaks(i.analogue) && analogueSpeed(s.analogue, i.analogue) !== 0 && !pairs.includes(SpeedSource.process)) lose('analogue');
  if (speaks(i.second) && pairs.includes(SpeedSource.secondAnalogue)) lose('second analogue');
  if (i.link.alive && i.link.reference !== 0) lose('link');
  if (c.closed(InputJob.faster) || c.closed(InputJob.slower))
    lose('up and down', c.at(c.closed(InputJob.faster) ? InputJob.faster : InputJob.slower));
  return out;
}
