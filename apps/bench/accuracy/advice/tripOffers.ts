import { safeStop, specOf } from '@yare/commissioning';
import { remediesOf } from '@yare/commissioning/trips';
import { random, shortestStop, type Random, type TripCause, nth } from '@yare/core';
import { diagnose } from '@yare/core/trips';
import { reading } from '../../src/plant/readings';
import { scenarios } from '../trips/scenarios';
import { cureScenarios, type CureScenario } from './cureScenarios';
import type { Scenario } from '../trips/scenario';
import { Stage } from '../trips/stage';
import { rolesOf } from './live';
import { lived, type AdviceSeen, type LivedOffer } from './offer';

/** One machine led to its trip; the same one again with other settings. */
function lead(s: Scenario, seed: number, index: number, values: Readonly<Record<string, number>> | null): { stage: Stage; tag: string } {
  const r: Random = random(seed * 1_000_003 + index * 97);
  const tag = nth(s.tags, Math.floor(r.uniform() * s.tags.length));
  const roles = s.roles(r, tag);
  const day = Math.floor(r.uniform() * 300);
  const first = new Stage(tag, roles, seed * 31 + index * 13, day);
  const stage = values === null ? first : new Stage(tag, rolesOf(tag, first.d.settings.with(values)), seed * 31 + index * 13, day);
  s.run(stage, r);
  return { stage, tag };
}

/** Every way to a trip that is led to, those whose cures nothing else would come to among them, often enough to be met. */
export const led: readonly CureScenario[] = scenarios.flatMap((s, i) => (i % 12 === 0 ? [...cureScenarios, s] : [s]));

/** s it is given to start again by itself, where that is the cure. */
const restarts = 120;

/** Whether it got over the trip by itself. */
function wentOn(stage: Stage): boolean {
  for (let t = 0; t < restarts && !(stage.tripped === null && stage.d.running); t++) stage.d.advance(1000);
  return stage.tripped === null && stage.d.running;
}

/** What became of the same machine on the same day with the cure in its drive. */
function livedCure(s: Scenario, seed: number, index: number, trip: TripCause, values: Record<string, number>, goesOn: boolean) {
  const { stage } = lead(s, seed, index, values);
  const again = stage.tripped;
  return { cured: goesOn ? again === null || wentOn(stage) : again !== trip, harm: again !== null && again !== trip ? `trips: ${again}` : null };
}

/** One trip of the bench by a wrong setting or a fault: the cure of the cause that is said first, taken and lived through the same again. */
export function tripOffers(seed: number, index: number): AdviceSeen {
  const s = nth(led, index % led.length);
  const { stage, tag } = lead(s, seed, index, null);
  const trip = stage.tripped;
  if (trip === null || !stage.inForce) return lived([]);
  stage.settle();
  const whole = stage.tripCase(true);
  const { next } = diagnose(whole);
  // the label of a sensor is read before anything is set by it
  const asked = [...next.slice(0, 1).map((x) => x.id), 'signalType' as const];
  const answers = Object.fromEntries(asked.flatMap((id) => (next.some((x) => x.id === id) ? [[id, s.found?.[id] ?? reading(stage.d, id)]] : [])));
  const { ranked, seen } = diagnose({ ...whole, answers });
  const [first] = ranked;
  const { settings, demo } = stage.d;
  const made = specOf(demo, demo.plate, settings);
  if (!first || !made.ok) return lived([]);
  const { spec, circuit } = made;
  const signalType = seen.signalType?.outcome;
  const shortest = first.remedy === 'longer stop' ? safeStop(demo.driven.kind, false, shortestStop(spec, spec.drive.maximumFrequency)) : null;
  const ways = remediesOf(first.remedy, {
    ...{ settings, plate: demo.plate, supply: spec.supply, trip: first.trip, shortest, circuit },
    ...(signalType !== undefined && { signalType }),
  });
  return lived(
    ways.map((way): LivedOffer => {
      const values = { ...settings.values, ...Object.fromEntries(way.changes.map((c) => [c.code, c.value])) };
      return {
        ...{ by: 'trip', id: `${first.id}: ${first.remedy}`, tag, held: [] },
        ...livedCure(s, seed, index, trip, values, first.remedy === 'ride through'),
      };
    }),
  );
}
