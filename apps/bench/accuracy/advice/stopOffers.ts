import { leastStop, lookAheadBand, motionFindings, planFor, safeStop, specOf, type BandQuantity } from '@yare/commissioning';
import { lookAheadRun, random, shortestStop, type MachineSpec, nth } from '@yare/core';
import { demoMachine } from '@yare/demo-plant';
import { runTrue, trueMachine } from '../trueRun';
import { lived, type AdviceSeen, type LivedOffer } from './offer';
import { sound } from './wrongSettings';

const tags = ['P-11', 'P-41', 'F-32', 'C-07', 'C-21', 'M-55'] as const;

/** One machine set to a stop far too short, or held by its bus: the stop that is offered, taken and made on the bench, with what was foretold of it. */
export function stopOffers(seed: number, n: number): AdviceSeen {
  const tag = nth(tags, n % tags.length);
  const demo = demoMachine(tag);
  const r = random(seed * 613_651 + n * 275_604_541);
  const { settings } = sound(tag);
  const withStop = (time: number, hold: number | null) => {
    const changes = [...settings.change('decelerationTime', time), ...(hold === null ? [] : settings.change('busRampHold', hold))];
    return settings.with({ ...settings.values, ...Object.fromEntries(changes.map((c) => [c.code, c.value])) });
  };
  const hold = r.uniform() < 0.3 ? 1 : 0;
  const gentle = specOf(demo, demo.plate, withStop(10, 0));
  if (!gentle.ok) return lived([]);
  const top = gentle.spec.drive.maximumFrequency;
  const shortest = shortestStop(gentle.spec, top);
  const { kind } = demo.driven;
  const band = (quantity: BandQuantity) => lookAheadBand(kind, false, quantity);
  const looked = (spec: MachineSpec) => {
    const ahead = lookAheadRun(spec, planFor(spec, top));
    return { ahead, found: motionFindings(spec, ahead, band) };
  };
  const wrong = specOf(demo, demo.plate, withStop(Math.max(leastStop / 2, shortest * 0.2 * 6 ** r.uniform()), hold));
  if (!wrong.ok) return lived([]);
  const before = looked(wrong.spec);
  const offering = before.found.filter((f) => f.offer);
  if (offering.length === 0) return lived([]);
  const offered = safeStop(kind, false, shortest);
  const better = specOf(demo, demo.plate, withStop(offered, hold));
  if (!better.ok) return lived([]);
  const after = looked(better.spec);
  const plan = planFor(better.spec, top);
  const day = Math.floor(300 * r.uniform());
  const truth = runTrue(trueMachine({ ...demo, asFound: {} }, withStop(offered, hold).values, seed * 97 + n, day), plan);
  // what trips on its way up has made no stop
  if (truth.peakBus === 0) return lived([]);
  const within = (quantity: BandQuantity, foretold: number | null, came: number | null): boolean[] => {
    const share = band(quantity);
    return foretold === null || came === null || share === null ? [] : [Math.abs(came - foretold) <= share * foretold];
  };
  const { summary } = after.ahead;
  return lived(
    offering.map((f): LivedOffer => ({
      ...{ by: 'look-ahead', id: `${f.id}: ${f.offer}`, tag },
      cured: !after.found.some((x) => x.id === f.id && x.severity !== 'good'),
      harm: truth.tripped ? 'trips' : null,
      held: [
        ...within('peak bus', summary.peakBus, truth.peakBus),
        ...within('stop time', summary.stopTime, truth.stopTime),
        ...within('peak current', summary.peakCurrent, truth.peakOfAll),
      ],
    })),
  );
}
