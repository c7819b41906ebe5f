import { findSetting, roleValue, settingsOf, type FirmwareRole } from '@yare/books';
import type { DriveBook } from '@yare/contract';
import {
  awake,
  bumpless,
  protections,
  resolveTerminals,
  restingPid,
  stepPid,
  stepSleep,
  tripMachine,
  ControlWord,
  DriveState,
  type InputJob,
  type Machine,
  type PidSettings,
  type SpeedSource,
  type TerminalCommand,
  type TerminalInputs,
  type TerminalSettings,
} from '@yare/core';

/** The terminals are read this often, s. */
export const scanStep = 0.01;
const speedSources: SpeedSource[] = ['analogue', 'keypad', 'link', 'presets', 'process'];

/** What a drive decides from its terminals: command, reference, process, sleep, automatic restarts. Advanced once a scan. */
export class Firmware {
  command: TerminalCommand | null = null;
  /** Hz, signed, what the ramp is given */
  reference = 0;
  word: number = ControlWord.shutdown;
  asleep = false;
  /** % of the process sensor */
  feedback = 0;
  restarts = 0;
  private settings!: TerminalSettings;
  private pid!: PidSettings;
  private readonly memory = { latched: false, lastReference: 0 };
  private readonly loop = restingPid(0);
  private sleep = awake();
  private sinceTrip = 0;
  /** a start that was given when power came, or through a trip, has to be taken away first */
  private mustRelease = true;
  private resetWas = false;
  private wasRunning = false;
  private inProcess = false;

  constructor(
    private readonly book: DriveBook,
    private readonly size: string,
    private values: Readonly<Record<string, number>>,
  ) {
    this.read(values);
  }

  private value(role: FirmwareRole, absent: number): number {
    const s = findSetting(this.book, this.size, role);
    return s ? roleValue(this.book, this.size, s, this.values[s.code]!, this.values) : absent;
  }

  /** Takes settings anew after a write. */
  read(values: Readonly<Record<string, number>>): void {
    this.values = values;
    const jobs = settingsOf(this.book, this.size)
      .filter((s) => s.role?.startsWith('job '))
      .map((s) => (s.options?.find((o) => o.value === values[s.code])?.label ?? 'Not used') as InputJob);
    this.settings = {
      jobs,
      speedSource: speedSources[this.value('speedSource', 0)] ?? 'analogue',
      keypadSpeed: this.value('keypadSpeed', 0),
      presets: [1, 2, 3, 4, 5, 6, 7].map((i) => this.value(`preset${i}`, 0)),
      analogueLow: this.value('analogueLow', 0),
      analogueHigh: this.value('analogueHigh', 50),
      liveZero: this.value('analogueSignal', 2) === 0,
      externalTripOpenIsHealthy: this.value('externalTripSense', 0) === 1,
      onLiveZeroLoss: this.liveZeroAction(),
    };
    this.pid = {
      proportionalGain: this.value('proportionalGain', 1),
      integralTime: this.value('integralTime', 10),
      derivativeTime: 0,
      setpointWeight: 1,
      reverse: this.value('processAction', 0) === 1,
      outputLow: 0,
      outputHigh: 100,
    };
  }

  private liveZeroAction(): number {
    const s = findSetting(this.book, this.size, 'liveZeroLoss');
    return s ? roleValue(this.book, this.size, s, this.values[s.code]!, this.values) : 0;
  }

  /** Whether the second analogue or the first carries a live zero, for who feeds it. */
  get liveZero(): boolean {
    return this.settings.liveZero;
  }

  get onLinkLoss(): number {
    return this.value('onLinkLoss', 0);
  }

  /** What a power-on makes of a start that is already given. */
  powerOn(): void {
    this.mustRelease = this.value('startAfterPowerUp', 0) === 0;
    this.memory.latched = false;
    this.restarts = 0;
    this.sleep = awake();
    this.asleep = false;
  }

