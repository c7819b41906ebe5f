import { beltMassAt, Switch, type Machine } from '@yare/core';
import type { Plant } from '../plant/plant';
import type { Wiring } from '../plant/wiring';

/** Something that goes wrong on the plant side; the drive is told nothing of it. */
export interface Fault {
  id: string;
  name: string;
  /** what happens in the plant */
  what: string;
  /** s after which it is over by itself; until it is put right when absent */
  lasts?: number;
  /** whether it is over because of what the machine did */
  over?(p: Plant): boolean;
  applies(p: Plant): boolean;
  strike(p: Plant): void;
  heal(p: Plant): void;
}

const any = (): boolean => true;
const kind =
  (...kinds: string[]) =>
  (p: Plant): boolean =>
    kinds.includes(p.demo.driven.kind);

const condition = (key: keyof Machine['conditions'], struck: number, sound: number): Pick<Fault, 'strike' | 'heal'> => ({
  strike: (p) => {
    p.machine.conditions[key] = struck;
  },
  heal: (p) => {
    p.machine.conditions[key] = sound;
  },
});

/** A wire that is not as it should be. */
const wire = (key: keyof Wiring, struck: boolean): Pick<Fault, 'strike' | 'heal'> => ({
  strike: (p) => (p.wiring[key] = struck),
  heal: (p) => (p.wiring[key] = !struck),
});

/** What lies on a belt beyond its usual load is taken off with the fault. */
function takeOff({ machine: { spec, loadState } }: Plant): void {
  if (spec.load.kind === 'conveyor') loadState.mass = Math.min(loadState.mass, beltMassAt(spec.load, spec.circuit.ratedSpeed));
}

const supply = (share: number, seen: Plant['supplySeen'] = 'nothing seen'): Pick<Fault, 'strike' | 'heal'> => ({
  strike: (p) => {
    p.supply.fault = share;
    p.supplySeen = seen;
  },
  heal: (p) => (p.supply.fault = 1),
});

