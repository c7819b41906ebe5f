import { ControlMethod, StartMode, StopMode } from '@yare/core';
import type { Scenario } from '../trips/scenario';

/** Trips whose cures change settings and that none of the other scenarios leads to. */
export const cureScenarios: readonly Scenario[] = [
  {
    id: 'boost too low',
    cause: ['boost too low'],
    tags: ['C-21'],
    roles: (r) => ({ startBoost: 0, controlMethod: ControlMethod.linear, currentLimit: 3.9 * (1.15 + 0.1 * r.uniform()), stallTime: 4 }),
    run: (s, r) => {
      s.start(0.1 + 0.8 * r.uniform());
      s.wait(60);
    },
  },
  {
    id: 'spinning',
    cause: ['starts into a turning machine'],
    tags: ['F-32'],
    roles: () => ({ stopMode: StopMode.coast, startMode: StartMode.fromRest, currentLimit: 120 }),
    run: (s, r) => {
      s.start(1);
      s.wait(90);
      s.stop();
      s.wait(1 + 3 * r.uniform());
      s.start(0.3 + 0.7 * r.uniform());
      s.wait(60);
    },
  },
  {
    id: 'signal',
    cause: ['signal of another kind'],
    tags: ['P-11'],
    roles: () => ({ sleepFrequency: 0 }),
    run: (s, r) => {
      s.d.plant.wiring.signalGiven = r.uniform() < 0.5 ? '0 to 20 mA' : '0 to 10 V';
      s.auto();
      s.wait(60);
    },
  },
];
