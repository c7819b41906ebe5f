import { AnalogueSignal, ControlMethod, shareOf, StartMode, StopMode } from '@yare/core';
import type { MeasurementId } from '@yare/core/trips';
import type { Scenario } from '../trips/scenario';

/** A way to a trip, and what is found there where it is not what the bench finds of its own. */
export type CureScenario = Scenario & { found?: Readonly<Partial<Record<MeasurementId, string>>> };

/** V across the input of a drive that waits for a current: what a voltage transmitter can drive through 250 Ω (2 mA, common practice). */
const heldDown = 0.5;
const burden = 250;

/** Trips whose cures change settings and that none of the other scenarios leads to. */
export const cureScenarios: readonly CureScenario[] = [
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
    run: (s) => {
      const { plant } = s.d;
      const sound = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(plant), 'signal')?.get;
      // a transmitter that gives 0 to 20 mA for the same range
      Object.defineProperty(plant, 'signal', { get: () => 1.25 * Math.max(0, sound?.call(plant) - 4) });
      s.auto();
      s.wait(60);
    },
    found: { signalType: '0 to 20 mA' },
  },
  {
    id: 'signal in volts',
    cause: ['signal of another kind'],
    tags: ['P-11'],
    roles: () => ({ sleepFrequency: 0 }),
    run: (s) => {
      const { plant } = s.d;
      const share = () => (plant.signal - 4) / 16;
      // 0 to 10 V for the same range: as wired where the input takes volts, next to nothing where it takes a current
      const analogue = () => {
        const { signal } = s.d.controlSettings.command.analogue;
        return shareOf(signal, signal === AnalogueSignal.volts ? 10 * share() : Math.min(10 * share(), heldDown) * (1000 / burden));
      };
      Object.defineProperty(s.d, 'analogue', { value: analogue });
      s.auto();
      s.wait(60);
    },
    found: { signalType: '0 to 10 V' },
  },
];
