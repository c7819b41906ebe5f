/**
 * Two bodies: winding and frame. The frame gives its heat to the air, less of it when its own fan turns slowly. First-order
 * lumped parameters (IEC 60034-11 speaks of the same; values are common practice).
 */
export interface MotorThermal {
  /** W/K from winding to frame */
  windingToFrame: number;
  /** W/K from frame to air at rated speed */
  frameToAir: number;
  /** J/K */
  windingCapacity: number;
  frameCapacity: number;
}

export interface MotorTemperature {
  /** °C */
  winding: number;
  frame: number;
}

/** Rise of the winding at rated load: class B rise of 80 K is what makers design for (common practice; IEC 60034-1 allows 105 K for F). */
export const ratedRise = 80;

/**
 * From the rated losses: 55 K from frame to air and 25 K from winding to frame at rated load; the frame takes about
 * 20 min at 1 kW and grows with the square root of size, the winding a tenth of that.
 * @param losses W at rated load
 * @param power W at the shaft
 */
export function motorThermal(losses: number, power: number): MotorThermal {
  const frameToAir = losses / 55;
  const windingToFrame = (0.7 * losses) / 25;
  const frameTime = 1200 * Math.sqrt(Math.max(0.2, power / 1000) / 1);
  return {
    frameToAir,
    windingToFrame,
    frameCapacity: frameToAir * Math.min(frameTime, 5400),
    windingCapacity: windingToFrame * Math.min(frameTime, 5400) * 0.1,
  };
}

/**
 * °C of the windings for which a plate's circuit holds: what IEC 60034-2-1 carries losses of class 130 windings to (from memory), which is about
 * what a standard motor has at its rated load.
 */
export const plateTemperature = 95;
/** K below 0 °C at which copper and cast aluminium would resist nothing (IEC 60034-1). */
const nothing = { copper: 235, aluminium: 225 };
/** Resistance of copper, and of an aluminium cage, at a temperature in °C over that at {@link plateTemperature}. */
export const copperAt = (temperature: number): number => (nothing.copper + temperature) / (nothing.copper + plateTemperature);
export const cageAt = (temperature: number): number => (nothing.aluminium + temperature) / (nothing.aluminium + plateTemperature);

export const coldMotor = (ambient: number): MotorTemperature => ({ winding: ambient, frame: ambient });

/**
 * One step; `windingLoss` and `otherLoss` in W, `ambient` °C, dt s.
 * @param cooling share of the full cooling to air, 1 at rated speed or with its own forced fan
 */
export function stepMotorTemperature(
  t: MotorTemperature,
  p: MotorThermal,
  windingLoss: number,
  otherLoss: number,
  cooling: number,
  ambient: number,
  dt: number,
): void {
  const across = p.windingToFrame * (t.winding - t.frame);
  const away = p.frameToAir * cooling * (t.frame - ambient);
  t.winding += ((windingLoss - across) * dt) / p.windingCapacity;
  t.frame += ((across + otherLoss - away) * dt) / p.frameCapacity;
}

/** Share of the cooling left at a share of rated speed: free convection 0.3, the fan the rest (common practice). */
export const fanCooling = (forced: boolean, speedShare: number): number => (forced ? 1 : 0.3 + 0.7 * Math.min(1, Math.abs(speedShare)));
