import { ControlWord, DriveState, PowerUpStart, Switch } from '../drive';
import { tripMachine, type Machine } from '../machine';
import { leaveProcess, restingProcess, stepProcess, type ProcessSettings, type ProcessState } from './process';
import { stepRestarts, type RestartState } from './restarts';
import { resolveTerminals, type TerminalCommand, type TerminalInputs, type TerminalMemory, type TerminalSettings } from './terminals';

/** The terminals are read this often, s. */
export const scanStep = 0.01;

/** What a drive's settings say about command, speed and process. */
export interface ControlSettings {
  terminals: TerminalSettings;
  process: ProcessSettings;
  /** see PowerUpStart */
  startAfterPowerUp: number;
  /** see LinkLossAction */
  onLinkLoss: number;
}

/** What a drive has decided from its terminals, and what it carries from scan to scan. */
export interface ControlState {
  command: TerminalCommand | null;
  /** Hz, signed, what the ramp is given */
  reference: number;
  /** control word of IEC 61800-7-201 */
  word: number;
  /** % of the process sensor */
  feedback: number;
  readonly restarts: RestartState;
  readonly memory: TerminalMemory;
  readonly process: ProcessState;
  /** a start that was given when power came, or through a trip, has to be taken away first */
  mustRelease: boolean;
  resetWas: boolean;
  wasRunning: boolean;
}

export const restingControls = (): ControlState => ({
  command: null,
  reference: 0,
  word: ControlWord.shutdown,
  feedback: 0,
  restarts: { made: 0, sinceTrip: 0 },
  memory: { latched: false, lastReference: 0 },
  process: restingProcess(),
  mustRelease: true,
  resetWas: false,
  wasRunning: false,
});

/** What a power-on makes of a start that is already given. */
export function powerOnControls(state: ControlState, s: ControlSettings): void {
  state.mustRelease = s.startAfterPowerUp === PowerUpStart.needsNew;
  state.memory.latched = false;
  state.restarts.made = 0;
  leaveProcess(state.process);
}

/** Hands what the terminals say to the machine's protections. */
function tellProtections(m: Machine, c: TerminalCommand): void {
  m.conditions.secondRamp = c.secondRamp ? 1 : 0;
  m.conditions.externalTrip = c.externalTrip ? 1 : 0;
  m.conditions.liveZeroLost = c.liveZeroLost ? 1 : 0;
  // a switch that is not wired cannot tell of no flow
  m.conditions.flowSwitch = c.flow === false ? 0 : 1;
}

/** What can be seen only when a run begins: settings that contradict each other trip the drive. */
function begin(state: ControlState, m: Machine): void {
  const { drive, rating } = m.spec;
  leaveProcess(state.process);
  const neverChops = drive.chopper === Switch.on && drive.chopperLevel >= rating.overvoltageTrip;
  if (neverChops || drive.minimumFrequency > drive.maximumFrequency) tripMachine(m, 'settingsConflict');
}

/** Hz from hand, input, preset or process; in process it also sees to sleep. */
function referenceOf(state: ControlState, s: ControlSettings, m: Machine, c: TerminalCommand, dt: number): number {
  if (!Number.isNaN(c.reference)) {
    leaveProcess(state.process);
    return c.reference;
  }
  const { minimumFrequency, maximumFrequency } = m.spec.drive;
  if (c.liveZeroLost) return m.goal;
  const pid = { ...s.process.pid, outputLow: (100 * minimumFrequency) / maximumFrequency };
  return stepProcess(state.process, { ...s.process, pid }, state.feedback, Math.abs(m.ramp), maximumFrequency, dt);
}

/** Whether the trip is cleared in this scan, by its button or by the drive itself. */
function clearsTrip(state: ControlState, m: Machine, c: TerminalCommand, dt: number): boolean {
  const pressed = c.reset && !state.resetWas;
  state.resetWas = c.reset;
  // a reset means nothing to a drive that has not tripped
  if (m.trip === null) {
    state.restarts.sinceTrip = 0;
    return false;
  }
  if (!c.run) {
    state.restarts.sinceTrip += dt;
    return pressed;
  }
  const act = stepRestarts(state.restarts, m.spec.drive, m.trip.cause, dt);
  if (act === 'needs a person') state.mustRelease = true;
  return pressed || act === 'clears';
}

/** The control word that brings the machine where the terminals want it. */
function wordFor(state: DriveState, goes: boolean, reset: boolean): number {
  if (reset) return ControlWord.faultReset;
  if (state < DriveState.ready) return ControlWord.shutdown;
  if (goes) return state === DriveState.ready ? ControlWord.switchOn : ControlWord.enableOperation;
  return state === DriveState.operationEnabled ? ControlWord.switchOn : ControlWord.shutdown;
}

/**
 * One scan: terminals to one command and reference, process and sleep, restarts.
 * @param linkHolds the link has command: the terminals are read but do not act
 */
export function scanControls(
  state: ControlState,
  s: ControlSettings,
  m: Machine,
  inputs: TerminalInputs,
  linkHolds: boolean,
  dt: number = scanStep,
): void {
  const c = resolveTerminals(s.terminals, inputs, state.memory);
  state.command = c;
  tellProtections(m, c);
  state.feedback = 100 * inputs.analogue;
  if (!c.run) state.mustRelease = false;
  if (linkHolds) {
    state.mustRelease = state.mustRelease || c.run;
    return;
  }
  const tripped = m.trip !== null;
  const reset = clearsTrip(state, m, c, dt);
  const run = c.run && !state.mustRelease && !tripped;
  if (run && !state.wasRunning) begin(state, m);
  state.wasRunning = run;
  state.reference = run ? referenceOf(state, s, m, c, dt) : 0;
  state.word = wordFor(m.state, run && !state.process.sleep.asleep, reset);
}