export const faults: readonly Fault[] = [
  { id: 'dip', name: 'Supply dip', what: 'The supply falls to 55 % for 0.4 s.', lasts: 0.4, applies: any, ...supply(0.55, 'lights dipped') },
  { id: 'sag', name: 'Supply low', what: 'The supply stays at 82 %.', applies: any, ...supply(0.82) },
  {
    id: 'swell',
    name: 'Supply high',
    what: 'The supply rises to 160 % for 0.2 s, as when a large load is switched off.',
    lasts: 0.2,
    applies: any,
    ...supply(1.6, 'lights flared'),
  },
  {
    id: 'outage',
    name: 'Power failure',
    what: 'The supply is gone for 4 s and comes back.',
    lasts: 4,
    applies: any,
    strike: (p) => {
      p.supplySeen = 'power was off';
      p.switchMains(false);
    },
    heal: (p) => p.switchMains(true),
  },
  { id: 'inputPhase', name: 'Supply phase lost', what: 'A fuse in one supply phase blows.', applies: any, ...condition('inputPhaseOpen', 1, 0) },
  { id: 'motorPhase', name: 'Motor lead open', what: 'One motor lead comes loose.', applies: any, ...condition('motorPhaseOpen', 1, 0) },
  {
    id: 'earth',
    name: 'Earth fault',
    what: 'A motor lead touches the frame through wet insulation.',
    applies: any,
    strike: (p) => (p.machine.conditions.earthConductance = (0.8 * p.machine.spec.rating.current) / 80),
    heal: (p) => (p.machine.conditions.earthConductance = 0),
  },
  { id: 'short', name: 'Short in the motor cable', what: 'Two motor leads touch.', applies: any, ...condition('shortCircuit', 1, 0) },
  { id: 'jam', name: 'Jam', what: 'Something holds the shaft.', applies: any, strike: (p) => (p.jam = 6 * p.ratedTorque), heal: (p) => (p.jam = 0) },
  {
    id: 'drag',
    name: 'Dragging bearing',
    what: 'A bearing takes rated torque on top of the load.',
    applies: any,
    strike: (p) => (p.jam = p.ratedTorque),
    heal: (p) => (p.jam = 0),
  },
  {
    id: 'leads',
    name: 'Two motor leads changed over',
    what: 'The field turns the other way: forward is backward at the shaft. Once it is cleared, the leads are wired as the machine wants.',
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
    ...wire('signalBroken', true),
  },
  {
    id: 'external',
    name: 'External contact opens',
    what: 'A thermal relay in the external trip chain opens.',
    applies: any,
    ...wire('externalHealthy', false),
  },
  {
    id: 'sto',
    name: 'One safety channel opens',
    what: 'Channel 1 of safe torque off opens, channel 2 does not.',
    applies: any,
    ...wire('channel1Broken', true),
  },
  {
    id: 'hot',
    name: 'Drive cannot cool',
    what: 'The heatsink fan stands and the panel is at 55 °C.',
    applies: any,
    strike: (p) => {
      p.machine.conditions.heatsinkFan = 0;
      p.machine.conditions.ambient = 55;
    },
    heal: (p) => {
      p.machine.conditions.heatsinkFan = 1;
      p.machine.conditions.ambient = 25;
    },
  },
  { id: 'motorFan', name: 'Motor fan blocked', what: 'The motor loses its own cooling.', applies: any, ...condition('motorFan', 0, 1) },
  {
    id: 'resistor',
    name: 'Brake resistor open',
    what: 'The brake resistor has burnt through.',
    applies: (p) => p.machine.spec.drive.chopper === Switch.on,
    ...condition('resistorOpen', 1, 0),
  },
  {
    id: 'valve',
    name: 'Discharge valve shut',
    what: 'Somebody shuts the valve behind the pump.',
    applies: kind('pump'),
    strike: (p) => p.changeLoad('pump', (l) => (l.dischargeOpening = 0)),
    heal: (p) => p.changeLoad('pump', (l) => (l.dischargeOpening = 1)),
  },
  {
    id: 'air',
    name: 'Suction draws air',
    what: 'The suction side runs empty.',
    applies: kind('pump'),
    strike: (p) => p.changeLoad('pump', (l) => (l.dryLevel = 5)),
    heal: (p) => p.changeLoad('pump', (l, sound) => (l.dryLevel = sound.dryLevel)),
  },
  {
    id: 'rags',
    name: 'Rags round the wheel',
    what: 'Something has wound itself round the pump’s wheel: it takes more torque, and comes off when it turns backwards for a while.',
    applies: kind('pump'),
    over: (p) => p.rags === 0,
    strike: (p) => (p.rags = 1),
    heal: (p) => (p.rags = 0),
  },
  {
    id: 'burst',
    name: 'Pipe burst',
    what: 'A pipe behind the pump has burst: six times the usual flow runs out.',
    applies: kind('pump'),
    strike: (p) => p.changeLoad('pump', (l, sound) => (l.demand = 6 * sound.demand)),
    heal: (p) => p.changeLoad('pump', (l, sound) => (l.demand = sound.demand)),
  },
  {
    id: 'checkValve',
    name: 'Check valve leaks',
    what: 'The check valve no longer holds: the pressure falls as soon as the pump stands.',
    applies: kind('pump'),
    strike: (p) => p.changeLoad('pump', (l) => (l.checkValve = 0.7)),
    heal: (p) => p.changeLoad('pump', (l) => (l.checkValve = 1)),
  },
  {
    id: 'filter',
    name: 'Filter clogged',
    what: 'The filter takes twelve times what it takes when clean.',
    applies: kind('fan'),
    strike: (p) => p.changeLoad('fan', (l) => (l.clogging = 12)),
    heal: (p) => p.changeLoad('fan', (l, sound) => (l.clogging = sound.clogging)),
  },
  {
    id: 'overload',
    name: 'Belt overloaded',
    what: 'Four times the usual load lies on the belt.',
    applies: kind('conveyor'),
    strike: (p) => {
      p.changeLoad('conveyor', (l, sound) => (l.feed = 4 * sound.feed));
      p.machine.loadState.mass *= 4;
    },
    heal: (p) => {
      p.changeLoad('conveyor', (l, sound) => (l.feed = sound.feed));
      takeOff(p);
    },
  },
  {
    id: 'overhauling',
    name: 'Load drives the motor',
    what: 'The belt now runs down a steep slope with three times its load: the load pulls it along.',
    applies: kind('conveyor'),
    strike: (p) => {
      p.changeLoad('conveyor', (l, sound) => {
        l.slope = -1.05;
        l.frictionCoefficient = sound.frictionCoefficient * 0.25;
        l.feed = 3 * sound.feed;
      });
      p.machine.loadState.mass *= 3;
    },
    heal: (p) => {
      p.changeLoad('conveyor', (l, { slope, frictionCoefficient, feed }) => Object.assign(l, { slope, frictionCoefficient, feed }));
      takeOff(p);
    },
  },
  {
    id: 'link',
    name: 'Link cable pulled',
    what: 'The drive hears and says nothing over its link.',
    applies: any,
    strike: (p) => {
      p.linkWasCut = true;
      p.wiring.linkCut = true;
    },
    heal: (p) => (p.wiring.linkCut = false),
  },
];
