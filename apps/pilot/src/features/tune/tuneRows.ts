import { findSetting, roleValue } from '@yare/books';
import { noLoadCurrentOf, type SettingRole } from '@yare/core';
import type { MachineModel } from '../../data/machineModel';

/** One constant of the motor: as estimated from the plate, and as the drive measured it. */
export interface TuneRow {
  code: string;
  name: string;
  unit: string;
  decimals: number;
  /** in the setting's own unit */
  estimate: number | null;
  /** null until it was measured */
  measured: number | null;
}

const roles: Array<SettingRole> = ['statorResistance', 'rotorResistance', 'leakageReactance', 'noLoadCurrent'];

/** What a tune measures, against the estimate. The estimate is the plate's own, nothing measured put in. */
export function tuneRows(model: MachineModel): TuneRow[] {
  const { book, machine, plateCircuit } = model;
  const values = Object.fromEntries(model.settings.map((s) => [s.code, model.inDriveOf(s.code)?.value ?? 0]));
  return roles.flatMap((role) => {
    const s = findSetting(book, machine.size, role);
    if (!s) return [];
    const c = plateCircuit;
    const estimate = !c
      ? null
      : role === 'statorResistance'
        ? c.r1
        : role === 'rotorResistance'
          ? c.r2
          : role === 'leakageReactance'
            ? c.x1 + c.x2
            : noLoadCurrentOf(c, model.plate.voltage / Math.sqrt(3));
    const inUnit = roleValue(book, machine.size, s, 1, values);
    const stored = values[s.code] ?? 0;
    return [
      {
        code: s.code,
        name: s.name,
        unit: s.unit,
        decimals: s.decimals,
        estimate: estimate === null ? null : estimate / inUnit,
        measured: stored > 0 ? stored : null,
      },
    ];
  });
}

/** The nameplate in the drive that a measurement is made against. */
export const tuneRelies = (model: MachineModel): string[] => model.settings.filter((s) => s.plate && s.access !== 'read').map((s) => s.code);
