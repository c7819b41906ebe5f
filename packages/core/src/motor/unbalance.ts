import { emptyOperation, operateInto, type Circuit } from './circuit';

/** Symmetrical components of three phasors by Fortescue (1918), as RMS magnitudes. Zero sequence cannot flow in three wires. */
export interface SequenceVoltages {
  /** phase RMS, V */
  positive: number;
  negative: number;
}

/**
 * Positive and negative sequence from the three line voltages alone: the phasors close a triangle, so their magnitudes fix it
 * (IEC 61000-4-30, formula for the negative-sequence ratio from fundamental line voltages).
 * @throws RangeError when the three close no triangle
 */
export function sequenceVoltages(ab: number, bc: number, ca: number): SequenceVoltages {
  const squares = ab ** 2 + bc ** 2 + ca ** 2;
  const beta = (ab ** 4 + bc ** 4 + ca ** 4) / squares ** 2;
  const inner = 3 - 6 * beta;
  // three equal voltages come out a rounding below zero
  if (!(inner >= -1e-12)) throw new RangeError(`${ab}, ${bc} and ${ca} V cannot be the three line voltages of one supply`);
  const root = Math.sqrt(Math.max(0, inner));
  // line magnitudes: |U₁|² + |U₂|² = Σ U² / 3, their ratio √((1 − √(3 − 6β)) / (1 + √(3 − 6β)))
  const ratio = Math.sqrt(Math.max(0, (1 - root) / (1 + root)));
  const positive = Math.sqrt(squares / 3 / (1 + ratio * ratio));
  return { positive: positive / Math.sqrt(3), negative: (ratio * positive) / Math.sqrt(3) };
}

export interface SequenceOperation {
  /** A RMS */
  positiveCurrent: number;
  negativeCurrent: number;
  /** N·m in the gap, the negative sequence braking */
  torque: number;
  /** W, copper of stator and rotor of both sequences */
  copperLoss: number;
  /** W at the terminals */
  input: number;
}

const forward = emptyOperation();
const backward = emptyOperation();

/** A motor on an unbalanced supply: both sequences on the same circuit, the negative one turning against the rotor (IEEE 112). */
export function operateUnbalanced(c: Circuit, u: SequenceVoltages, frequency: number, speed: number): SequenceOperation {
  operateInto(forward, c, u.positive, frequency, speed);
  operateInto(backward, c, u.negative, frequency, -speed);
  return {
    positiveCurrent: forward.current,
    negativeCurrent: backward.current,
    torque: forward.torque - backward.torque,
    copperLoss: forward.statorCopperLoss + forward.rotorCopperLoss + backward.statorCopperLoss + backward.rotorCopperLoss,
    input: forward.input + backward.input,
  };
}

/**
 * One motor lead open: both sequence circuits in series across the line voltage, I₁ = I₂ = I/√3 (Kundur, *Power System Stability
 * and Control*, ch. 13, open conductor). No torque at standstill. `out.current` is that of the two leads left, A RMS.
 * @param voltage phase RMS of the healthy system, V
 */
export function operateOpenPhase(out: SequenceOperation & { current: number }, c: Circuit, voltage: number, frequency: number, speed: number): void {
  operateInto(forward, c, voltage, frequency, speed);
  operateInto(backward, c, voltage, frequency, -speed);
  const z1 = voltage / forward.current;
  const z2 = voltage / backward.current;
  const re = z1 * forward.powerFactor + z2 * backward.powerFactor;
  const im = z1 * Math.sqrt(Math.max(0, 1 - forward.powerFactor ** 2)) + z2 * Math.sqrt(Math.max(0, 1 - backward.powerFactor ** 2));
  // √3 V across z1 + z2 in series carries the line current over √3 in each sequence
  const sequence = voltage / Math.sqrt(re * re + im * im);
  const a = (sequence / forward.current) ** 2;
  const b = (sequence / backward.current) ** 2;
  out.current = Math.sqrt(3) * sequence;
  out.positiveCurrent = sequence;
  out.negativeCurrent = sequence;
  out.torque = a * forward.torque - b * backward.torque;
  out.copperLoss = a * (forward.statorCopperLoss + forward.rotorCopperLoss) + b * (backward.statorCopperLoss + backward.rotorCopperLoss);
  out.input = a * forward.input + b * backward.input;
}
