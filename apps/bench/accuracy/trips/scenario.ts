import type { Random } from '@yare/core';
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

export const between = (r: Random, low: number, high: number): number => low + (high - low) * r.uniform();
export const all = ['P-11', 'P-41', 'P-43', 'F-32', 'C-07', 'C-21', 'M-55'] as const;
export const belts = ['C-07', 'C-21'] as const;

/** s a run-up may take before something strikes. */
export const runUp: Readonly<Record<string, number>> = { 'F-32': 80 };
export const upToSpeed = (s: Stage, share: number): void => {
  s.start(share);
  s.wait(runUp[s.tag] ?? 14);
};
export const speedOf = (r: Random): number => between(r, 0.6, 0.95);

/** A fault that strikes while it runs in hand. */
export const struck = (
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

export const stopsFrom = (s: Stage, r: Random): void => {
  // what trips it on the way up is not the stop
  s.inForce = false;
  upToSpeed(s, between(r, 0.8, 1));
  s.wait(between(r, 2, 20));
  s.inForce = s.tripped === null;
  s.stop();
  s.wait(60);
};
export const noSleep: Roles = { sleepFrequency: 0 };
export const shortStop = (r: Random, tag: string): number =>
  tag === 'F-32' ? between(r, 4, 14) : tag === 'P-11' ? between(r, 0.15, 0.5) : between(r, 0.05, 0.2);