  /** One scan of the terminals. `linkHolds`: the link has command, the terminals are read but do not act. */
  scan(m: Machine, inputs: TerminalInputs, linkHolds: boolean): void {
    const c = resolveTerminals(this.settings, inputs, this.memory);
    this.command = c;
    m.conditions.secondRamp = c.secondRamp ? 1 : 0;
    m.conditions.externalTrip = c.externalTrip ? 1 : 0;
    m.conditions.liveZeroLost = c.liveZeroLost ? 1 : 0;
    // a switch that is not wired cannot tell of no flow
    m.conditions.flowSwitch = c.flow === false ? 0 : 1;
    this.feedback = 100 * inputs.analogue;
    if (!c.run) this.mustRelease = false;
    if (linkHolds) {
      this.mustRelease = this.mustRelease || c.run;
      return;
    }
    const tripped = m.trip !== null;
    const edge = c.reset && !this.resetWas;
    this.resetWas = c.reset;
    // a reset means nothing to a drive that has not tripped
    let reset = edge && tripped;
    if (tripped) {
      this.sinceTrip += scanStep;
      const policy = protections[m.trip!.cause];
      const { autoRestarts, restartInterval } = m.spec.drive;
      const again = policy.autoRestart && this.restarts < autoRestarts && c.run && this.sinceTrip >= restartInterval;
      if (again) {
        reset = true;
        this.restarts++;
      } else if (c.run && !(policy.autoRestart && this.restarts < autoRestarts)) this.mustRelease = true;
    } else this.sinceTrip = 0;
    const run = c.run && !this.mustRelease && !tripped;
    if (run && !this.wasRunning) this.begin(m);
    this.wasRunning = run;
    const reference = run ? this.referenceOf(m, c) : 0;
    this.reference = reference;
    const goes = run && !this.asleep;
    const word = goes ? ControlWord.enableOperation : m.state === DriveState.operationEnabled ? ControlWord.switchOn : ControlWord.shutdown;
    this.word = reset
      ? ControlWord.faultReset
      : m.state < DriveState.ready
        ? ControlWord.shutdown
        : m.state === DriveState.ready && goes
          ? ControlWord.switchOn
          : word;
  }

  private begin(m: Machine): void {
    const { drive, rating } = m.spec;
    this.sleep = awake();
    this.inProcess = false;
    if ((drive.chopper === 1 && drive.chopperLevel >= rating.overvoltageTrip) || drive.minimumFrequency > drive.maximumFrequency)
      tripMachine(m, 'settingsConflict');
  }

  /** Hz from hand, input, preset or process; in process it also sees to sleep. */
  private referenceOf(m: Machine, c: TerminalCommand): number {
    if (!Number.isNaN(c.reference)) {
      this.inProcess = false;
      this.asleep = false;
      return c.reference;
    }
    const { minimumFrequency, maximumFrequency } = m.spec.drive;
    const setpoint = 100 * this.value('setpoint', 0);
    const pid = { ...this.pid, outputLow: (100 * minimumFrequency) / maximumFrequency };
    if (!this.inProcess) {
      bumpless(this.loop, pid, setpoint, this.feedback, Math.max(pid.outputLow, (100 * Math.abs(m.ramp)) / maximumFrequency));
      this.inProcess = true;
    }
    if (c.liveZeroLost) return m.goal;
    const wasAsleep = this.asleep;
    const shortfall = (setpoint - this.feedback) * (pid.reverse ? -1 : 1);
    const sleeps = {
      frequency: this.value('sleepFrequency', 0),
      delay: this.value('sleepDelay', 20),
      wakeFall: 100 * this.value('wakeFall', 0.03),
      wakeDelay: this.value('wakeDelay', 2),
    };
    this.asleep = stepSleep(this.sleep, sleeps, Math.abs(m.ramp), shortfall, scanStep);
    if (this.asleep) return 0;
    if (wasAsleep) bumpless(this.loop, pid, setpoint, this.feedback, pid.outputLow);
    return (stepPid(this.loop, pid, setpoint, this.feedback, scanStep) / 100) * maximumFrequency;
  }
}
