import { bookById, DriveSettings } from '@yare/books';
import { InputJob } from '@yare/core';
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

export interface PanelWires {
  /** contacts closed, in the order of the drive's inputs */
  closed: boolean[];
  /** share of a knob wired to the first analogue input; null when a sensor is there */
  knob: number | null;
  /** share of the knob for hand; null when there is none */
  handSpeed: number | null;
}

export interface Panel {
  devices: readonly PanelDevice[];
  /** how the panel is wired; `healthy` is the contact of the external trip chain, `flow` that of a flow switch */
  wires(state: Readonly<Record<string, number>>, healthy: boolean, flow: boolean): PanelWires;
}

const emergencyStop: PanelDevice = { id: 'stop', kind: 'emergency stop', label: 'Emergency stop', rest: 0 };
const reset: PanelDevice = { id: 'reset', kind: 'push', label: 'Reset', rest: 0 };
/** Positions of a hand-off-auto selector. */
const Mode = { hand: 0, off: 1, auto: 2 } as const;
const handOffAuto: PanelDevice = { id: 'mode', kind: 'selector', label: 'Mode', positions: ['Hand', 'Off', 'Auto'], rest: Mode.off };
const handKnob: PanelDevice = { id: 'knob', kind: 'knob', label: 'Hand speed', rest: 0.5 };

/** Hand-off-auto with a knob for hand; a process sensor on the first analogue input. Inputs differ by family. */
const processPanel = (order: 'osier' | 'sallow'): Panel => ({
  devices: [handOffAuto, handKnob, reset, emergencyStop],
  wires: (s, healthy, flow) => {
    const hand = s.mode === Mode.hand;
    const auto = s.mode === Mode.auto;
    const pressed = s.reset === 1;
    return {
      closed: order === 'osier' ? [false, flow, pressed, hand, auto, healthy] : [false, pressed, hand, auto, healthy, flow, false, false],
      knob: null,
      handSpeed: s.knob ?? 0,
    };
  },
});

/** Start and stop buttons in three wires, two switches for preset speeds. */
const buttonPanel: Panel = {
  devices: [
    { id: 'start', kind: 'push', label: 'Start', rest: 0 },
    { id: 'halt', kind: 'push', label: 'Stop', rest: 0 },
    { id: 'bit0', kind: 'switch', label: 'Speed 1', rest: 1 },
    { id: 'bit1', kind: 'switch', label: 'Speed 2', rest: 1 },
    reset,
    emergencyStop,
  ],
  wires: (s, healthy) => ({
    closed: [s.start === 1, s.halt !== 1, s.reset === 1, s.bit0 === 1, s.bit1 === 1, healthy],
    knob: null,
    handSpeed: null,
  }),
};

/** A run switch and a speed knob. */
const knobPanel: Panel = {
  devices: [
    { id: 'run', kind: 'selector', label: 'Belt', positions: ['Stop', 'Run'], rest: 0 },
    { id: 'knob', kind: 'knob', label: 'Speed', rest: 0.6 },
    reset,
    emergencyStop,
  ],
  wires: (s, healthy) => ({ closed: [s.run === 1, false, s.reset === 1, false, false, healthy], knob: s.knob ?? 0, handSpeed: null }),
};

/** Both directions, a knob, and a switch for a fixed slow speed; four inputs leave none for a reset. */
const stirrerPanel: Panel = {
  devices: [
    { id: 'way', kind: 'selector', label: 'Stirrer', positions: ['Backward', 'Off', 'Forward'], rest: 1 },
    { id: 'knob', kind: 'knob', label: 'Speed', rest: 0.7 },
    { id: 'slow', kind: 'switch', label: 'Slow', rest: 0 },
    emergencyStop,
  ],
  wires: (s, healthy) => ({ closed: [s.way === 2, s.way === 0, s.slow === 1, healthy], knob: s.knob ?? 0, handSpeed: null }),
};

const panels: Record<string, Panel> = {
  'P-11': processPanel('osier'),
  'P-41': processPanel('sallow'),
  'P-42': processPanel('sallow'),
  'P-43': processPanel('sallow'),
  'F-32': processPanel('sallow'),
  'C-07': buttonPanel,
  'C-21': knobPanel,
  'M-55': stirrerPanel,
};

/** Contacts as the factory has the inputs do their jobs: a run switch or hand-off-auto, a reset, the trip chain; what must be closed to run is. */
function factoryPanel({ bookId, size, region }: DemoMachine): Panel {
  const { jobs } = new DriveSettings(bookById(bookId), size, {}, region);
  const modes = jobs.includes(InputJob.hand) && jobs.includes(InputJob.auto);
  return {
    devices: [
      modes ? handOffAuto : { id: 'run', kind: 'selector', label: 'Machine', positions: ['Stop', 'Run'], rest: 0 },
      { id: 'knob', kind: 'knob', label: 'Speed', rest: 0.6 },
      ...(jobs.includes(InputJob.resetTrip) ? [reset] : []),
      emergencyStop,
    ],
    wires: (s, healthy) => ({
      closed: jobs.map((job) => {
        switch (job) {
          case InputJob.runForward:
            return s.run === 1;
          case InputJob.hand:
            return modes && s.mode === Mode.hand;
          case InputJob.auto:
            return modes && s.mode === Mode.auto;
          case InputJob.resetTrip:
            return s.reset === 1;
          case InputJob.externalTrip:
            return healthy;
          default:
            return job === InputJob.enable || job === InputJob.stopOpens;
        }
      }),
      knob: s.knob ?? 0,
      handSpeed: modes ? (s.knob ?? 0) : null,
    }),
  };
}

/** The panel a machine of the demo plant has, or one as the factory thinks of it. */
export const panelOf = (demo: DemoMachine): Panel => panels[demo.tag] ?? factoryPanel(demo);
