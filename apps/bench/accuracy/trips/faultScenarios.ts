import { LinkLossAction, LiveZeroAction, NoFlowSource } from '@yare/core';
import { all, belts, between, noSleep, runUp, speedOf, struck, upToSpeed, type Scenario } from './scenario';

/**
 * Faults of the bench that lead to no trip by themselves are not among them: leads changed over, a leaking check valve, a clogged filter, and a blocked
 * motor fan, whose motor would have to heat up for hours.
 */
export const faultScenarios: readonly Scenario[] = [
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
];
