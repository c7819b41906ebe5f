import { formatFigure } from '@yare/core';
import type { Margin, MarginKind } from '@yare/core/trips';

const marginText: Record<MarginKind, { name: string; unit: string; decimals: number }> = {
  busHigh: { name: 'bus high', unit: 'V', decimals: 0 },
  busLow: { name: 'bus low', unit: 'V', decimals: 0 },
  current: { name: 'current', unit: 'A', decimals: 1 },
  motorHeat: { name: 'motor overload', unit: '%', decimals: 0 },
  driveTemperature: { name: 'drive temperature', unit: '°C', decimals: 0 },
};
/** Where a machine stands on the way to a trip, as a line. */
export function marginSecond({ kind, value, level }: Margin): string {
  const { name, unit, decimals } = marginText[kind];
  return `${name} ${formatFigure(value, decimals)} ${unit}, trips at ${formatFigure(level, decimals)} ${unit}`;
}
