import {
  resolveCommand,
  wakingMemory,
  whoLost,
  AnalogueSignal,
  HandSpeed,
  InputJob as Job,
  LiveZeroAction,
  SpeedSource,
  StartContact,
  StartSource,
  StopKey,
  SwitchOver,
  type CommandInputs,
  type CommandMemory,
  type CommandSettings,
  type Lost,
  type Resolution,
} from '../src';

/** Settings of a drive with run contacts and a knob, with some changed. */
export const settings = (change: Partial<CommandSettings> = {}): CommandSettings => {
  const jobs = change.jobs ?? [Job.runForward, Job.runReverse, Job.presetBit0, Job.presetBit1, Job.externalTrip, Job.enable];
  return {
    jobs,
    localJobs: jobs,
    remote: { start: StartSource.terminals, speed: SpeedSource.analogue },
    local: { start: StartSource.keypad, speed: SpeedSource.keypad },
    switchOver: SwitchOver.stops,
    startContact: StartContact.level,
    stopKey: StopKey.always,
    handSpeed: HandSpeed.secondAnalogue,
    upDownKeeps: 0,
    startAfterPowerUp: 0,
    keypadSpeed: 12,
    jogSpeed: 4,
    presets: [10, 20, -30],
    analogue: { signal: AnalogueSignal.liveZero, low: 5, high: 50, deadBand: 0 },
    second: { signal: AnalogueSignal.volts, low: 0, high: 50, deadBand: 0 },
    onLiveZeroLoss: LiveZeroAction.trip,
    externalTripOpenIsHealthy: false,
    emergencyOpenAsks: false,
    upDownRate: 10,
    limits: { reversePermit: 1, minimumFrequency: 0, maximumFrequency: 50, skipCentre: 0, skipWidth: 0, skipCentre2: 0, skipWidth2: 0 },
    restarts: { autoRestarts: 0, restartInterval: 5 },
    ...change,
  };
};

const quiet: CommandInputs = {
  closed: [],
  analogue: 0.5,
  second: 0,
  keypad: { start: false, stop: false },
  link: { alive: false, run: false, reference: 0 },
  borrowed: false,
  torqueAllowed: true,
  trip: null,
  present: 0,
};

/** A drive that is awake, scanned in steps of 0.1 s: what is not named stays as it was. */
export function drive(s: CommandSettings, memory: CommandMemory = wakingMemory(true)) {
  let inputs: CommandInputs = { ...quiet, closed: s.jobs.map(() => false) };
  return (change: Partial<CommandInputs> = {}): Resolution & { lost: Lost[] } => {
    inputs = { ...inputs, ...change };
    const r = { ...resolveCommand(s, inputs, memory, 0.1), lost: whoLost(s, inputs, memory, 0.1) };
    ({ memory } = r);
    return r;
  };
}

/** A drive whose terminals were open when it woke. */
export function awake(s: CommandSettings) {
  const scan = drive(s);
  scan();
  return scan;
}
/** Contacts closed, from the first input on. */
export const contacts = (...bits: number[]) => ({ closed: bits.map((b) => b === 1) });
