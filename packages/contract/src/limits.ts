/** Least and most of the figures people enter, once for schema and screen. No schema stands here, so that the application can take it. */
export interface Limit {
  min: number;
  max: number;
}

const from = (min: number, max: number): Limit => ({ min, max });

export const limits = {
  /** V and Hz of the supply */
  supplyVoltage: from(50, 1000),
  supplyFrequency: from(40, 70),
  /** °C around the drive */
  ambient: from(-30, 80),
  /** m above the sea */
  altitude: from(-500, 6000),
  /** m from drive to motor */
  cableLength: from(0, 2000),
  /** V between two lines */
  lineVoltage: from(0, 1500),
  /** MΩ, and °C of the winding */
  insulation: from(0, 1e6),
  windingTemperature: from(-30, 180),
  /** Modbus address */
  unitId: from(1, 247),
  /** m³/h */
  pumpFlow: from(0.01, 1e6),
  fanFlow: from(1, 1e7),
  /** m */
  head: from(0.1, 5000),
  staticHead: from(0, 5000),
  /** Pa */
  fanPressure: from(1, 1e6),
  /** % */
  efficiency: from(1, 100),
  torqueShare: from(0, 300),
  /** of a belt; below zero it drives its motor */
  beltTorqueShare: from(-150, 300),
  brakeShare: from(10, 500),
  /** m³ of air */
  volume: from(0.1, 1e6),
  /** t/h */
  feed: from(0, 1e5),
  /** m/s */
  beltSpeed: from(0.01, 20),
  /** m */
  beltLength: from(0.5, 1e5),
  /** kg on a hook, and of it; m/s */
  lifts: from(1, 1e6),
  hook: from(0, 1e5),
  hoistSpeed: from(0.001, 20),
  /** ° */
  slope: from(-45, 45),
  /** motor turns for one of the drum */
  ratio: from(0.5, 1000),
  /** kg·m² at the motor shaft */
  inertia: from(0, 1e5),
} as const satisfies Record<string, Limit>;
