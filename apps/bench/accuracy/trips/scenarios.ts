import { HealthyContact, LinkLossAction, LiveZeroAction, NoFlowSource, Switch, type Random } from '@yare/core';
import type { Roles, Stage } from './stage';

/** One way a machine of the bench is brought to a trip: a fault of the bench, or settings that are wrong. */
export interface Scenario {
  id: string;
  /** the cause of the library that is behind it; more than one where the bench cannot be told apart from them */
  cause: readonly string[];
  tags: readonly string[];
  roles(r: Random, tag: string): Roles;
  run(s: Stage, r: Random): void;
}

const between = (r: Random, low: number, high: number): number => low + (high - low) * r.uniform();
const all = ['P-11', 'P-41', 'P-43', 'F-32', 'C-07', 'C-21', 'M-55'] as const;
const belts = ['C-07', 'C-21'] as const;

/** s a run-up may take before something strikes. */
const runUp: Readonly<Record<string, number>> = { 'F-32': 80 };
const upToSpeed = (s: Stage, share: number): void => {
  s.start(share);
  s.wait(runUp[s.tag] ?? 14);
};
const speedOf = (r: Random): number => between(r, 0.6, 0.95);

/** A fault that strikes while it runs in hand. */
const struck = (
  id: string,
  cause: string | readonly string[],
  tags: readonly string[] = all,
  roles: Scenario['roles'] = () => ({}),
  most = 400,
): Scenario => ({
  id,
  cause: typeof cause === 'string' ? [cause] : cause,
  tags,
  roles,
  run: (s, r) => {
    upToSpeed(s, speedOf(r));
    s.wait(between(r, 3, 40));
    s.strike(id);
    s.wait(most);
  },
});

const stopsFrom = (s: Stage, r: Random): void => {
  // what trips it on the way up is not the stop
  s.inForce = false;
  upToSpeed(s, between(r, 0.8, 1));
  s.wait(between(r, 2, 20));
  s.inForce = s.tripped === null;
  s.stop();
  s.wait(60);
};
const noSleep: Roles = { sleepFrequency: 0 };
const shortStop = (r: Random, tag: string): number =>
  tag === 'F-32' ? between(r, 4, 14) : tag === 'P-11' ? between(r, 0.15, 0.5) : between(r, 0.05, 0.2);

/**
 * Faults of the bench that lead to no trip by themselves are not among them: leads changed over, a leaking check valve, a clogged filter, and a blocked
 * motor fan, whose motor would have to heat up for hours.
 */
export const scenarios: readonly Scenario[] = [
  struck('dip', 'supply dip'),
  struck('outage', 'supply gone'),
  struck('swell', 'surge on the line'),
  {
    id: 'line low',
    cause: ['line low'],
    tags: all,
    roles: () => ({}),
    run: (s, r) => {
      upToSpeed(s, speedOf(r));
      for (let share = 100; share > 70 && s.tripped === null; share -= 3) {
        s.act({ handles: { supply: share } });
        s.wait(between(r, 0.5, 3));
      }
      s.strike('sag');
      s.wait(60);
    },
  },
  struck('inputPhase', 'supply phase missing', all, () => ({ phaseLoss: 1 })),
  struck('motorPhase', 'motor lead open', all, () => ({ phaseLoss: 1 })),
  struck('earth', 'wet insulation', all, () => ({ earthFault: 1 })),
  struck('short', 'short in the cable'),
  {
    id: 'short at start',
    cause: ['short in the cable'],
    tags: all,
    roles: () => ({}),
    run: (s, r) => {
      s.wait(2);
      s.strike('short');
      s.start(speedOf(r));
      s.wait(20);
    },
  },
  struck('jam', 'jam', all, (r) => ({ stallTime: between(r, 2, 6) })),
  struck('drag', 'turns hard', all),
  struck('rags', 'rags', ['P-11', 'P-41', 'P-42'], () => ({ ...noSleep, highLoadLevel: 1.3, highLoadDelay: 5, noFlowDelay: 0 })),
  {
    id: 'blocked',
    cause: ['cannot be cleaned', 'turns hard'],
    tags: ['P-11'],
    roles: () => ({
      ...noSleep,
      reversePermit: 1,
      highLoadLevel: 1.2,
      highLoadDelay: 3,
      cleanAtLoad: 1,
      cleanStrokes: 1,
      cleanFrequency: 20,
      cleanTime: 4,
      cleanMost: 2,
      noFlowDelay: 0,
    }),
    run: (s, r) => {
      s.act({ handles: { demand: between(r, 40, 80) } });
      s.auto();
      s.wait(30);
      s.strike('drag');
      s.wait(300);
    },
  },
  {
    id: 'wire',
    cause: ['signal wire broken'],
    tags: ['P-11', 'P-41', 'F-32'],
    roles: () => ({ ...noSleep, liveZeroLoss: LiveZeroAction.trip, noFlowDelay: 0 }),
    run: (s, r) => {
      s.auto();
      s.wait(runUp[s.tag] ?? 20);
      s.wait(between(r, 3, 40));
      s.strike('wire');
      s.wait(30);
    },
  },
  struck('external', 'chain opened'),
  struck('sto', 'one channel open'),
  struck('hot', 'drive cannot cool', all, () => ({}), 3000),
  struck('valve', 'valve shut', ['P-11', 'P-41'], () => ({ ...noSleep, noFlowDelay: 8 })),
  struck('valve', 'valve shut', ['P-11'], () => ({ ...noSleep, shutLoad: 0.45, noFlowDelay: 10, noFlowSource: NoFlowSource.load })),
  struck('air', 'draws air', ['P-11', 'P-41'], () => ({ ...noSleep, shutLoad: 0.42, dryRunLevel: 0.5, dryRunDelay: 5, noFlowDelay: 0 })),
  struck('air', 'draws air', ['P-11', 'P-42'], () => ({ ...noSleep, lowLoadLevel: 0.15, lowLoadDelay: 5, noFlowDelay: 0 })),
  struck('coupling', 'coupling apart', ['P-11', 'P-41', 'C-07', 'F-32'], () => ({ ...noSleep, lowLoadLevel: 0.2, lowLoadDelay: 5, noFlowDelay: 0 })),
  {
    id: 'burst',
    cause: ['burst', 'pumps too much'],
    tags: ['P-11'],
    roles: () => ({ ...noSleep, lowPressureLevel: 0.25, lowPressureDelay: 20, noFlowDelay: 0 }),
    run: (s, r) => {
      s.act({ handles: { demand: between(r, 30, 80) } });
      s.auto();
      s.wait(40);
      s.strike('burst');
      s.wait(200);
    },
  },
  struck('overload', 'overloaded', belts, () => ({}), 1800),
  {
    id: 'overhauling',
    cause: ['load drives the motor'],
    tags: belts,
    roles: () => ({ busRampHold: 0 }),
    run: (s, r) => {
      upToSpeed(s, between(r, 0.7, 1));
      s.wait(between(r, 2, 20));
      s.strike('overhauling');
      s.wait(120);
    },
  },
  {
    id: 'link',
    cause: ['link cable'],
    tags: ['P-11', 'F-32', 'C-21', 'C-07'],
    roles: (r) => ({ linkTimeout: between(r, 0.5, 3), onLinkLoss: LinkLossAction.trip }),
    run: (s, r) => {
      s.lead(between(r, 15, 45));
      s.wait(between(r, 10, 60));
      s.strike('link');
      s.wait(20);
    },
  },
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
