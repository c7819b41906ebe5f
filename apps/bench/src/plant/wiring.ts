/** Wires between plant and drive, and which of them are broken. */
export interface Wiring {
  /** the 4 to 20 mA wire */
  signalBroken: boolean;
  /** the contacts of the external trip chain are as they should be */
  externalHealthy: boolean;
  /** channel 1 of safe torque off */
  channel1Broken: boolean;
  /** the link's cable is pulled */
  linkCut: boolean;
}

export const soundWiring = (): Wiring => ({ signalBroken: false, externalHealthy: true, channel1Broken: false, linkCut: false });
