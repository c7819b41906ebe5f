import type { SettingDefinition } from '@yare/contract';
import { completePlate, polesFrom, raisedBase, stampedPower, WindingConnection, type StampedPlate } from '@yare/core';

export interface PlateSetting {
  code: string;
  /** as the drive will store it */
  value: number;
  /** as the plate gives it */
  exact: number;
  source: 'plate' | 'worked out';
}

type PlateFigure = NonNullable<SettingDefinition['plate']>;

/** What a plate says for each figure a drive may ask: stamped, or, of cos φ, η and poles, worked out where it leaves them out. */
export function plateFigures(stamped: StampedPlate): Record<PlateFigure, { value: number | null; source: PlateSetting['source'] }> {
  const complete = polesFrom(stamped.frequency, stamped.speed) === null ? null : completePlate(stamped);
  const of = (value: number | null, source: PlateSetting['source'] = 'plate') => ({ value, source });
  const raised = stamped.base === 'raised' && complete ? raisedBase(complete) : null;
  return {
    power: raised ? of(raised.power / 1000, 'worked out') : of(stampedPower(stamped) / 1000),
    voltage: raised ? of(raised.voltage, 'worked out') : of(stamped.voltage),
    frequency: raised ? of(raised.frequency, 'worked out') : of(stamped.frequency),
    current: of(stamped.current),
    speed: raised ? of(raised.speed, 'worked out') : of(stamped.speed),
    powerFactor: stamped.powerFactor !== null ? of(stamped.powerFactor) : of(complete?.powerFactor ?? null, 'worked out'),
    efficiency: stamped.efficiency !== null ? of(stamped.efficiency) : of(complete ? complete.efficiency * 100 : null, 'worked out'),
    poles: of(complete?.poles ?? null, 'worked out'),
    connection: of(stamped.connection === 'delta' ? WindingConnection.delta : WindingConnection.star),
  };
}
