/**
 * Heat of a motor as three bodies, winding, rotor and frame (lumped parameters, Boldea, Nasar, *The Induction Machine Handbook*, ch. 12), and of
 * a heatsink as two, the chips' plate and its fins.
 */
export interface HeatConstants {
  /** W/K winding to frame, rotor to frame, frame to air at rated speed */
  windingOut: number;
  rotorOut: number;
  frameOut: number;
  /** J/K */
  winding: number;
  rotor: number;
  frame: number;
  /** share of the frame's cooling that is left without its fan */
  still: number;
  /** s of the heatsink's fins, and K they rise at rated loss */
  sinkTime: number;
  sinkRise: number;
}

export class TrueHeat {
  /** °C */
  winding: number;
  rotor: number;
  frame: number;
  sink: number;

  constructor(
    readonly constants: HeatConstants,
    ambient: number,
  ) {
    this.winding = ambient;
    this.rotor = ambient;
    this.frame = ambient;
    this.sink = ambient;
  }

  /**
   * @param stator W @param rotor W @param iron W @param blown share of the motor's own fan, 0 to 1
   * @param driveLoss of the drive over that at its rated current @param sinkFan whether the heatsink's fan runs
   */
  advance(stator: number, rotor: number, iron: number, blown: number, driveLoss: number, sinkFan: boolean, ambient: number, dt: number): void {
    const c = this.constants;
    const fromWinding = c.windingOut * (this.winding - this.frame);
    const fromRotor = c.rotorOut * (this.rotor - this.frame);
    const away = c.frameOut * (c.still + (1 - c.still) * blown) * (this.frame - ambient);
    this.winding += (dt * (stator - fromWinding)) / c.winding;
    this.rotor += (dt * (rotor - fromRotor)) / c.rotor;
    this.frame += (dt * (fromWinding + fromRotor + iron - away)) / c.frame;
    const worse = sinkFan ? 1 : 3;
    this.sink += ((ambient + c.sinkRise * worse * driveLoss - this.sink) * dt) / (c.sinkTime * (sinkFan ? 1 : 2));
  }
}
