import type { Machine } from '@yare/core';
import type { SimulatedDrive } from './simulatedDrive';

/** Something that goes wrong on the plant side; the drive is told nothing of it. */
export interface Fault {
  id: string;
  name: string;
  /** what happens in the plant */
  what: string;
  /** s after which it is over by itself; until it is put right when absent */
  lasts?: number;
  applies(d: SimulatedDrive): boolean;
  strike(d: SimulatedDrive): void;
  heal(d: SimulatedDrive): void;
}

const any = (): boolean => true;
const kind =
  (...kinds: string[]) =>
  (d: SimulatedDrive): boolean =>
    kinds.includes(d.demo.driven.kind);

/** Rated torque as the plate gives it, N·m. */
const rated = (d: SimulatedDrive): number => d.ratedTorque;

const condition = (key: keyof Machine['conditions'], struck: number, sound: number): Pick<Fault, 'strike' | 'heal'> => ({
  strike: (d) => {
    d.machine.conditions[key] = struck;
  },
  heal: (d) => {
    d.machine.conditions[key] = sound;
  },
});

const supply = (share: number): Pick<Fault, 'strike' | 'heal'> => ({
  strike: (d) => (d.supplyFault = share),
  heal: (d) => (d.supplyFault = 1),
});

export const faults: readonly Fault[] = [
  { id: 'dip', name: 'Supply dip', what: 'The supply falls to 55 % for 0.4 s.', lasts: 0.4, applies: any, ...supply(0.55) },
  { id: 'sag', name: 'Supply low', what: 'The supply stays at 82 %.', applies: any, ...supply(0.82) },
  {
    id: 'swell',
    name: 'Supply high',
    what: 'The supply rises to 145 % for 0.2 s, as when a large load is switched off.',
    lasts: 0.2,
    applies: any,
    ...supply(1.45),
  },
  {
    id: 'outage',
    name: 'Power failure',
    what: 'The supply is gone for 4 s and comes back.',
    lasts: 4,
    applies: any,
    strike: (d) => d.powerOff(),
    heal: (d) => d.powerOn(),
  },
  { id: 'inputPhase', name: 'Supply phase lost', what: 'A fuse in one supply phase blows.', applies: any, ...condition('inputPhaseOpen', 1, 0) },
  { id: 'motorPhase', name: 'Motor lead open', what: 'One motor lead comes loose.', applies: any, ...condition('motorPhaseOpen', 1, 0) },
  {
    id: 'earth',
    name: 'Earth fault',
    what: 'A motor lead touches the frame through wet insulation.',
    applies: any,
    strike: (d) => (d.machine.conditions.earthConductance = (0.8 * d.machine.spec.rating.current) / 80),
    heal: (d) => (d.machine.conditions.earthConductance = 0),
  },
  { id: 'short', name: 'Short in the motor cable', what: 'Two motor leads touch.', applies: any, ...condition('shortCircuit', 1, 0) },
  { id: 'jam', name: 'Jam', what: 'Something holds the shaft.', applies: any, strike: (d) => (d.jam = 6 * rated(d)), heal: (d) => (d.jam = 0) },
  {
    id: 'drag',
    name: 'Dragging bearing',
    what: 'A bearing takes rated torque on top of the load.',
    applies: any,
    strike: (d) => (d.jam = rated(d)),
    heal: (d) => (d.jam = 0),
  },
  {
    id: 'leads',
    name: 'Two motor leads changed over',
    what: 'The field turns the other way: forward is backward at the shaft. Put right, the leads are wired as the machine wants.',
    applies: any,
    ...condition('phasesSwapped', 1, 0),
  },
  {
    id: 'coupling',
    name: 'Coupling apart',
    what: 'Broken or taken off: the motor turns and the machine does not.',
    applies: any,
    ...condition('coupling', 0, 1),
  },
  {
    id: 'wire',
    name: 'Signal wire broken',
    what: 'The 4 to 20 mA wire to the drive breaks: 0 mA.',
    applies: any,
    strike: (d) => (d.wireBroken = true),
    heal: (d) => (d.wireBroken = false),
  },
  {
    id: 'external',
    name: 'External contact opens',
    what: 'A thermal relay in the external trip chain opens.',
    applies: any,
    strike: (d) => (d.externalHealthy = false),
    heal: (d) => (d.externalHealthy = true),
  },
  {
    id: 'sto',
    name: 'One safety channel opens',
    what: 'Channel 1 of safe torque off opens, channel 2 does not.',
    applies: any,
    strike: (d) => (d.channel1Broken = true),
    heal: (d) => (d.channel1Broken = false),
  },
  {
    id: 'hot',
    name: 'Drive cannot cool',
    what: 'The heatsink fan stands and the panel is at 55 °C.',
    applies: any,
    strike: (d) => {
      d.machine.conditions.heatsinkFan = 0;
      d.machine.conditions.ambient = 55;
    },
    heal: (d) => {
      d.machine.conditions.heatsinkFan = 1;
      d.machine.conditions.ambient = 25;
    },
  },
  { id: 'motorFan', name: 'Motor fan blocked', what: 'The motor loses its own cooling.', applies: any, ...condition('motorFan', 0, 1) },
  {
    id: 'resistor',
    name: 'Brake resistor open',
    what: 'The brake resistor has burnt through.',
    applies: (d) => d.machine.spec.drive.chopper === 1,
    ...condition('resistorOpen', 1, 0),
  },
  {
    id: 'valve',
    name: 'Discharge valve shut',
    what: 'Somebody shuts the valve behind the pump.',
    applies: kind('pump'),
    strike: (d) => d.changeLoad('pump', (l) => (l.dischargeOpening = 0)),
    heal: (d) => d.changeLoad('pump', (l) => (l.dischargeOpening = 1)),
  },
  {
    id: 'air',
    name: 'Suction draws air',
    what: 'The suction side runs empty.',
    applies: kind('pump'),
    strike: (d) => d.changeLoad('pump', (l) => (l.dryLevel = 5)),
    heal: (d) => d.changeLoad('pump', (l) => (l.dryLevel = d.dryLevel)),
  },
  {
    id: 'checkValve',
    name: 'Check valve leaks',
    what: 'The check valve no longer holds: the pressure falls as soon as the pump stands.',
    applies: kind('pump'),
    strike: (d) => d.changeLoad('pump', (l) => (l.checkValve = 0.7)),
    heal: (d) => d.changeLoad('pump', (l) => (l.checkValve = 1)),
  },
  {
    id: 'filter',
    name: 'Filter clogged',
    what: 'The filter takes twelve times what it takes when clean.',
    applies: kind('fan'),
    strike: (d) => d.changeLoad('fan', (l) => (l.clogging = 12)),
    heal: (d) => d.changeLoad('fan', (l) => (l.clogging = 1)),
  },
  {
    id: 'overload',
    name: 'Belt overloaded',
    what: 'Four times the usual load lies on the belt.',
    applies: kind('conveyor'),
    strike: (d) => {
      d.changeLoad('conveyor', (l) => (l.feed = 4 * d.feed));
      d.machine.loadState.mass *= 4;
    },
    heal: (d) => d.changeLoad('conveyor', (l) => (l.feed = d.feed)),
  },
  {
    id: 'overhauling',
    name: 'Load drives the motor',
    what: 'The belt now runs down a steep slope with three times its load: the load pulls it along.',
    applies: kind('conveyor'),
    strike: (d) => {
      d.changeLoad('conveyor', (l) => {
        l.slope = -1.05;
        l.frictionCoefficient = d.friction * 0.25;
        l.feed = 3 * d.feed;
      });
      d.machine.loadState.mass *= 3;
    },
    heal: (d) =>
      d.changeLoad('conveyor', (l) => {
        l.slope = d.slope;
        l.frictionCoefficient = d.friction;
        l.feed = d.feed;
      }),
  },
  {
    id: 'link',
    name: 'Link cable pulled',
    what: 'The drive hears and says nothing over its link.',
    applies: any,
    strike: (d) => (d.linkCut = true),
    heal: (d) => (d.linkCut = false),
  },
];

