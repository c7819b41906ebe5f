import {
  coolingShare,
  driveContinuous,
  driveOverloadTime,
  earthFaultShare,
  overloadTimeConstant,
  protections,
  ripplePhaseLoss,
  stepHeat,
  stepHeatsink,
  stepResistorHeat,
  thermistorTrip,
  tripCauses,
  DriveState,
  LiveZeroAction,
  MotorCooling,
  Switch,
  type TripCause,
} from '../drive';
import { fanCooling, stepMotorTemperature } from '../motor';
import { tripMachine, warmCircuit, type Machine } from './state';

/** Thermal models and slow protections are advanced once in so many steps. */
const slowEvery = 10;
/** Half the height of a six-pulse crest over its mean: (1 − cos 30°) / 2 / 0.955 (Mohan, Undeland, Robbins, *Power Electronics*, ch. 5). */
const bareRipple = 0.07;
/** Share of its period for which a two-pulse bridge leaves the bus to itself (checked against a bridge diode by diode in the bench). */
const betweenPulses = 0.62;
/** A motor whose output has not moved further than this in the stall time has stalled, Hz. */
const stallBand = 1.5;
const index = Object.fromEntries(tripCauses.map((c, i) => [c, i])) as Record<TripCause, number>;

/** Fast levels every step, the rest every few. */
export function stepProtection(m: Machine, dt: number): void {
  if (m.steps % slowEvery === 0) stepTemperatures(m, dt * slowEvery);
  watchDrive(m, dt);
}

/**
 * What a drive watches, on what it measures and counts itself: its overloads, levels and delays as the settings and its size have them.
 * Temperatures and ripple are put into the machine by whoever knows them.
 */
export function watchDrive(m: Machine, dt: number): void {
  const { rating } = m.spec;
  if (m.steps % slowEvery === 0) {
    stepOverloads(m, dt * slowEvery);
    if (m.state !== DriveState.fault) watch(m, dt * slowEvery);
  }
  if (m.state === DriveState.fault) return;
  if (m.bus.voltage > rating.overvoltageTrip) tripMachine(m, 'overvoltage');
  else if (m.motor.current > rating.overcurrentTrip) tripMachine(m, 'overcurrent');
  else if (m.bus.voltage < rating.undervoltageTrip && m.state >= DriveState.switchedOn) {
    m.lowBusTime += dt;
    if (m.lowBusTime > protections.undervoltage.delay) tripMachine(m, 'undervoltage');
  } else m.lowBusTime = 0;
}

/** The drive's own reckoning of heat: motor, itself and brake resistor, over what trips them. */
function stepOverloads(m: Machine, dt: number): void {
  const { rating, drive } = m.spec;
  const { current } = m.motor;
  const speedShare = Math.abs(m.frequency) / drive.motorFrequency;
  const share = coolingShare(drive.motorCooling === MotorCooling.forced, speedShare);
  m.motorHeat = stepHeat(m.motorHeat, current / (drive.overloadCurrent * share), overloadTimeConstant(drive.overloadClass), dt);
  const { overloadShare } = rating;
  m.driveHeat = stepHeat(m.driveHeat, current / rating.current, driveOverloadTime(overloadShare), dt, driveContinuous(overloadShare));
  m.resistorHeat = stepResistorHeat(m.resistorHeat, m.bus.chopperPower / drive.resistorPower, dt);
}

/** Heatsink, winding and frame, and the ripple of the bus. */
function stepTemperatures(m: Machine, dt: number): void {
  const { rating, drive, supply } = m.spec;
  const { current } = m.motor;
  const c = m.conditions;
  m.heatsink = stepHeatsink(m.heatsink, rating, rating.idleLoss + rating.lossPerAmpere * current, c.ambient, c.heatsinkFan === 1, dt);
  const o = m.motor;
  const other = o.coreLoss + 0.5 * o.rotorCopperLoss;
  const turning = c.motorFan === 1 ? Math.abs(m.speed) / m.spec.circuit.ratedSpeed : 0;
  const cooling = fanCooling(drive.motorCooling === MotorCooling.forced && c.motorFan === 1, turning);
  stepMotorTemperature(m.temperature, m.spec.thermal, o.statorCopperLoss + 0.5 * o.rotorCopperLoss, other, cooling, c.ambient, dt);
  warmCircuit(m);
  const pulses = c.inputPhaseOpen === 1 || (supply.rectifier !== undefined && supply.rectifier !== 'three-phase') ? 2 : 6;
  const v = m.bus.voltage;
  // a six-pulse bridge never ripples more than its bare crests do, however small the capacitor
  const ripple = m.bus.rectifierPower / (2 * pulses * supply.frequency * rating.busCapacitance * v * v);
  m.ripple = pulses === 6 ? Math.min(ripple, bareRipple) : betweenPulses * ripple;
}

