import type { Machine } from './state';

/** 1 when a positive output turns the shaft forward, −1 when leads or setting turn the field round; both together cancel. */
export const fieldOrder = (m: Machine): number => (m.conditions.phasesSwapped === m.spec.drive.phaseOrder ? 1 : -1);

/** Hz the rotor turns with, signed as the output is. */
export const rotorFrequency = (m: Machine): number => (fieldOrder(m) * m.speed * m.spec.circuit.poles) / (4 * Math.PI);
