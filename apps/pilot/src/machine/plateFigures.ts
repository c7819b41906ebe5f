import type { PlateField, StampedPlate, UnitSymbol } from '@yare/core';
import { present } from '@yare/core/present';
import { say } from '@yare/words/pages/frame';
import type { Entry } from '../ui/entryStore';

/** A row of the plate that takes a figure. */
export interface FigureRow {
  field: PlateField;
  label: string;
  second: string;
  unit: string;
  units?: readonly UnitSymbol[];
  decimals: number;
  min: number;
  max: number;
  optional?: boolean;
  only?: StampedPlate['standard'];
}

/** In the order of the plate. Ranges are those of the schema; what is implausible inside them is told, not refused. */
export const figureRows: FigureRow[] = [
  { field: 'power', label: say.output, second: say.atTheShaft, unit: 'kW', units: ['kW', 'hp'], decimals: 2, min: 0.01, max: 10000 },
  { field: 'voltage', label: say.voltage, second: say.lineToLineOfThe, unit: 'V', decimals: 0, min: 1, max: 20000 },
  { field: 'current', label: say.fullLoadCurrent, second: say.ofTheConnectionUsed, unit: 'A', decimals: 2, min: 0.01, max: 20000 },
  { field: 'frequency', label: say.frequency, second: 'as stamped', unit: say.hz, decimals: 1, min: 1, max: 1000 },
  { field: 'speed', label: say.ratedSpeed, second: say.atFullLoad, unit: 'rpm', decimals: 0, min: 1, max: 60000 },
  { field: 'powerFactor', label: say.cos, second: say.powerFactor, unit: '', decimals: 2, min: 0, max: 200, optional: true },
  { field: 'efficiency', label: say.efficiency, second: say.atFullLoad, unit: '%', decimals: 1, min: 0, max: 200, optional: true },
  { field: 'serviceFactor', label: say.serviceFactor, second: say.sf, unit: '', decimals: 2, min: 0.5, max: 3, optional: true, only: 'NEMA' },
];

/** A figure of a plate to be typed. @param owner what the plate belongs to, unique on the device */
export function plateEntry(
  owner: string,
  r: FigureRow,
  plate: Partial<StampedPlate> & Pick<StampedPlate, 'powerUnit'>,
  set: (change: Partial<StampedPlate>) => void,
): Entry {
  return {
    id: `${owner} plate ${r.field}`,
    label: r.label,
    value: (plate[r.field] as number | null | undefined) ?? null,
    unit: r.field === 'power' ? plate.powerUnit : r.unit,
    units: r.units,
    keepUnit: true,
    decimals: r.decimals,
    min: r.min,
    max: r.max,
    optional: r.optional,
    onSet: (value, unit) => set(r.field === 'power' ? { power: present(value), powerUnit: unit as 'kW' | 'hp' } : { [r.field]: value }),
  };
}

/** Where a drive answers on the plant's link, to be typed. */
export const addressEntry = (owner: string, value: number | null, onSet: (unitId: number) => void): Entry => ({
  id: `${owner} address`,
  label: say.modbusAddress,
  value,
  unit: '',
  decimals: 0,
  min: 1,
  max: 247,
  whole: true,
  onSet: (v) => onSet(present(v)),
});
