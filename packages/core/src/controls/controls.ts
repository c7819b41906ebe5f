import { ControlWord, DriveState, PowerUpStart, StationKind, Switch, UpDownKeeps, type OutputJob } from '../drive';
import { tripMachine, type Machine } from '../machine';
import { restingCleaning, type CleaningSettings, type CleaningState } from './cleaning';
import { wakingMemory, type CommandInputs, type CommandMemory, type CommandSettings, type HoldBack, type Resolution } from './command';
import type { Doing } from './doing';
import { emergencySpeed, restingEmergency, stepEmergency, type EmergencySettings, type EmergencyState } from './emergency';
import { smoothed } from './feedback';
import { beginFill, restingFill, type FillSettings, type FillState } from './filling';
import { beginGuards, restingGuards, type GuardSettings, type GuardState } from './guards';
import { outputOn, type Threshold } from './outputs';
import { ownRun, tellStation } from './ownRun';
import { leaveProcess, restingProcess, type ProcessSettings, type ProcessState } from './process';
import { resolveCommand } from './resolve';
import { restingStation, type StationSettings, type StationState, type StationWire } from './station';

/** The terminals are read this often, s. */
export const scanStep = 0.01;

/** What a drive's settings say about command, speed, process, guards and outputs. */
export interface ControlSettings {
  command: CommandSettings;
  process: ProcessSettings;
  guards: GuardSettings;
  fill: FillSettings;
  cleaning: CleaningSettings;
  /** s it runs on after its start is taken away, and Hz; 0 Hz as it was */
  runOn: { time: number; frequency: number };
  /** Hz a machine that stands in automatic turns at while its frost contact is closed; 0 never */
  frost: number;
  emergency: EmergencySettings;
  station: StationSettings;
  outputs: readonly OutputJob[];
  threshold: Threshold;
  /** see LinkLossAction */
  onLinkLoss: number;
}

/** What speaks to a drive from outside it: the rest of {@link CommandInputs} it knows by itself. */
export interface OutsideInputs extends Omit<CommandInputs, 'torqueAllowed' | 'trip' | 'present'> {
  /** what the drives of a station tell one another; null for one that stands alone */
  station: StationWire | null;
  /** h this drive has run */
  hours: number;
}

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
  readonly guards: GuardState;
  readonly fill: FillState;
  readonly cleaning: CleaningState;
  readonly emergency: EmergencyState;
  readonly station: StationState;
  /** h the pumps on contactors have run, by number; the drive's own first */
  readonly pumpHours: number[];
  /** torque over rated, smoothed, that its guards go by */
  load: number;
  /** s left of running on */
  runsOn: number;
  /** what it does beside what it is told */
  doing: Doing;
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
  guards: restingGuards(),
  fill: restingFill(),
  cleaning: restingCleaning(),
  emergency: restingEmergency(),
  station: restingStation(),
  pumpHours: [0, 0, 0, 0],
  load: 0,
  runsOn: 0,
  doing: 'nothing',
  wasRunning: false,
});

/** What a power-on makes of a start that is already given. */
export function powerOnControls(state: ControlState, s: ControlSettings): void {
  const kept = s.command.upDownKeeps === UpDownKeeps.keeps ? state.memory.upDown : 0;
  state.memory = wakingMemory(s.command.startAfterPowerUp === PowerUpStart.needsNew, kept);
  state.resolution = null;
  state.emergency.active = false;
  state.runsOn = 0;
  leaveProcess(state.process);
  beginGuards(state.guards);
}

/** Hands what the terminals say to the machine's protections. */
function tellProtections(m: Machine, r: Resolution): void {
  m.conditions.secondRamp = r.secondRamp ? 1 : 0;
  m.conditions.externalTrip = r.externalTrip ? 1 : 0;
  m.conditions.liveZeroLost = r.liveZeroLost ? 1 : 0;
}

/** What can be seen only when a run begins: settings that contradict each other trip the drive. */
function begin(state: ControlState, s: ControlSettings, m: Machine, r: Resolution): void {
  const { drive, rating } = m.spec;
  leaveProcess(state.process);
  beginGuards(state.guards);
  if (r.speed === 'process') beginFill(state.fill, s.fill, state.feedback);
  state.cleaning.left = 0;
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
    pumps: s.station.kind === StationKind.contactors && running ? state.station.order : none,
    warns: state.guards.warns.length > 0,
    emergency: state.emergency.active,
  };
  return s.outputs.map((job, i) => outputOn(job, facts, s.threshold, state.outputs[i] === true));
}

const none: readonly number[] = [];

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
  // smoke comes before whoever holds the drive over the link
  const emergency = stepEmergency(state.emergency, s.emergency, r.emergency, m, dt);
  if (emergency.runs) {
    state.station.order = [];
    state.doing = 'emergency';
    state.reference = emergencySpeed(s.emergency);
    state.word = wordFor(m.state, true, emergency.clears);
    return;
  }
  tellStation(state, s, m, r, outside);
  if (r.borrowed) {
    // whoever has it over the link runs this pump, and no other
    state.station.order = [];
    state.doing = 'nothing';
    return;
  }
  const fresh = r.run && !state.wasRunning;
  if (fresh) begin(state, s, m, r);
  if (r.freezeStat && r.run) tripMachine(m, 'freezeStat');
  const wasRunning = state.wasRunning;
  state.wasRunning = r.run;
  if (!r.run) return noLonger(state, s, m, r, wasRunning, dt);
  const own = ownRun(state, s, m, r, outside, fresh, dt);
  state.doing = own.doing;
  state.reference = own.reference ?? 0;
  state.word = wordFor(m.state, own.reference !== null, r.clearsTrip);
}

/** Holds through which a machine may run on: its start is gone, and nobody stopped it. */
const runsOnThrough: readonly HoldBack[] = ['not asked'];

/** A drive whose start is gone: it stands, or runs on for a time where that is set. */
function noLonger(state: ControlState, s: ControlSettings, m: Machine, r: Resolution, wasRunning: boolean, dt: number): void {
  const may = m.state === DriveState.operationEnabled && r.holds.every((h) => runsOnThrough.includes(h));
  state.runsOn = !may || s.runOn.time <= 0 ? 0 : wasRunning ? s.runOn.time : Math.max(0, state.runsOn - dt);
  if (wasRunning) {
    beginGuards(state.guards);
    state.fill.filling = false;
    state.cleaning.left = 0;
    state.station.order = [];
  }
  const on = state.runsOn > 0;
  if (!on || state.doing !== 'running on') leaveProcess(state.process);
  if (on && s.runOn.frequency > 0) state.reference = Math.sign(m.ramp || 1) * s.runOn.frequency;
  else if (!on) state.reference = 0;
  state.doing = on ? 'running on' : 'nothing';
  state.word = wordFor(m.state, on, r.clearsTrip);
}