/** Trips when the condition has lasted longer than its delay; true when it did. */
function lasts(m: Machine, cause: TripCause, present: boolean, delay: number, dt: number): boolean {
  const i = index[cause];
  if (!present) {
    m.waiting[i] = 0;
    return false;
  }
  m.waiting[i] = (m.waiting[i] ?? NaN) + dt;
  return (m.waiting[i] ?? NaN) > delay && tripMachine(m, cause);
}

function watch(m: Machine, dt: number): void {
  const { rating, drive: p } = m.spec;
  const c = m.conditions;
  const on = m.state === DriveState.operationEnabled || m.state === DriveState.quickStop;
  const f = Math.abs(m.frequency);
  if (m.motorHeat >= 1 && tripMachine(m, 'motorOverload')) return;
  if (m.driveHeat >= 1 && tripMachine(m, 'driveOverload')) return;
  if (m.resistorHeat >= 1 && tripMachine(m, 'brakeResistor')) return;
  if (lasts(m, 'driveTemperature', m.heatsink > rating.temperatureTrip, protections.driveTemperature.delay, dt)) return;
  if (lasts(m, 'motorTemperature', p.motorSensor === Switch.on && m.temperature.winding > thermistorTrip, protections.motorTemperature.delay, dt))
    return;
  if (lasts(m, 'externalTrip', c.externalTrip === 1, protections.externalTrip.delay, dt)) return;
  if (lasts(m, 'stoDiscrepancy', c.sto1 !== c.sto2, protections.stoDiscrepancy.delay, dt)) return;
  if (lasts(m, 'liveZeroLoss', p.liveZeroLoss === LiveZeroAction.trip && on && c.liveZeroLost === 1, protections.liveZeroLoss.delay, dt)) return;
  if (lasts(m, 'inputPhaseLoss', p.phaseLoss === Switch.on && m.ripple > ripplePhaseLoss, protections.inputPhaseLoss.delay, dt)) return;
  if (!on) return;
  if (
    lasts(
      m,
      'earthFault',
      p.earthFault === Switch.on && m.voltage * c.earthConductance > earthFaultShare * rating.current,
      protections.earthFault.delay,
      dt,
    )
  )
    return;
  if (
    lasts(
      m,
      'outputPhaseLoss',
      p.phaseLoss === Switch.on && c.motorPhaseOpen === 1 && m.motor.current > 0.05 * rating.current,
      protections.outputPhaseLoss.delay,
      dt,
    )
  )
    return;
  if (lasts(m, 'overspeed', f > p.overspeedLevel * p.maximumFrequency, protections.overspeed.delay, dt)) return;
  // at the limit, far from speed, and getting nowhere: a heavy load that still gains speed is left alone
  const limited = m.motor.current > 0.93 * p.currentLimit && f < 0.6 * p.motorFrequency && m.goal !== 0;
  const stuck = limited && Math.abs(f - m.stallAt) <= stallBand;
  if (!stuck) m.stallAt = f;
  lasts(m, 'stall', p.stallTime > 0 && stuck, p.stallTime, dt);
}

/** Whether what tripped the drive is gone, so that a reset may act. */
export function causeGone(m: Machine): boolean {
  if (m.trip === null) return true;
  const policy = protections[m.trip.cause];
  if (policy.reset === 'power cycle') return false;
  const { rating } = m.spec;
  const c = m.conditions;
  if (m.bus.voltage >= rating.overvoltageTrip || m.bus.voltage <= rating.undervoltageTrip) return false;
  if (m.motorHeat >= 0.95 || m.driveHeat >= 0.95 || m.resistorHeat >= 0.7) return false;
  if (m.heatsink > rating.temperatureTrip - 10 || (m.spec.drive.motorSensor === Switch.on && m.temperature.winding > thermistorTrip - 15))
    return false;
  if (m.trip.cause === 'liveZeroLoss' && c.liveZeroLost === 1) return false;
  return c.externalTrip === 0;
}
