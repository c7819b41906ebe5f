/** What transmitters give, as their labels say. */
export type SignalGiven = '4 to 20 mA' | '0 to 20 mA' | '0 to 10 V';

/** Wires between plant and drive, and which of them are broken. */
export interface Wiring {
  /** the wire of the transmitter, and what that gives */
  signalBroken: boolean;
  signalGiven: SignalGiven;
  /** the contacts of the external trip chain are as they should be */
  externalHealthy: boolean;
  /** channel 1 of safe torque off */
  channel1Broken: boolean;
  /** the link's cable is pulled */
  linkCut: boolean;
}

export const soundWiring = (): Wiring => ({
  ...{ signalBroken: false, signalGiven: '4 to 20 mA', externalHealthy: true, channel1Broken: false, linkCut: false },
});
