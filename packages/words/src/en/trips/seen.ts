import { formatFigure } from '@yare/core/units';
import type { ObservationId } from '@yare/core/trips';

const one = (x: number | undefined, decimals: number, unit: string): string => `${formatFigure(x ?? 0, decimals)} ${unit}`;
type Say = (f: Readonly<Record<string, number>>, outcome: string) => string;

/** What was seen, as a line with its figures. */
export const says: Readonly<Record<ObservationId, Say>> = {
  moment: (f, o) =>
    ({
      standing: 'the motor stood',
      starting: `on the way up: ${one(f.frequency, 1, 'Hz')} of ${one(f.reference, 1, 'Hz')}`,
      running: f.frequency === undefined ? 'it ran' : `it ran at ${one(f.frequency, 1, 'Hz')}`,
      stopping: f.frequency === undefined ? 'on the way down' : `on the way down at ${one(f.frequency, 1, 'Hz')}`,
    })[o] ?? o,
  torque: (f, o) => (f.torque === undefined ? o : `torque ${one(f.torque, 0, '%')}: ${o === 'little' ? 'hardly any' : o}`),
  busRise: (f, o) =>
    o === 'was high'
      ? 'the bus was high two seconds before'
      : `the bus rose in ${one(1000 * (f.seconds ?? 0), 0, 'ms')}, with ${one(f.power, 1, 'kW')}; the motor is stamped ${one(f.rated, 1, 'kW')}`,
  line: (f, o) => (f.bus === undefined ? `supply ${o}` : `bus ${one(f.bus, 0, 'V')} before; ${one(f.rest, 0, 'V')} at rest on this supply`),
  stop: (f) =>
    `a stop in ${one(f.time, 1, 's')} from ${one(f.from, 0, 'Hz')} peaks at ${one(f.peak, 0, 'V')} (estimated); it trips at ${one(f.level, 0, 'V')}`,
  chopper: (f, o) => (o === 'none' ? 'no brake chopper in use' : `chopper at ${one(f.level, 0, 'V')}, trip at ${one(f.trip, 0, 'V')}`),
  chopperHeld: (f, o) =>
    o === 'slowed'
      ? `above ${one(f.level, 0, 'V')} the bus took ${one(f.since, 1, 'kW')} instead of ${one(f.before, 1, 'kW')}: the resistor carries`
      : `above ${one(f.level, 0, 'V')} the bus took ${one(f.since, 1, 'kW')}, after ${one(f.before, 1, 'kW')} below: nothing goes into the resistor`,
  resistor: (f) => `one stop brings ${one(f.energy, 1, 'kJ')}; ${one(f.power, 0, 'W')} are set for the resistor`,
  swings: (f, o) => (o === 'swings' ? `the output swung between ${one(f.low, 1, 'Hz')} and ${one(f.high, 1, 'Hz')}` : 'the output did not swing'),
  speed: (f) => `${one(f.frequency, 1, 'Hz')} at the trip`,
  currentRise: (f, o) =>
    o === 'at once' && f.seconds === undefined
      ? `${one(f.last, 1, 'A')} read, and it trips at ${one(f.level, 0, 'A')}: faster than the reading`
      : o === 'steady'
        ? `current steady at ${one(f.last, 1, 'A')}`
        : `from ${one(f.early, 1, 'A')} to ${one(f.last, 1, 'A')} in ${one(1000 * (f.seconds ?? 0), 0, 'ms')}`,
  torqueWith: (f, o) =>
    `${one(f.current, 1, 'A')} with ${one(f.torque, 0, '%')} torque: ${o === 'does not' ? 'current without torque' : 'both rose'}`,
  rotor: (f, o) =>
    `${one(f.current, 1, 'A')} gave ${one(f.torque, 0, '%')} torque: the rotor ${o === 'left behind' ? 'stands or slips' : 'turns with its field'}`,
  current: (f) => `${one(f.current, 1, 'A')} on average; ${one(f.stamped, 1, 'A')} stamped`,
  overload: (f) => `overload set to ${one(f.set, 1, 'A')}; ${one(f.stamped, 1, 'A')} stamped`,
  load: (f) =>
    f.torque === undefined
      ? `${one(f.current, 1, 'A')}; ${one(f.usualCurrent, 1, 'A')} usual at that speed (estimated)`
      : `${one(f.torque, 0, '%')} torque; ${one(f.usual, 0, '%')} usual at that speed (estimated)`,
  loadRise: (_f, o) =>
    ({ always: 'the load had been so all along', grew: 'the load grew little by little', 'at once': 'the load changed at once' })[o] ?? o,
  boost: (f) => `start boost ${one(f.boost, 1, '%')}`,
  acceleration: (f) => `a run-up in ${one(f.time, 1, 's')} takes about ${one(f.need, 0, '%')} torque (estimated)`,
  limit: (f) => `current limit ${one(f.limit, 1, 'A')}; ${one(f.stamped, 1, 'A')} stamped`,
  signal: (f) => `${one(f.milliamperes, 1, 'mA')} by the drive`,
  external: (f, o) => `input ${formatFigure(f.input ?? 0, 0)} ${o === 'trips' ? 'was seen to trip' : 'was healthy'}`,
  channels: (_f, o) => `safety channels: ${o}`,
  timeOut: (f) => `time-out ${one(f.timeOut, 2, 's')}`,
  cooling: (f) => `${one(f.frequency, 0, 'Hz')} on average: ${one(f.allowed, 1, 'A')} are allowed there`,
  driveHeat: (f) => `drive at ${one(f.temperature, 0, '°C')}; its current explains ${one(f.explained, 0, '°C')} at most`,
  since: (f, o) =>
    f.since === undefined ? `it had run: ${o}` : f.since < 1 ? 'within a second of its start' : `${duration(f.since)} after its start`,
  repeat: (f, o) => (o === 'again' ? `the same trip ${formatFigure(f.repeats ?? 0, 0)} times in the last month` : 'the first of its kind in a month'),
  others: (f, o) => (o === 'alone' ? 'no other machine tripped' : `${formatFigure(f.others ?? 0, 0)} other machines tripped in that minute`),
  busFall: (f, o) =>
    o === 'was low'
      ? `bus at ${one(f.early, 0, 'V')} two seconds before`
      : `the bus fell ${o === 'at once' ? 'at once' : 'slowly'}, in ${one(1000 * (f.seconds ?? 0), 0, 'ms')}`,
  flow: (f, o) =>
    `${one(f.torque, 0, '%')} torque; ${one(f.usual, 0, '%')} usual${f.shut === undefined ? '' : `, ${one(f.shut, 0, '%')} against a shut valve`}: ${
      {
        nothing: 'the motor turns nothing',
        dry: 'as without water',
        shut: 'as against a shut valve',
        'not told': 'it may be either',
        moves: 'it moves water',
      }[o] ?? o
    }`,
  feedback: (f) => `feedback ${one(f.feedback, 0, '%')}; set point ${one(f.setpoint, 0, '%')}`,
  ran: (_f, o) => (o === 'had run' ? 'it had run before' : 'it never ran since it was switched on'),
  size: (f) => `drive ${one(f.rated, 1, 'A')}, motor ${one(f.stamped, 1, 'A')}`,
  motorData: (f, o) => `${one(f.voltage, 0, 'V')} ${one(f.frequency, 0, 'Hz')} in the drive: ${o === 'differ' ? 'not as stamped' : 'as stamped'}`,
  overspeedLevel: (f) => `overspeed at ${one(f.level, 0, '%')} of the top speed`,
  guardLevel: (f) =>
    f.setpoint === undefined
      ? `guard at ${one(f.level, 0, '%')}; usual ${one(f.usual, 0, '%')} (estimated)`
      : `guard at ${one(f.level, 0, '%')}; set point ${one(f.setpoint, 0, '%')}`,
  guardDelay: (f) => `guard waits ${one(f.delay, 1, 's')}`,
  afterwards: (f, o) =>
    o === 'was gone'
      ? `silent for ${one(f.silent, 0, 's')} around the trip`
      : `bus ${one(f.bus, 0, 'V')} afterwards${o === 'empty' ? ': no supply feeds it' : ''}`,
  silence: (f, o) => (o === 'gap' ? `the link was silent for ${one(f.silent, 1, 's')}` : 'the link was never silent'),
  fell: (f, o) =>
    o === 'never'
      ? 'it never came to its speed'
      : `from ${one(f.from, 0, 'Hz')} to ${one(f.to, 0, 'Hz')} ${o === 'over seconds' ? `in ${one(f.seconds, 0, 's')}` : 'within a second'}`,
  relieved: (f, o) =>
    f.before === undefined
      ? `after it was turned backwards: ${o}`
      : `${one(f.before, 0, '%')} torque before it was turned backwards, ${one(f.after, 0, '%')} after`,
  brake: (_f, o) => (o === 'nobody opens it' ? 'no relay of the drive opens the brake' : 'the drive opens the brake'),
};

export const duration = (s: number): string => (s < 90 ? one(s, 0, 's') : s < 5400 ? one(s / 60, 0, 'min') : one(s / 3600, 1, 'h'));
