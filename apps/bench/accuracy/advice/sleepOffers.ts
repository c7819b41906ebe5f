import type { DriveSettings } from '@yare/books';
import { sensorOf, specOf } from '@yare/commissioning';
import { cureChanges, cureName, cureOffered, curesOf } from '@yare/commissioning/days';
import { holdingFrequency, random, stampedPower, type SettingRole } from '@yare/core';
import { mostPerHour, sleepAhead, type DayPlan } from '@yare/core/days';
import { demoMachine } from '@yare/demo-plant';
import { truthOf, type Truth } from '../../src/plant/truth';
import { scan, TrueDay } from '../days/trueDay';
import { lived, type AdviceSeen } from './offer';
import { sound } from './wrongSettings';

const tag = 'P-11';
/** Pa of the whole sensor. */
const range = 1e6;
/** s lived, in which less is drawn than it sleeps by: as good as a night. */
const night = 3 * 3600;
/** Share of the range that the pressure may fall below where the pump wakes. */
const below = 0.05;

/** How often within an hour it woke, and the lowest pressure, Pa. */
function livedNight(truth: Truth, settings: DriveSettings, seed: number, flow: number, set: number): { perHour: number; lowest: number } {
  const day = new TrueDay(truth, settings, settings.controls(), range, seed, set);
  const wakes: number[] = [];
  let lowest = Infinity;
  day.draw(flow, set);
  for (let i = 0; i < night / scan; i++) {
    const before = day.controls.process.sleep.wakes;
    day.step();
    const hour = (i * scan) / 3600;
    if (day.controls.process.sleep.wakes > before) wakes.push(hour);
    if (hour > 0.1) lowest = Math.min(lowest, day.m.loadState.pressure);
  }
  return { perHour: mostPerHour(wakes), lowest };
}

/** A pump that hunts by a leak at night: the cure that its day ahead offers, taken and lived at the bench's own laws of pump and pipe. */
export function sleepOffers(seed: number, n: number): AdviceSeen {
  const demo = demoMachine(tag);
  const r = random(seed * 67_867_979 + n * 32_452_867);
  const between = (low: number, high: number) => low * (high / low) ** r.uniform();
  const base = sound(tag).settings;
  const made = specOf(demo, demo.plate, base);
  if (!made.ok || made.spec.load.kind !== 'pump') return lived([]);
  const { spec } = made;
  const pump = made.spec.load;
  const set = range * base.roleValue('setpoint');
  const flow = between(0.003, 0.03) * pump.bestFlow;
  const compliance = between(1e-7, 1e-6);
  const roles: Array<[SettingRole, number]> = [
    ['sleepFrequency', holdingFrequency(spec, pump, set, flow) + 1 + 2 * r.uniform()],
    ['sleepDelay', between(5, 30)],
    ['wakeFall', between(0.005, 0.03)],
    ['sleepBoost', 0],
    ['leastRun', 0],
  ];
  const settings = base.with({
    ...base.values,
    ...Object.fromEntries(roles.flatMap(([role, x]) => base.change(role, x)).map((c) => [c.code, c.value])),
  });
  const plan: DayPlan = {
    ...{ sensor: { measures: 'pressure', low: 0, high: range }, process: settings.controls().process },
    ...{ demand: Array.from({ length: 24 }, () => flow), shown: { compliance } },
  };
  const ahead = sleepAhead({ ...spec, drive: settings.parameters() }, plan, stampedPower(demo.plate), curesOf(settings));
  const sensor = sensorOf(demo.driven);
  const cure = sensor && cureOffered(ahead, settings, sensor);
  if (!cure) return lived([]);
  const truth = truthOf(demo, settings, seed * 53 + n, 1 + Math.floor(300 * r.uniform()));
  if (truth.spec.load.kind !== 'pump') return lived([]);
  truth.spec.load.compliance = compliance;
  const after = settings.with({
    ...settings.values,
    ...Object.fromEntries(cureChanges(settings, cure.sleep).map((c) => [c.code, c.value])),
  });
  const [before, cured] = [settings, after].map((s) => livedNight(truth, s, seed + n, flow, set));
  if (!before || !cured) return lived([]);
  const wakes = set - range * after.roleValue('wakeFall');
  const short = cured.lowest < wakes - below * range && cured.lowest < before.lowest;
  return lived([
    {
      ...{ by: 'sleep', id: cureName(cure.kind), tag, held: [] },
      cured: cured.perHour <= ahead.allowed,
      harm: short ? `the pressure falls to ${(cured.lowest / 1e5).toFixed(2)} bar` : null,
    },
  ]);
}
