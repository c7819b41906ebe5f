import type { DriveSettings } from '@yare/books';
import type { Driven, Wiring } from '@yare/contract';
import { say } from '@yare/words/command';

/** A unit a speed can be spoken of in: so much of it for each Hz. */
export interface SpeedUnit {
  id: 'frequency' | 'speed' | 'share' | 'own';
  name: string;
  perHertz: number;
  decimals: number;
}

const decimalsFor = (full: number): number => (full >= 100 ? 0 : full >= 10 ? 1 : 2);
const own = (name: string, perHertz: number, full: number): SpeedUnit => ({ id: 'own', name, perHertz, decimals: decimalsFor(perHertz * full) });

/** What the machine itself makes of the motor's speed; null where its record gives none. A fan's volume goes with its speed (fan laws). */
function ofMachine(driven: Driven, frequency: number): SpeedUnit | null {
  switch (driven.kind) {
    case 'conveyor':
      return own('m/min', (driven.beltSpeed * 60) / frequency, frequency);
    case 'hoist':
      return own('m/min', (driven.hoistSpeed * 60) / frequency, frequency);
    case 'fan':
      return own('m³/h', driven.flow / frequency, frequency);
    default:
      return null;
  }
}

/** What the motor itself turns by; always there. */
const hertz: SpeedUnit = { id: 'frequency', name: say.hz, perHertz: 1, decimals: 1 };

/** Units a speed of this machine can be given in: Hz, rpm and % of the motor's rated speed, and the machine's own. */
export function speedUnits(d: DriveSettings, driven: Driven, wiring: Pick<Wiring, 'unit'>): [SpeedUnit, ...SpeedUnit[]] {
  const { motorFrequency, motorSpeed } = d.parameters();
  const { unit } = wiring;
  const mine = unit ? own(unit.name, unit.value / unit.frequency, unit.frequency) : ofMachine(driven, motorFrequency);
  return [
    hertz,
    { id: 'speed', name: 'rpm', perHertz: motorSpeed / motorFrequency, decimals: 0 },
    { id: 'share', name: '%', perHertz: 100 / motorFrequency, decimals: 1 },
    ...(mine ? [mine] : []),
  ];
}
