import { bookById, DriveSettings } from '@yare/books';
import { HandSpeed, InputJob, SpeedSource } from '@yare/core';
import type { DemoMachine } from './demoPlant';

/** One thing on a machine's panel that a hand can work. */
export interface PanelDevice {
  id: string;
  /** a push button springs back */
  kind: 'selector' | 'push' | 'switch' | 'knob' | 'emergency stop';
  label: string;
  /** of a selector, by value */
  positions?: readonly string[];
  /** where it stands at first */
  rest: number;
}

/** What a wire of a terminal leads to: a contact of the panel, closed at some of its positions, or one of the machine. */
export type PanelContact = { device: string; closedAt: readonly number[] } | { machine: 'external chain' | 'flow switch' };

export interface PanelWire {
  /** digital input of the drive */
  terminal: string;
  contact: PanelContact;
}

/** A panel with its wires; plain data, so that it can be wired anew and kept. */
export interface Panel {
  devices: readonly PanelDevice[];
  wires: readonly PanelWire[];
  /** knob on the first analogue input; null where the sensor is, or nothing */
  knob: string | null;
  /** knob on the second analogue input */
  secondKnob: string | null;
}

/** Keys of the drive itself, which no wire leads to. */
export const keypadKeys = { start: 'keyStart', stop: 'keyStop' } as const;

const push = (id: string, label: string): PanelDevice => ({ id, kind: 'push', label, rest: 0 });
const knob = (id: string, label: string, rest: number): PanelDevice => ({ id, kind: 'knob', label, rest });
const switchOf = (id: string, label: string, rest = 0): PanelDevice => ({ id, kind: 'switch', label, rest });
const selector = (id: string, label: string, positions: readonly string[], rest: number): PanelDevice => ({
  id,
  kind: 'selector',
  label,
  positions,
  rest,
});
const keypad: readonly PanelDevice[] = [push(keypadKeys.start, 'Keypad start'), push(keypadKeys.stop, 'Keypad stop')];
const emergencyStop: PanelDevice = { id: 'stop', kind: 'emergency stop', label: 'Emergency stop', rest: 0 };
const reset = push('reset', 'Reset');
const cleanNow = push('clean', 'Clean now');
/** Contacts of detectors open when they find something, so that a broken wire tells of it too. */
const smoke = switchOf('smoke', 'Smoke');
const coil = switchOf('coil', 'Coil freezes');
const handOffAuto = selector('mode', 'Mode', ['Hand', 'Off', 'Auto'], 1);

const at = (terminal: string, device: string, ...closedAt: number[]): PanelWire => ({ terminal, contact: { device, closedAt } });
const chain = (terminal: string): PanelWire => ({ terminal, contact: { machine: 'external chain' } });
const flow = (terminal: string): PanelWire => ({ terminal, contact: { machine: 'flow switch' } });
const ofDevices = (...devices: PanelDevice[]): PanelDevice[] => [...devices, emergencyStop, ...keypad];

/** Hand-off-auto with a knob for hand; a process sensor on the first analogue input. Inputs differ by family. */
const processPanel = (wires: readonly PanelWire[], ...more: PanelDevice[]): Panel => ({
  devices: ofDevices(handOffAuto, knob('knob', 'Hand speed', 0.5), reset, ...more),
  wires,
  knob: null,
  secondKnob: 'knob',
});
const osierPump = [at('D1', 'clean', 1), flow('D2'), at('D3', 'reset', 1), at('D4', 'mode', 0), at('D5', 'mode', 2), chain('D6')];
const sallowProcess = [at('C2', 'reset', 1), at('C3', 'mode', 0), at('C4', 'mode', 2), chain('C5')];
const sallowPump = [...sallowProcess, flow('C6'), at('C7', 'clean', 1), at('C8', 'frost', 1)];
const sallowFan = [...sallowProcess, at('C7', 'smoke', 0), at('C8', 'coil', 0)];
const frost = switchOf('frost', 'Frost thermostat');

const panels: Record<string, Panel> = {
  'P-11': processPanel(osierPump, cleanNow),
  'P-41': processPanel(sallowPump, cleanNow, frost),
  'P-42': processPanel(sallowPump, cleanNow, frost),
  'P-43': processPanel(sallowPump, cleanNow, frost),
  'F-32': processPanel(sallowFan, smoke, coil),
  // start and stop buttons in three wires, two switches for preset speeds
  'C-07': {
    devices: ofDevices(push('start', 'Start'), push('halt', 'Stop'), switchOf('bit0', 'Speed 1', 1), switchOf('bit1', 'Speed 2', 1), reset),
    wires: [at('D1', 'start', 1), at('D2', 'halt', 0), at('D3', 'reset', 1), at('D4', 'bit0', 1), at('D5', 'bit1', 1), chain('D6')],
    knob: null,
    secondKnob: null,
  },
  // a run switch and a speed knob
  'C-21': {
    devices: ofDevices(selector('run', 'Belt', ['Stop', 'Run'], 0), knob('knob', 'Speed', 0.6), reset),
    wires: [at('D1', 'run', 1), at('D3', 'reset', 1), chain('D6')],
    knob: 'knob',
    secondKnob: null,
  },
  // both directions, a knob, and a switch for a fixed slow speed; four inputs leave none for a reset
  'M-55': {
    devices: ofDevices(selector('way', 'Stirrer', ['Backward', 'Off', 'Forward'], 1), knob('knob', 'Speed', 0.7), switchOf('slow', 'Slow')),
    wires: [at('K1', 'way', 2), at('K2', 'way', 0), at('K3', 'slow', 1), chain('K4')],
    knob: 'knob',
    secondKnob: null,
  },
};

