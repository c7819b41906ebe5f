import type { Margin, MarginKind } from '@yare/core/trips';
import { say } from '@yare/words/pages/trip';

const marginText: Record<MarginKind, { name: string; unit: string; decimals: number }> = {
  busHigh: { name: say.busHigh, unit: 'V', decimals: 0 },
  busLow: { name: say.busLow, unit: 'V', decimals: 0 },
  current: { name: 'current', unit: 'A', decimals: 1 },
  motorHeat: { name: say.motorOverload, unit: '%', decimals: 0 },
  driveTemperature: { name: say.driveTemperature2, unit: '°C', decimals: 0 },
};
/** Where a machine stands on the way to a trip, as a line. */
export function marginSecond({ kind, value, level }: Margin): string {
  const { name, unit, decimals } = marginText[kind];
  return say.tripsAt3({ name, value, decimals, unit, level });
}