/** When an armed fault strikes. */
export const triggers = ['now', 'next start', 'at speed', 'next stop'] as const;
export type Trigger = (typeof triggers)[number];

/** A fault that waits, has struck, or is over. */
export class ArmedFault {
  state: 'armed' | 'struck' = 'armed';
  /** s of the machine's time since it struck */
  age = 0;
  private was = { running: false, stopping: false };

  constructor(
    readonly fault: Fault,
    readonly trigger: Trigger,
    d: SimulatedDrive,
  ) {
    this.was = { running: d.running, stopping: d.stopping };
  }

  /** Advances by dt s; true when it is over by itself. */
  step(d: SimulatedDrive, dt: number): boolean {
    if (this.state === 'struck') {
      this.age += dt;
      if (this.fault.lasts !== undefined && this.age >= this.fault.lasts) {
        this.fault.heal(d);
        return true;
      }
      return false;
    }
    const starts = d.running && !this.was.running;
    const stops = d.stopping && !this.was.stopping;
    this.was = { running: d.running, stopping: d.stopping };
    const due =
      this.trigger === 'now' ||
      (this.trigger === 'next start' && starts) ||
      (this.trigger === 'next stop' && stops) ||
      (this.trigger === 'at speed' && d.atSpeed);
    if (due) {
      this.state = 'struck';
      this.fault.strike(d);
    }
    return false;
  }
}
