import { InputJob, LiveZeroAction, SpeedSource } from '../drive';

/** What the settings make of the terminals. Frequencies in Hz. */
export interface TerminalSettings {
  jobs: readonly InputJob[];
  /** see SpeedSource */
  speedSource: number;
  keypadSpeed: number;
  /** presets 1 to 7 */
  presets: readonly number[];
  analogueLow: number;
  analogueHigh: number;
  /** 4–20 mA rather than 0–20 mA or 0–10 V */
  liveZero: boolean;
  /** an open contact is the healthy one */
  externalTripOpenIsHealthy: boolean;
  /** see LiveZeroAction */
  onLiveZeroLoss: number;
}

/** What the terminals see. */
export interface TerminalInputs {
  closed: readonly boolean[];
  /** share of the first analogue input's range; below zero when a live zero is missing */
  analogue: number;
  /** share of the potentiometer that hand takes its speed from; null when none is wired */
  handSpeed: number | null;
}

/** What is remembered between scans. */
export interface TerminalMemory {
  /** three-wire start is latched */
  latched: boolean;
  /** Hz, last good analogue reference */
  lastReference: number;
}

/** One command and one reference, with the reason for both. */
export interface TerminalCommand {
  run: boolean;
  /** Hz, signed; NaN when the process gives it */
  reference: number;
  hand: boolean;
  secondRamp: boolean;
  reset: boolean;
  externalTrip: boolean;
  /** null when no flow switch is wired */
  flow: boolean | null;
  liveZeroLost: boolean;
  /** what the speed comes from */
  from: ReferenceFrom;
  /** the preset it comes from, 1 to 7; 0 when none does */
  preset: number;
}

/** What a reference comes from. */
export type ReferenceFrom = 'hand' | 'preset' | 'process' | 'analogue' | 'keypad';

/** A live zero below 3.6 mA of 4 to 20 is lost (NAMUR NE 43): −0.025 of the range. */
const lostBelow = (3.6 - 4) / 16;

/** Resolves the terminals to one command; `memory` is carried from scan to scan. */
export function resolveTerminals(s: TerminalSettings, inputs: TerminalInputs, memory: TerminalMemory): TerminalCommand {
  const wired = (job: InputJob) => s.jobs.includes(job);
  const closed = (job: InputJob) => s.jobs.some((j, i) => j === job && inputs.closed[i] === true);
  const stopped = wired(InputJob.stopOpens) && !closed(InputJob.stopOpens);
  if (stopped) memory.latched = false;
  else if (closed(InputJob.startPulse)) memory.latched = true;
  const hand = closed(InputJob.hand);
  const auto = closed(InputJob.auto);
  const reverse = closed(InputJob.runReverse);
  const enabled = !wired(InputJob.enable) || closed(InputJob.enable);
  const lost = s.liveZero && inputs.analogue < lostBelow && s.onLiveZeroLoss !== LiveZeroAction.ignore;
  const selector = wired(InputJob.hand) || wired(InputJob.auto);
  const start = closed(InputJob.runForward) || reverse || memory.latched;
  let run = (selector ? hand || auto : start) && enabled && !stopped;
  let reference = 0;
  let from: ReferenceFrom = 'keypad';
  const preset = (closed(InputJob.presetBit0) ? 1 : 0) + (closed(InputJob.presetBit1) ? 2 : 0) + (closed(InputJob.presetBit2) ? 4 : 0);
  if (hand) {
    reference = inputs.handSpeed === null ? s.keypadSpeed : inputs.handSpeed * s.analogueHigh;
    from = 'hand';
  } else if (preset > 0) {
    reference = s.presets[preset - 1] ?? 0;
    from = 'preset';
  } else if (s.speedSource === SpeedSource.process) {
    reference = NaN;
    from = 'process';
  } else if (s.speedSource === SpeedSource.analogue) {
    if (lost && s.onLiveZeroLoss === LiveZeroAction.holdLast) reference = memory.lastReference;
    else reference = s.analogueLow + Math.min(1, Math.max(0, inputs.analogue)) * (s.analogueHigh - s.analogueLow);
    if (!lost) memory.lastReference = reference;
    from = 'analogue';
  } else {
    reference = s.keypadSpeed;
  }
  const needsSignal = !hand && (s.speedSource === SpeedSource.analogue || s.speedSource === SpeedSource.process);
  if (lost && needsSignal && s.onLiveZeroLoss === LiveZeroAction.stop) run = false;
  if (reverse && !hand) reference = -reference;
  const external = wired(InputJob.externalTrip) && closed(InputJob.externalTrip) === s.externalTripOpenIsHealthy;
  return {
    run,
    reference,
    hand,
    secondRamp: closed(InputJob.secondRamp),
    reset: closed(InputJob.resetTrip),
    externalTrip: external,
    flow: wired(InputJob.flowSwitch) ? closed(InputJob.flowSwitch) : null,
    liveZeroLost: lost && needsSignal,
    from,
    preset: hand ? 0 : preset,
  };
}
