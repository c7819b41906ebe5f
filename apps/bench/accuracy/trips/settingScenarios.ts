import { HealthyContact, LinkLossAction, Switch } from '@yare/core';
import { between, noSleep, shortStop, speedOf, stopsFrom, upToSpeed, type Scenario } from './scenario';

/** Settings that are wrong, and what stands at the plant otherwise than they were made for. */
export const settingScenarios: readonly Scenario[] = [
  {
    id: 'time-out too short',
    cause: ['time-out too short'],
    tags: ['P-11', 'F-32', 'C-21', 'C-07'],
    roles: () => ({ linkTimeout: 0.2, onLinkLoss: LinkLossAction.trip }),
    run: (s, r) => {
      s.lead(between(r, 15, 45), 0.1);
      s.wait(between(r, 8, 40));
      s.lead(30, 0.5);
      s.wait(20);
    },
  },
  {
    id: 'stop too short',
    cause: ['stop too short'],
    tags: ['F-32', 'P-11', 'C-21', 'M-55'],
    roles: (r, tag) => ({ decelerationTime: shortStop(r, tag), busRampHold: 0, chopper: 0 }),
    run: stopsFrom,
  },
  {
    id: 'line high',
    cause: ['line high'],
    tags: ['F-32', 'P-11'],
    roles: (r, tag) => ({ decelerationTime: tag === 'F-32' ? between(r, 38, 60) : between(r, 1.2, 2), busRampHold: 0, chopper: 0 }),
    run: (s, r) => {
      s.act({ handles: { supply: between(r, 118, 125) } });
      stopsFrom(s, r);
    },
  },
  {
    id: 'resistor open',
    cause: ['resistor open'],
    tags: ['F-32', 'P-11'],
    roles: (r, tag) => ({
      decelerationTime: shortStop(r, tag),
      busRampHold: 0,
      chopper: Switch.on,
      chopperLevel: 740,
      brakeResistance: tag === 'F-32' ? 22 : 60,
      resistorPower: 20_000,
    }),
    run: (s, r) => {
      upToSpeed(s, between(r, 0.8, 1));
      s.strike('resistor');
      s.wait(between(r, 2, 10));
      s.stop();
      s.wait(60);
    },
  },
  {
    id: 'resistor too weak',
    cause: ['resistor too weak', 'stop too short'],
    tags: ['F-32'],
    roles: (r) => ({
      decelerationTime: between(r, 4, 7),
      busRampHold: 0,
      chopper: Switch.on,
      chopperLevel: 740,
      brakeResistance: between(r, 45, 80),
      resistorPower: 50_000,
    }),
    run: stopsFrom,
  },
  {
    id: 'chopper never acts',
    cause: ['chopper never acts'],
    tags: ['F-32', 'P-11'],
    roles: (r, tag) => ({
      decelerationTime: shortStop(r, tag),
      busRampHold: 0,
      chopper: Switch.on,
      chopperLevel: 830,
      brakeResistance: tag === 'F-32' ? 22 : 60,
      resistorPower: 20_000,
    }),
    run: (s, r) => {
      s.lead(between(r, 40, 50));
      s.wait(s.tag === 'F-32' ? 90 : 20);
      s.stop();
      s.wait(60);
    },
  },
  {
    id: 'chopper against trip',
    cause: ['chopper against trip'],
    tags: ['F-32', 'P-11', 'C-07'],
    roles: () => ({ chopper: Switch.on, chopperLevel: 830 }),
    run: (s) => {
      s.start(0.8);
      s.wait(10);
    },
  },
  {
    id: 'speeds contradict',
    cause: ['speeds contradict'],
    tags: ['P-11', 'F-32', 'C-07', 'C-21'],
    roles: (r) => ({ minimumFrequency: between(r, 41, 48), maximumFrequency: 40 }),
    run: (s) => {
      s.start(0.8);
      s.wait(10);
    },
  },
  {
    id: 'overload set low',
    cause: ['overload set low'],
    tags: ['P-11', 'P-41', 'F-32', 'C-07', 'C-21'],
    roles: (r, tag) => ({
      ...noSleep,
      overloadCurrent: between(r, 0.5, 0.66) * ({ 'P-11': 13.6, 'P-41': 7.9, 'F-32': 54.4, 'C-07': 4.64, 'C-21': 3.9 }[tag] ?? 1),
      noFlowDelay: 0,
    }),
    run: (s, r) => {
      upToSpeed(s, between(r, 0.9, 1));
      s.wait(1500, 0.1);
    },
  },
  {
    id: 'slow and self-cooled',
    cause: ['slow and self-cooled'],
    tags: ['C-07'],
    roles: (r) => ({ preset1: between(r, 5, 9), preset2: 6, preset3: between(r, 5, 9), motorCooling: 0 }),
    run: (s, r) => {
      // less falls on a belt that creeps
      s.act({ handles: { feed: between(r, 1, 2) } });
      upToSpeed(s, 0.9);
      s.wait(2500, 0.1);
    },
  },
  {
    id: 'boost too high',
    cause: ['boost too high'],
    tags: ['C-07', 'C-21', 'P-11', 'M-55'],
    roles: (r) => ({ startBoost: between(r, 0.16, 0.25), controlMethod: 0, preset1: 5, preset3: 5 }),
    run: (s, r) => {
      upToSpeed(s, between(r, 0.1, 0.16));
      s.wait(1500, 0.1);
    },
  },
  {
    id: 'limit too low',
    cause: ['limit too low'],
    tags: ['C-07', 'C-21', 'M-55'],
    roles: (r, tag) => ({ currentLimit: between(r, 0.5, 0.75) * ({ 'C-07': 4.64, 'C-21': 3.9, 'M-55': 0.61 }[tag] ?? 1), stallTime: 4 }),
    run: (s) => {
      s.start(0.9);
      s.wait(60);
    },
  },
  {
    id: 'run-up too fast',
    cause: ['run-up too fast'],
    tags: ['F-32'],
    roles: (r) => ({ accelerationTime: between(r, 2, 5), currentLimit: 120, stallTime: 0 }),
    run: (s) => {
      s.start(1);
      s.wait(300);
    },
  },
  {
    id: 'brake stays shut',
    cause: ['brake stays shut'],
    tags: ['C-07'],
    roles: (r) => ({ holdingBrake: 0, stallTime: between(r, 2, 6) }),
    run: (s) => {
      s.start(0.9);
      s.wait(90);
    },
  },
  {
    id: 'motor data wrong',
    cause: ['motor data wrong'],
    tags: ['C-07', 'P-11', 'M-55'],
    roles: () => ({ motorVoltage: 400, motorFrequency: 30 }),
    run: (s) => {
      upToSpeed(s, 1);
      s.wait(1200, 0.1);
    },
  },
  {
    id: 'guard too early',
    cause: ['guard too early'],
    tags: ['P-11', 'P-41'],
    roles: (r) => ({ ...noSleep, noFlowDelay: between(r, 0.5, 1.5) }),
    run: (s, r) => {
      s.start(between(r, 0.7, 0.95));
      s.wait(60);
    },
  },
  {
    id: 'guard too near',
    cause: ['guard too near'],
    tags: ['P-11', 'P-41', 'C-07', 'F-32'],
    roles: (r, tag) =>
      tag === 'C-07'
        ? { highLoadLevel: 0.5, highLoadDelay: 5 }
        : { ...noSleep, lowLoadLevel: between(r, 0.95, 1.1), lowLoadDelay: 5, noFlowDelay: 0 },
    run: (s, r) => {
      upToSpeed(s, between(r, 0.7, 0.95));
      s.wait(200);
    },
  },
  {
    id: 'contact sense wrong',
    cause: ['contact sense wrong'],
    tags: ['P-11', 'F-32', 'C-07', 'M-55'],
    roles: () => ({ externalTripSense: HealthyContact.open }),
    run: (s) => {
      s.wait(5);
      if (s.tripped === null) s.start(0.8);
      s.wait(5);
    },
  },
  {
    id: 'overspeed level low',
    cause: ['overspeed level low'],
    tags: ['P-11', 'F-32', 'C-07'],
    roles: (r) => ({ overspeedLevel: between(r, 0.85, 0.95), preset1: 50, preset3: 50, noFlowDelay: 0 }),
    run: (s) => {
      upToSpeed(s, 1);
      s.wait(30);
    },
  },
  {
    id: 'resistor data wrong',
    cause: ['resistor data wrong'],
    tags: ['F-32'],
    roles: (r) => ({
      decelerationTime: between(r, 12, 18),
      busRampHold: 0,
      chopper: Switch.on,
      chopperLevel: 740,
      brakeResistance: 22,
      resistorPower: between(r, 40, 120),
    }),
    run: stopsFrom,
  },
  {
    id: 'freeze',
    cause: ['it freezes'],
    tags: ['F-32'],
    roles: () => ({}),
    run: (s, r) => {
      upToSpeed(s, speedOf(r));
      s.wait(between(r, 2, 30));
      s.act({ panel: { coil: 1 } });
      s.wait(60);
    },
  },
];
