import { resistorTime } from './heatsink';

/** One derating of a drive's continuous current, on a row of its own. */
export interface DeratingRow {
  name: 'ambient' | 'altitude' | 'carrier frequency' | 'single-phase supply';
  share: number;
}

/**
 * What is left of a drive's rated current where it stands. Altitude 1 % per 100 m above 1000 m; ambient 2.5 % per K above 40 °C;
 * carrier 8 % per 2 kHz above 4 kHz; a single-phase supply of a three-phase drive a half (all common practice; the drive's
 * own book rules where it says otherwise).
 */
export function deratings(place: { ambient: number; altitude: number; carrier: number; singlePhase: boolean }): DeratingRow[] {
  return [
    { name: 'ambient', share: Math.max(0, 1 - 0.025 * Math.max(0, place.ambient - 40)) },
    { name: 'altitude', share: Math.max(0, 1 - 0.01 * (Math.max(0, place.altitude - 1000) / 100)) },
    { name: 'carrier frequency', share: Math.max(0, 1 - 0.04 * Math.max(0, place.carrier - 4)) },
    { name: 'single-phase supply', share: place.singlePhase ? 0.5 : 1 },
  ];
}

/** A continuous under all its deratings. */
export const deratedCurrent = (rated: number, rows: readonly DeratingRow[]): number => rows.reduce((a, r) => a * r.share, rated);

/** Share of the resistor watch's trip point that stops may come to: below it the trip can be reset at once. */
const resistorShare = 0.7;

/** A brake resistor for a stop and how often it happens. */
export interface ResistorSizing {
  /** Ω, least: the chopper carries no more, and the drive names a minimum */
  leastResistance: number;
  /** Ω, most that still takes the peak power at the chopper level */
  mostResistance: number;
  /** W while the chopper conducts with that resistance */
  peakPower: number;
  /** W over the duty cycle */
  meanPower: number;
  /** W a resistor has to be rated for so that the drive's own watch over it stays well below its trip, one stop after another */
  ratedPower: number;
  /** J of one stop */
  energy: number;
}

/**
 * @param stop energy J into the resistor and the highest power W asked of it, both from a look-ahead of the stop
 * @param chopperCurrent A the chopper carries at most
 * @param every s between one stop and the next
 */
export function sizeResistor(
  stop: { energy: number; peak: number },
  chopperLevel: number,
  chopperCurrent: number,
  driveLeast: number,
  every: number,
): ResistorSizing {
  const leastResistance = Math.max(driveLeast, chopperLevel / chopperCurrent);
  const mostResistance = (chopperLevel * chopperLevel) / Math.max(1, stop.peak);
  const resistance = Math.max(leastResistance, mostResistance);
  return {
    leastResistance,
    mostResistance,
    peakPower: (chopperLevel * chopperLevel) / resistance,
    meanPower: stop.energy / every,
    ratedPower: Math.max(stop.energy / every, stop.energy / (resistorTime * resistorShare * (1 - Math.exp(-every / resistorTime)))),
    energy: stop.energy,
  };
}
