/** What a person can look at or measure at the machine, one at a time; what can come of it stands in `usually`. */
export interface Measurement {
  /** min it usually takes, tools at hand (common practice) */
  minutes: number;
  /** how the machine has to be for it: as it is, at rest with power on, isolated and proved dead, or running */
  state: 'as it is' | 'live panel' | 'isolated' | 'running';
  /** which trips it can tell anything about is said by the causes that expect something of it */
}

const m = (minutes: number, state: Measurement['state']): Measurement => ({ minutes, state });

export const measurements = {
  lineVoltage: m(4, 'live panel'),
  supplyHistory: m(1, 'as it is'),
  resistorOhms: m(8, 'isolated'),
  loadPulls: m(2, 'as it is'),
  turnByHand: m(8, 'isolated'),
  machineLoad: m(2, 'as it is'),
  insulation: m(15, 'isolated'),
  motorLeads: m(10, 'isolated'),
  connection: m(12, 'isolated'),
  stampedCurrent: m(3, 'as it is'),
  brakeOpens: m(3, 'running'),
  coupling: m(3, 'as it is'),
  suction: m(3, 'as it is'),
  valves: m(3, 'as it is'),
  flowSwitchTest: m(6, 'running'),
  leaks: m(6, 'as it is'),
  wheel: m(25, 'isolated'),
  milliamperes: m(4, 'live panel'),
  signalType: m(4, 'as it is'),
  chainContact: m(3, 'live panel'),
  safetyContacts: m(4, 'live panel'),
  panelFan: m(1, 'as it is'),
  panelTemperature: m(2, 'as it is'),
  motorFan: m(2, 'as it is'),
  linkCable: m(3, 'as it is'),
  masterRuns: m(2, 'as it is'),
  thermostat: m(2, 'as it is'),
} satisfies Record<string, Measurement>;
export type MeasurementId = keyof typeof measurements;
