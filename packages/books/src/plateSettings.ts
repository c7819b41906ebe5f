import type { DriveBook } from '@yare/contract';
import { completePlate, polesFrom, stampedPower, type StampedPlate } from '@yare/core';
import { settingsOf, storedValue } from './book';

export interface PlateSetting {
  code: string;
  /** as the drive will store it */
  value: number;
  /** as the plate gives it */
  exact: number;
  source: 'plate' | 'worked out';
}

/** What a plate puts into a drive's settings: figures stamped, and cos φ or η worked out where the plate leaves one out. */
export function plateSettings(book: DriveBook, size: string, stamped: StampedPlate): PlateSetting[] {
  const complete = polesFrom(stamped.frequency, stamped.speed) === null ? null : completePlate(stamped);
  const figure: Record<string, { value: number | null; source: PlateSetting['source'] }> = {
    power: { value: stampedPower(stamped) / 1000, source: 'plate' },
    voltage: { value: stamped.voltage, source: 'plate' },
    frequency: { value: stamped.frequency, source: 'plate' },
    current: { value: stamped.current, source: 'plate' },
    speed: { value: stamped.speed, source: 'plate' },
    powerFactor:
      stamped.powerFactor !== null ? { value: stamped.powerFactor, source: 'plate' } : { value: complete?.powerFactor ?? null, source: 'worked out' },
    efficiency:
      stamped.efficiency !== null
        ? { value: stamped.efficiency, source: 'plate' }
        : { value: complete ? complete.efficiency * 100 : null, source: 'worked out' },
    poles: { value: complete?.poles ?? null, source: 'worked out' },
    connection: { value: stamped.connection === 'delta' ? 1 : 0, source: 'plate' },
  };
  return settingsOf(book, size).flatMap((s) => {
    const f = s.plate ? figure[s.plate as string] : undefined;
    if (!f || f.value === null || storedValue(s, f.value) < s.min || storedValue(s, f.value) > s.max) return [];
    return [{ code: s.code, value: storedValue(s, f.value), exact: Number(f.value.toPrecision(5)), source: f.source }];
  });
}
