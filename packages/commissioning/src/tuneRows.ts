import type { Setting } from '@yare/books';
import { noLoadCurrentOf, type Circuit } from '@yare/core';
import type { MachineModel } from './model';
import { tunedRoles } from './stages/tune';

/** One constant of the motor: as estimated from the plate, and as the drive measured it. */
export interface TuneRow {
  role: (typeof tunedRoles)[number];
  code: string;
  name: string;
  unit: string;
  decimals: number;
  /** in the setting's own unit */
  estimate: number | null;
  /** null until it was measured */
  measured: number | null;
}

/** What the circuit of a plate says for what a tune measures, in SI. @param volts per phase */
const estimates: Record<(typeof tunedRoles)[number], (c: Circuit, volts: number) => number> = {
  statorResistance: (c) => c.r1,
  rotorResistance: (c) => c.r2,
  leakageReactance: (c) => c.x1 + c.x2,
  noLoadCurrent: noLoadCurrentOf,
};

/** What a tune measures, against the estimate. The estimate is the plate's own, nothing measured put in. */
export function tuneRows(model: MachineModel): TuneRow[] {
  const { plateCircuit: circuit, drafted, held } = model;
  return tunedRoles.flatMap((role) => {
    const s = drafted.find(role);
    if (!s) return [];
    const estimate = circuit && estimates[role](circuit, model.plate.voltage / Math.sqrt(3)) / drafted.inRole(s, 1);
    return [{ role, code: s.code, name: s.name, unit: s.unit, decimals: s.decimals, estimate, measured: measuredOf(held?.values, s) }];
  });
}

const measuredOf = (values: Readonly<Record<string, number>> | undefined, s: Setting): number | null => values?.[s.code] || null;
