import type { MeasurementId } from '@yare/core/trips';

/** What to measure, how, and what can come of it. */
export const measurementWords: Readonly<Record<MeasurementId, { asks: string; how: string; outcomes: Readonly<Record<string, string>> }>> = {
  lineVoltage: {
    asks: 'Measure the three line voltages at the drive',
    how: 'L1-L2, L2-L3, L1-L3, with the drive switched on.',
    outcomes: { low: 'Too low', right: 'Right', high: 'Too high', 'one phase missing': 'One is missing' },
  },
  supplyHistory: {
    asks: 'Ask who was there: did the lights do anything?',
    how: 'Dipped, flared, or went out.',
    outcomes: { 'nothing seen': 'Nothing seen', 'lights dipped': 'They dipped', 'lights flared': 'They flared', 'power was off': 'Power was off' },
  },
  resistorOhms: {
    asks: 'Measure the brake resistor',
    how: 'Isolate, wait until the bus is empty, take one wire off, measure ohms.',
    outcomes: { open: 'Open', right: 'As stamped', 'below what the drive allows': 'Too few ohms' },
  },
  loadPulls: {
    asks: 'Does the load pull the machine along?',
    how: 'Look at belt, rope or slope with the usual load.',
    outcomes: { 'pulls along': 'It pulls', 'has to be driven': 'It has to be driven' },
  },
  turnByHand: {
    asks: 'Turn the machine by hand',
    how: 'Isolate and lock off first.',
    outcomes: {
      'turns freely': 'Turns freely',
      'turns hard': 'Turns hard',
      'does not turn': 'Does not turn',
      'held by its brake': 'Its brake could not be lifted',
    },
  },
  machineLoad: {
    asks: 'Look at what is on or in the machine',
    how: 'More or less than usual?',
    outcomes: { usual: 'As usual', overloaded: 'Far more', empty: 'Empty' },
  },
  insulation: {
    asks: 'Measure insulation of motor and cable',
    how: 'Isolate, take the motor leads off the drive, 500 V to earth.',
    outcomes: { sound: 'Sound', low: 'Low' },
  },
  motorLeads: {
    asks: 'Measure the motor leads against each other',
    how: 'Isolate, take them off the drive, three readings.',
    outcomes: { sound: 'All three alike', 'one open': 'One is open', shorted: 'Shorted' },
  },
  connection: {
    asks: 'Compare the links in the terminal box with the plate',
    how: 'Isolate first. Star or delta?',
    outcomes: { 'as stamped': 'As stamped', otherwise: 'Otherwise' },
  },
  stampedCurrent: {
    asks: 'Read the full-load current off the plate once more',
    how: 'For the connection in use.',
    outcomes: { 'as on record': 'As on record', otherwise: 'Another figure' },
  },
  brakeOpens: {
    asks: 'Listen and look: does the holding brake open?',
    how: 'At a start, from a safe place.',
    outcomes: { opens: 'It opens', 'stays shut': 'It stays shut', 'there is none': 'There is none' },
  },
  coupling: { asks: 'Look at coupling or belt', how: 'Does the machine turn with the motor?', outcomes: { whole: 'Whole', apart: 'Apart' } },
  suction: {
    asks: 'Look at the suction side',
    how: 'Level, foot valve, strainer.',
    outcomes: { full: 'Water is there', 'draws air': 'It draws air' },
  },
  valves: { asks: 'Look at the valves behind the pump', how: 'Walk along the pipe.', outcomes: { open: 'Open', shut: 'One is shut' } },
  flowSwitchTest: {
    asks: 'Does the flow switch follow the flow?',
    how: 'Run it in hand and watch its input.',
    outcomes: { 'follows the flow': 'It follows', 'does not': 'It does not' },
  },
  leaks: { asks: 'Does water run where it should not?', how: 'Walk along the pipe.', outcomes: { tight: 'All tight', leaks: 'It runs out' } },
  wheel: {
    asks: 'Look at the pump’s wheel',
    how: 'Isolate, open the inspection cover.',
    outcomes: { clear: 'Clear', 'something round it': 'Something is round it' },
  },
  milliamperes: {
    asks: 'Measure the signal at the drive’s input',
    how: 'Milliamperes in series with the input.',
    outcomes: { none: 'None', 'under 3.6': 'Below 3.6 mA', '4 to 20': '4 to 20 mA' },
  },
  signalType: {
    asks: 'What does the sensor’s label say it gives?',
    how: '4 to 20 mA, 0 to 20 mA, 0 to 10 V.',
    outcomes: { '4 to 20 mA': '4 to 20 mA', '0 to 20 mA': '0 to 20 mA', '0 to 10 V': '0 to 10 V' },
  },
  chainContact: {
    asks: 'Measure the external chain at its input',
    how: 'Volts at the terminal: closed or open?',
    outcomes: { closed: 'Closed', open: 'Open' },
  },
  safetyContacts: {
    asks: 'Measure both safety channels at the drive',
    how: 'Volts at each of the two terminals.',
    outcomes: { 'both closed': 'Both alike', 'one open': 'One is open' },
  },
  panelFan: {
    asks: 'Does the drive’s fan turn?',
    how: 'Look, and hold a strip of paper there.',
    outcomes: { turns: 'It turns', stands: 'It stands' },
  },
  panelTemperature: {
    asks: 'How warm is it inside the panel?',
    how: 'A thermometer at the drive’s air inlet.',
    outcomes: { 'below 40': 'Below 40 °C', 'above 40': 'Above 40 °C' },
  },
  motorFan: { asks: 'Look at the motor’s fan and fins', how: 'Free of dust, and the cowl open?', outcomes: { clear: 'Clear', blocked: 'Blocked' } },
  linkCable: { asks: 'Check the link’s cable and plugs', how: 'Every plug on the way.', outcomes: { sound: 'Sound', loose: 'One is loose' } },
  masterRuns: { asks: 'Does the controller run?', how: 'Its lamps, its own log.', outcomes: { runs: 'It runs', stopped: 'It had stopped' } },
  thermostat: {
    asks: 'Is it cold at the thermostat?',
    how: 'Put a thermometer beside it.',
    outcomes: { freezes: 'It freezes', 'does not': 'It does not' },
  },
};

/** How a measurement is made at this machine: what holds its shaft has to be lifted first, and what may then run away is said. */
export function howTo(id: MeasurementId, { braked, incline }: { braked: boolean; incline: boolean }): string {
  const { how } = measurementWords[id];
  if (id !== 'turnByHand' || !braked) return how;
  return `${how} Lift its holding brake by hand, or it stands still whatever is wrong.${incline ? ' On an incline it runs back as soon as the brake is lifted: take the load off or block it first.' : ''}`;
}

/** What can come of a measurement at this machine. */
export const outcomesOf = (id: MeasurementId, braked: boolean): string[] =>
  Object.keys(measurementWords[id].outcomes).filter((o) => braked || o !== 'held by its brake');