/** Device of each job that has one of its own, with the positions at which its contact is closed. */
const ownDevice: Partial<Record<InputJob, { device: PanelDevice; closedAt: number }>> = {
  [InputJob.startPulse]: { device: push('start', 'Start'), closedAt: 1 },
  [InputJob.reversePulse]: { device: push('back', 'Start backward'), closedAt: 1 },
  [InputJob.stopOpens]: { device: push('halt', 'Stop'), closedAt: 0 },
  [InputJob.hand]: { device: handOffAuto, closedAt: 0 },
  [InputJob.auto]: { device: handOffAuto, closedAt: 2 },
  [InputJob.presetBit0]: { device: switchOf('bit0', 'Speed switch A'), closedAt: 1 },
  [InputJob.presetBit1]: { device: switchOf('bit1', 'Speed switch B'), closedAt: 1 },
  [InputJob.presetBit2]: { device: switchOf('bit2', 'Speed switch C'), closedAt: 1 },
  [InputJob.presetBit3]: { device: switchOf('bit3', 'Speed switch D'), closedAt: 1 },
  [InputJob.secondSetpoint]: { device: switchOf('setpoint', 'Other set point'), closedAt: 1 },
  [InputJob.secondRamp]: { device: switchOf('ramp', 'Other ramp'), closedAt: 1 },
  [InputJob.direction]: { device: switchOf('direction', 'Backward'), closedAt: 1 },
  [InputJob.jogForward]: { device: push('jog', 'Jog forward'), closedAt: 1 },
  [InputJob.jogReverse]: { device: push('jogBack', 'Jog backward'), closedAt: 1 },
  [InputJob.faster]: { device: push('faster', 'Faster'), closedAt: 1 },
  [InputJob.slower]: { device: push('slower', 'Slower'), closedAt: 1 },
  [InputJob.local]: { device: switchOf('local', 'Local'), closedAt: 1 },
  [InputJob.enable]: { device: switchOf('enable', 'Enable', 1), closedAt: 1 },
  [InputJob.emergency]: { device: smoke, closedAt: 0 },
  [InputJob.frost]: { device: switchOf('frost', 'Frost thermostat'), closedAt: 1 },
  [InputJob.freezeStat]: { device: coil, closedAt: 0 },
  [InputJob.cleanNow]: { device: cleanNow, closedAt: 1 },
  [InputJob.resetTrip]: { device: reset, closedAt: 1 },
};

/** The contact a job is wired to when a panel is built for it; null for an input without a job. */
function contactFor(job: InputJob, bothWays: boolean): { wire: PanelContact; device: PanelDevice | null } | null {
  switch (job) {
    case InputJob.notUsed:
      return null;
    case InputJob.externalTrip:
      return { wire: { machine: 'external chain' }, device: null };
    case InputJob.flowSwitch:
      return { wire: { machine: 'flow switch' }, device: null };
    case InputJob.runForward:
    case InputJob.runReverse: {
      const backward = job === InputJob.runReverse;
      if (!bothWays) return { wire: { device: 'run', closedAt: [1] }, device: selector('run', 'Machine', ['Stop', 'Run'], 0) };
      return { wire: { device: 'way', closedAt: [backward ? 0 : 2] }, device: selector('way', 'Machine', ['Backward', 'Off', 'Forward'], 1) };
    }
    default: {
      const own = ownDevice[job];
      return own ? { wire: { device: own.device.id, closedAt: [own.closedAt] }, device: own.device } : null;
    }
  }
}

/**
 * A panel built for the jobs a drive's inputs have: what is closed at rest is what must be, knobs where a speed comes from a signal.
 * @param sensed a sensor is wired to the first analogue input
 */
export function panelFor(settings: DriveSettings, sensed = false): Panel {
  const { jobs, localJobs, remote, local, handSpeed } = settings.controls().command;
  const terminals = settings.book.terminals.filter((t) => t.kind === 'digital in');
  const devices = new Map<string, PanelDevice>();
  // a selector beside a run contact starts by its own position: the contact would be wired for nothing
  const modes = jobs.includes(InputJob.hand) || jobs.includes(InputJob.auto);
  const bothWays = jobs.includes(InputJob.runForward) && jobs.includes(InputJob.runReverse);
  const wires = terminals.flatMap(({ id }, n): PanelWire[] => {
    const job = jobs[n] || localJobs[n] || InputJob.notUsed;
    if (modes && (job === InputJob.runForward || job === InputJob.runReverse)) return [];
    const made = contactFor(job, bothWays);
    if (made?.device) devices.set(made.device.id, made.device);
    return made ? [{ terminal: id, contact: made.wire }] : [];
  });
  const speeds = [remote.speed, local.speed];
  const first = !sensed && speeds.includes(SpeedSource.analogue);
  const hand = jobs.includes(InputJob.hand) && handSpeed === HandSpeed.secondAnalogue;
  const second = hand || speeds.includes(SpeedSource.secondAnalogue);
  if (first) devices.set('knob', knob('knob', 'Speed', 0.6));
  if (second) devices.set('knob2', knob('knob2', 'Hand speed', 0.5));
  return { devices: ofDevices(...devices.values()), wires, knob: first ? 'knob' : null, secondKnob: second ? 'knob2' : null };
}

/** The panel a machine of the demo plant has, or one as the factory thinks of it. */
export const panelOf = (demo: DemoMachine): Panel =>
  panels[demo.tag] ??
  panelFor(new DriveSettings(bookById(demo.bookId), demo.size, {}, demo.region), 'sensor' in demo.driven && demo.driven.sensor !== null);
