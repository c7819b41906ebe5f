/** Jobs an input can have, in the trade's words; drive books number them as they like. */
export type InputJob =
  | 'Not used'
  | 'Run forward'
  | 'Run reverse'
  | 'Start pulse'
  | 'Stop, opens'
  | 'Hand'
  | 'Auto'
  | 'Preset bit 0'
  | 'Preset bit 1'
  | 'Preset bit 2'
  | 'Second ramp'
  | 'External trip'
  | 'Reset trip'
  | 'Enable'
  | 'Flow switch';

export type SpeedSource = 'analogue' | 'keypad' | 'link' | 'presets' | 'process';

/** What the settings make of the terminals. Frequencies in Hz. */
export interface TerminalSettings {
  jobs: readonly InputJob[];
  speedSource: SpeedSource;
  keypadSpeed: number;
  /** presets 1 to 7 */
  presets: readonly number[];
  analogueLow: number;
  analogueHigh: number;
  /** 4–20 mA rather than 0–20 mA or 0–10 V */
  liveZero: boolean;
  /** an open contact is the healthy one */
  externalTripOpenIsHealthy: boolean;
  /** what a lost live zero does: 0 ignore, 1 hold the last value, 2 stop, 3 trip */
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
  why: string;
}

/** A live zero below 3.6 mA of 4 to 20 is lost (NAMUR NE 43): −0.025 of the range. */
const lostBelow = (3.6 - 4) / 16;

/** Resolves the terminals to one command; `memory` is carried from scan to scan. */
export function resolveTerminals(s: TerminalSettings, inputs: TerminalInputs, memory: TerminalMemory): TerminalCommand {
  const wired = (job: InputJob) => s.jobs.includes(job);
  const closed = (job: InputJob) => s.jobs.some((j, i) => j === job && inputs.closed[i] === true);
  const stopped = wired('Stop, opens') && !closed('Stop, opens');
  if (stopped) memory.latched = false;
  else if (closed('Start pulse')) memory.latched = true;
  const hand = closed('Hand');
  const auto = closed('Auto');
  const reverse = closed('Run reverse');
  const enabled = !wired('Enable') || closed('Enable');
  const lost = s.liveZero && inputs.analogue < lostBelow && s.onLiveZeroLoss > 0;
  const selector = wired('Hand') || wired('Auto');
  const start = closed('Run forward') || reverse || memory.latched;
  let run = (selector ? hand || auto : start) && enabled && !stopped;
  let reference = 0;
  let why = '';
  const preset = (closed('Preset bit 0') ? 1 : 0) + (closed('Preset bit 1') ? 2 : 0) + (closed('Preset bit 2') ? 4 : 0);
  if (hand) {
    reference = inputs.handSpeed === null ? s.keypadSpeed : inputs.handSpeed * s.analogueHigh;
    why = 'hand';
  } else if (preset > 0) {
    reference = s.presets[preset - 1] ?? 0;
    why = `preset ${preset}`;
  } else if (s.speedSource === 'process') {
    reference = NaN;
    why = 'process';
  } else if (s.speedSource === 'analogue') {
    if (lost && s.onLiveZeroLoss === 1) reference = memory.lastReference;
    else reference = s.analogueLow + Math.min(1, Math.max(0, inputs.analogue)) * (s.analogueHigh - s.analogueLow);
    if (!lost) memory.lastReference = reference;
    why = 'analogue input';
  } else {
    reference = s.keypadSpeed;
    why = 'keypad speed';
  }
  const needsSignal = !hand && (s.speedSource === 'analogue' || s.speedSource === 'process');
  if (lost && needsSignal && s.onLiveZeroLoss === 2) run = false;
  if (reverse && !hand) reference = -reference;
  const external = wired('External trip') && closed('External trip') === s.externalTripOpenIsHealthy;
  return {
    run,
    reference,
    hand,
    secondRamp: closed('Second ramp'),
    reset: closed('Reset trip'),
    externalTrip: external,
    flow: wired('Flow switch') ? closed('Flow switch') : null,
    liveZeroLost: lost && needsSignal,
    why,
  };
}
