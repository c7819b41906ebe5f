import { cageAt, copperAt, emptyOperation, operateInto, type Circuit } from '../motor';
import type { MachineSpec } from '../machine';

/** What a tune on the motor measured; what it did not measure is null. */
export interface Tuned {
  /** Ω per phase */
  statorResistance: number | null;
  rotorResistance: number | null;
  /** X1 + X2 per phase at rated frequency, Ω */
  leakageReactance: number | null;
  /** A at rated volts and frequency with nothing coupled */
  noLoadCurrent: number | null;
}

/** A drawn by the circuit at rated phase volts and synchronous speed. */
export function noLoadCurrentOf(c: Circuit, phaseVoltage: number): number {
  const synchronous = (4 * Math.PI * c.ratedFrequency) / c.poles;
  return operateInto(emptyOperation(), c, phaseVoltage, c.ratedFrequency, synchronous).current;
}

/** The magnetising reactance with which the circuit draws a no-load current, by bisection: more reactance, less current. Ω. */
function magnetisingFor(c: Circuit, phaseVoltage: number, current: number): number {
  let low = 0.1 * c.xm;
  let high = 10 * c.xm;
  for (let i = 0; i < 50; i++) {
    const middle = Math.sqrt(low * high);
    if (noLoadCurrentOf({ ...c, xm: middle }, phaseVoltage) > current) low = middle;
    else high = middle;
  }
  return Math.sqrt(low * high);
}

/**
 * Rotor and leakage with what the standstill test neglects put back: the magnetising branch beside the rotor took its part of the test
 * current, so that R2 reads low by (Xm / (Xm + X2))² and X2 by Xm / (Xm + X2) (IEEE Std 112, impedance test).
 * @param c with the magnetising reactance as far as it is known; at the test's low flux its iron is straight
 */
function besideMagnetising(c: Circuit, t: Tuned): Pick<Circuit, 'r2' | 'x1' | 'x2'> {
  const xm = c.xm / (1 - (c.saturation ?? 0));
  const stator = c.x1 / (c.x1 + c.x2);
  let { x1, x2 } = c;
  if (t.leakageReactance !== null) {
    // the split between stator and rotor is kept; two leakages in a row settle within a thousandth
    let whole = t.leakageReactance;
    for (let i = 0; i < 6; i++) {
      const rotor = (1 - stator) * whole;
      whole = t.leakageReactance + (rotor * rotor) / (xm + rotor);
    }
    x1 = stator * whole;
    x2 = whole - x1;
  }
  return { r2: t.rotorResistance === null ? c.r2 : t.rotorResistance * ((xm + x2) / xm) ** 2, x1, x2 };
}

/** °C at which a motor is taken to be measured: before its first run. */
const measuredAt = 25;

/**
 * The estimate with measured constants in the place of estimated ones; resistances, measured cold, are carried to the temperature the circuit holds
 * at. Leakage keeps the split between stator and rotor. Pure.
 */
export function applyTuned(spec: MachineSpec, cold: Tuned): MachineSpec {
  const t: Tuned = { ...cold, rotorResistance: cold.rotorResistance === null ? null : cold.rotorResistance / cageAt(measuredAt) };
  const { motorVoltage } = spec.drive;
  const circuit: Circuit = { ...spec.circuit, r1: t.statorResistance === null ? spec.circuit.r1 : t.statorResistance / copperAt(measuredAt) };
  // leakage and magnetising branch each stand in the other's test
  for (let i = 0; i < 3; i++) {
    Object.assign(circuit, besideMagnetising({ ...circuit, x1: spec.circuit.x1, x2: spec.circuit.x2, r2: spec.circuit.r2 }, t));
    if (t.noLoadCurrent !== null) circuit.xm = magnetisingFor(circuit, motorVoltage / Math.sqrt(3), t.noLoadCurrent);
  }
  return { ...spec, circuit };
}
