import { beltMassAt } from '@yare/core';
import type { MeasurementId } from '@yare/core/trips';
import type { SimulatedDrive } from '../drive/simulatedDrive';

/** Shares of rated torque from which a shaft turns hard by hand, and does not turn at all. */
const hard = 0.25;
const fast = 3;
/** Shares of the supply on record within which a meter is taken to read right. */
const rightVolts = { low: 0.9, high: 1.07 };
/** °C of the room that a panel is too warm in. */
const warmPanel = 40;
/** Times the usual load from which a belt is overloaded to whoever looks. */
const muchLoad = 1.8;

/** What a person with instruments finds at a machine of the bench, as it stands now. The drive's link knows nothing of this. */
export function reading(d: SimulatedDrive, id: MeasurementId): string {
  const { plant, machine: m, demo } = d;
  const { load, brake, drive, rating } = m.spec;
  const c = m.conditions;
  const pump = load.kind === 'pump' ? load : null;
  const held = (plant.jam + plant.rags * plant.ratedTorque) / plant.ratedTorque;
  switch (id) {
    case 'lineVoltage': {
      if (c.inputPhaseOpen === 1) return 'one phase missing';
      const share = m.spec.supply.voltage / demo.supply.voltage;
      return share < rightVolts.low ? 'low' : share > rightVolts.high ? 'high' : 'right';
    }
    case 'supplyHistory':
      return plant.supplySeen;
    case 'resistorOhms':
      // without a chopper nobody has one to measure
      if (drive.chopper === 0) return 'right';
      return c.resistorOpen === 1 ? 'open' : drive.brakeResistance < rating.leastResistance ? 'below what the drive allows' : 'right';
    case 'loadPulls':
      return m.loadState.torque < 0 || (load.kind === 'conveyor' && load.slope < -0.2) ? 'pulls along' : 'has to be driven';
    case 'turnByHand':
      return held > fast ? 'does not turn' : held > hard ? 'turns hard' : 'turns freely';
    case 'machineLoad': {
      if (load.kind !== 'conveyor') return plant.thickness > muchLoad ? 'overloaded' : 'usual';
      const usual = beltMassAt({ ...load, feed: plant.usualFeed }, m.spec.circuit.ratedSpeed);
      return m.loadState.mass > muchLoad * usual ? 'overloaded' : m.loadState.mass < 0.1 * usual ? 'empty' : 'usual';
    }
    case 'insulation':
      return c.earthConductance > 0 ? 'low' : 'sound';
    case 'motorLeads':
      return c.shortCircuit === 1 ? 'shorted' : c.motorPhaseOpen === 1 ? 'one open' : 'sound';
    case 'brakeOpens':
      return !brake ? 'there is none' : drive.holdingBrake === 1 ? 'opens' : 'stays shut';
    case 'coupling':
      return c.coupling === 0 ? 'apart' : 'whole';
    case 'suction':
      return pump && m.loadState.level < pump.dryLevel ? 'draws air' : 'full';
    case 'valves':
      return pump && (pump.dischargeOpening === 0 || pump.demandOpening === 0) ? 'shut' : 'open';
    case 'leaks':
      return pump && pump.demand > 3 * plant.usualDemand ? 'leaks' : 'tight';
    case 'wheel':
      return plant.rags > 0 ? 'something round it' : 'clear';
    case 'milliamperes':
      return plant.signal < 0.5 ? 'none' : plant.signal < 3.6 ? 'under 3.6' : '4 to 20';
    case 'chainContact':
      return plant.wiring.externalHealthy ? 'closed' : 'open';
    case 'safetyContacts':
      return c.sto1 !== c.sto2 ? 'one open' : 'both closed';
    case 'panelFan':
      return c.heatsinkFan === 1 ? 'turns' : 'stands';
    case 'panelTemperature':
      return c.ambient > warmPanel ? 'above 40' : 'below 40';
    case 'motorFan':
      return c.motorFan === 1 ? 'clear' : 'blocked';
    case 'linkCable':
      return plant.wiring.linkCut || plant.linkWasCut ? 'loose' : 'sound';
    case 'thermostat':
      return d.panel.state.coil === 1 ? 'freezes' : 'does not';
    // nothing of the bench is connected, stamped or wired otherwise than on record
    case 'connection':
      return 'as stamped';
    case 'stampedCurrent':
      return 'as on record';
    case 'flowSwitchTest':
      return 'follows the flow';
    case 'signalType':
      return '4 to 20 mA';
    case 'masterRuns':
      return 'runs';
  }
}
