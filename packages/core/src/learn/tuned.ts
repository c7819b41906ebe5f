import { operateInto, emptyOperation, type Circuit } from '../motor';
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

/** The estimate with measured constants in the place of estimated ones; leakage keeps the split between stator and rotor. Pure. */
export function applyTuned(spec: MachineSpec, t: Tuned): MachineSpec {
  const c = spec.circuit;
  const leak = t.leakageReactance === null ? 1 : t.leakageReactance / (c.x1 + c.x2);
  const circuit: Circuit = {
    ...c,
    r1: t.statorResistance ?? c.r1,
    r2: t.rotorResistance ?? c.r2,
    x1: c.x1 * leak,
    x2: c.x2 * leak,
  };
  const { motorVoltage } = spec.drive;
  if (t.noLoadCurrent !== null) circuit.xm = magnetisingFor(circuit, motorVoltage / Math.sqrt(3), t.noLoadCurrent);
  return { ...spec, circuit };
}
