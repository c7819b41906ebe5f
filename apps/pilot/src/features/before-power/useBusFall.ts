import { useEffect, useRef, useState } from 'react';
import type { LiveSample } from '@yare/contract';
import { deadBus } from '@yare/commissioning';

/** A bus that lost less than this over the last seconds stands still, V: what the drive's reading jitters by. */
const jitter = 5;
/** The fall is told from the readings of so many ms. */
const lookBack = 3000;

export interface BusFall {
  /** V as last told; null when the drive never answered while this was open */
  last: number | null;
  /** s until the bus is dead at the rate of the last seconds; null while it does not fall */
  seconds: number | null;
}

/** How long a bus takes to fall below {@link deadBus}, from readings in ms and V, oldest first, as it fell so far. */
export function secondsToDead(readings: ReadonlyArray<{ at: number; volts: number }>): number | null {
  const first = readings[0];
  const last = readings.at(-1);
  if (!first || !last || first.volts - last.volts < jitter || last.at <= first.at) return null;
  const rate = ((first.volts - last.volts) / (last.at - first.at)) * 1000;
  return Math.max(0, last.volts - deadBus) / rate;
}

/** Watches a bus being emptied. */
export function useBusFall(live: LiveSample | undefined): BusFall {
  const readings = useRef<Array<{ at: number; volts: number }>>([]);
  const [fall, setFall] = useState<BusFall>({ last: null, seconds: null });
  const at = live?.link === 'up' ? live.at : null;
  const volts = live?.busVoltage ?? 0;
  useEffect(() => {
    if (at === null) return;
    readings.current = [...readings.current.filter((r) => at - r.at < lookBack), { at, volts }];
    setFall({ last: volts, seconds: secondsToDead(readings.current) });
  }, [at, volts]);
  return fall;
}
