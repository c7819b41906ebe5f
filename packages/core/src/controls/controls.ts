import { ControlWord, DriveState, PowerUpStart, Switch, UpDownKeeps, type OutputJob, type SpeedLimits } from '../drive';
import { tripMachine, type Machine } from '../machine';
import { wakingMemory, type CommandInputs, type CommandMemory, type CommandSettings, type Resolution } from './command';
import { smoothed } from './feedback';
import { outputOn, type Threshold } from './outputs';
import { leaveProcess, restingProcess, stepProcess, type ProcessSettings, type ProcessState } from './process';
import { resolveCommand } from './resolve';

/** The terminals are read this often, s. */
export const scanStep = 0.01;

/** What a drive's settings say about command, speed, process and outputs. */
export interface ControlSettings {
  command: CommandSettings;
  process: ProcessSettings;
  outputs: readonly OutputJob[];
  threshold: Threshold;
  /** see LinkLossAction */
  onLinkLoss: number;
}

/** What speaks to a drive from outside it: the rest of {@link CommandInputs} it knows by itself. */
export type OutsideInputs = Omit<CommandInputs, 'torqueAllowed' | 'trip' | 'present'>;

/** What a drive has decided, and what it carries from scan to scan. */
export interface ControlState {
  resolution: Resolution | null;
  /** Hz, signed, what the ramp is given */
  reference: number;
  /** control word of IEC 61800-7-201 */
  word: number;
  /** % of the process sensor, after the drive's filter */
  feedback: number;
  /** outputs that have pulled in, in the order of the terminals */
  outputs: readonly boolean[];
  memory: CommandMemory;
  readonly process: ProcessState;
  wasRunning: boolean;
}

export const restingControls = (): ControlState => ({
  resolution: null,
  reference: 0,
  word: ControlWord.shutdown,
  feedback: 0,
  outputs: [],
  memory: wakingMemory(true),
  process: restingProcess(),
  wasRunning: false,
});

/** What a power-on makes of a start that is already given. */
export function powerOnControls(state: ControlState, s: ControlSettings): void {
  const kept = s.command.upDownKeeps === UpDownKeeps.keeps ? state.memory.upDown : 0;
  state.memory = wakingMemory(s.command.startAfterPowerUp === PowerUpStart.needsNew, kept);
  state.resolution = null;
  leaveProcess(state.process);
}

/** Hands what the terminals say to the machine's protections. */
function tellProtections(m: Machine, r: Resolution): void {
  m.conditions.secondRamp = r.secondRamp ? 1 : 0;
  m.conditions.externalTrip = r.externalTrip ? 1 : 0;
  m.conditions.liveZeroLost = r.liveZeroLost ? 1 : 0;
  // a switch that is not wired cannot tell of no flow
  m.conditions.flowSwitch = r.flow === false ? 0 : 1;
}

/** What can be seen only when a run begins: settings that contradict each other trip the drive. */
function begin(state: ControlState, m: Machine): void {
  const { drive, rating } = m.spec;
  leaveProcess(state.process);
  const neverChops = drive.chopper === Switch.on && drive.chopperLevel >= rating.overvoltageTrip;
  if (neverChops || drive.minimumFrequency > drive.maximumFrequency) tripMachine(m, 'settingsConflict');
}

/** The control word that brings the machine where the terminals want it. */
function wordFor(state: DriveState, goes: boolean, reset: boolean): number {
  if (reset) return ControlWord.faultReset;
  if (state < DriveState.ready) return ControlWord.shutdown;
  if (goes) return state === DriveState.ready ? ControlWord.switchOn : ControlWord.enableOperation;
  return state === DriveState.operationEnabled ? ControlWord.switchOn : ControlWord.shutdown;
}

/** The loop's output is held to the drive's lowest speed as well as to its own limits. */
export function withinLimits(s: ProcessSettings, { minimumFrequency, maximumFrequency }: SpeedLimits): ProcessSettings {
  return { ...s, pid: { ...s.pid, outputLow: Math.max(s.pid.outputLow, (100 * minimumFrequency) / maximumFrequency) } };
}

/** Hz the process or another source gives; in process it also sees to sleep. */
function referenceOf(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, outside: OutsideInputs, dt: number): number {
  if (r.asked !== null) {
    leaveProcess(state.process);
    // direction, limits and bands are the ramp's own, by the same rule
    return r.asked;
  }
  const { maximumFrequency } = m.spec.drive;
  if (r.liveZeroLost) return m.goal;
  const inputs = { second: r.secondSetpoint, analogue: outside.second, link: Math.abs(outside.link.reference) / maximumFrequency };
  return stepProcess(state.process, withinLimits(s.process, m.spec.drive), inputs, state.feedback, Math.abs(m.ramp), maximumFrequency, dt);
}

/** Relays and transistor outputs as they stand after this scan. */
function outputsOf(state: ControlState, s: ControlSettings, m: Machine): boolean[] {
  const running = m.state === DriveState.operationEnabled || m.state === DriveState.quickStop;
  const facts = {
    running,
    ready: m.trip === null && m.state >= DriveState.ready,
    tripped: m.trip !== null,
    atSpeed: running && m.goal !== 0 && Math.abs(m.ramp - m.goal) < atSpeedWithin,
    frequency: Math.abs(m.ramp),
    minimum: m.spec.drive.minimumFrequency,
    brakeOpens: m.brakeCommand === 1,
  };
  return s.outputs.map((job, i) => outputOn(job, facts, s.threshold, state.outputs[i] === true));
}

/** Hz from its goal at which a drive says it is at speed. */
const atSpeedWithin = 0.3;

/** One scan: everything that speaks to the drive to one command and reference, then process and sleep, control word and outputs. */
export function scanControls(state: ControlState, s: ControlSettings, m: Machine, outside: OutsideInputs, dt: number = scanStep): void {
  const torqueAllowed = (m.conditions.sto1 & m.conditions.sto2) === 1;
  // written out: a spread costs more than all that is resolved
  const inputs: CommandInputs = {
    closed: outside.closed,
    analogue: outside.analogue,
    second: outside.second,
    keypad: outside.keypad,
    link: outside.link,
    borrowed: outside.borrowed,
    torqueAllowed,
    trip: m.trip?.cause ?? null,
    present: m.ramp,
  };
  const r = resolveCommand(s.command, inputs, state.memory, dt);
  state.resolution = r;
  state.memory = r.memory;
  tellProtections(m, r);
  state.feedback = smoothed(state.feedback, 100 * outside.analogue, s.process.filter, dt);
  state.outputs = outputsOf(state, s, m);
  if (r.borrowed) return;
  if (r.run && !state.wasRunning) begin(state, m);
  state.wasRunning = r.run;
  state.reference = r.run ? referenceOf(state, s, m, r, outside, dt) : 0;
  state.word = wordFor(m.state, r.run && !state.process.sleep.asleep, r.clearsTrip);
}
