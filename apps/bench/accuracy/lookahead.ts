import { learnFromRecord } from '@yare/core/learn';
import { demoDraft, demoPlant, type DemoMachine } from '@yare/demo-plant';
import { applyLearned, lookAheadRun, random, shortestStop, type LookAheadSummary, type MachineSpec, type Random, present } from '@yare/core';
import { SimulatedDrive } from '../src/drive/simulatedDrive';
import { commissioned, estimateOf, learningRun, learnOptions } from './learningRun';

export const quantities = ['peak bus', 'stop time', 'peak current', 'settled speed', 'settled pressure'] as const;
export type Quantity = (typeof quantities)[number];

/** Errors of one look-ahead against the bench, as shares; and whether it said rightly that the drive trips. */
export interface Compared {
  errors: Partial<Record<Quantity, number>>;
  tripRight: boolean;
}

export interface Comparison {
  tag: string;
  kind: DemoMachine['driven']['kind'];
  seed: number;
  tripped: boolean;
  before: Compared;
  /** null when the recording was refused */
  after: Compared | null;
  refused: string | null;
}

const writtenRoles = ['accelerationTime', 'decelerationTime', 'busRampHold'] as const;

/** Settings of one machine by role, as the drive would store them. */
function written(demo: DemoMachine, roles: Partial<Record<(typeof writtenRoles)[number], number>>): DemoMachine {
  const settings = demoDraft(demo);
  const changes = writtenRoles.flatMap((role) => (roles[role] === undefined ? [] : settings.change(role, roles[role])));
  return commissioned(demo, Object.fromEntries(changes.map((c) => [c.code, c.value])));
}

/** Nobody sets a shorter stop on machines of this kind, s. */
const leastRamp = 2;

const logUniform = (r: Random, low: number, high: number): number => low * (high / low) ** r.uniform();
const apart = (a: number, b: number): number => Math.abs(a / b - 1);

function compare(ahead: LookAheadSummary, bench: LookAheadSummary, withPressure: boolean): Compared {
  const errors: Compared['errors'] = { 'peak current': apart(ahead.peakCurrent, bench.peakCurrent) };
  const bothTrip = ahead.trip !== null && bench.trip !== null;
  // where both trip on the bus their peaks are the trip level, which proves nothing
  if (!bothTrip) errors['peak bus'] = apart(ahead.peakBus, bench.peakBus);
  if (ahead.stopTime !== null && bench.stopTime !== null && !ahead.trip && !bench.trip) errors['stop time'] = apart(ahead.stopTime, bench.stopTime);
  if (bench.settledSpeed > 0 && ahead.settledSpeed > 0) {
    errors['settled speed'] = apart(ahead.settledSpeed, bench.settledSpeed);
    if (withPressure && bench.settledPressure > 0) errors['settled pressure'] = apart(ahead.settledPressure, bench.settledPressure);
  }
  return { errors, tripRight: (ahead.trip === null) === (bench.trip === null) };
}

/**
 * One seeded machine: a gentle run is recorded over its drive's own registers and learned from; then a different run, whose stop lies anywhere from
 * far too fast to far too slow, is looked ahead without and with what was learned and compared with the machine itself.
 */
export function compareOne(shipped: DemoMachine, seed: number): Comparison {
  const r = random(seed * 65537 + shipped.unitId);
  // what is driven differs from plant to plant; how heavy it is, roughly, is on the survey and so known to both
  const heavier = shipped.driven.kind === 'fan' ? logUniform(r, 0.5, 1.5) : logUniform(r, 0.7, 8);
  // looked ahead is a machine whose direction was proved: its leads lie right
  const base: DemoMachine = { ...shipped, leadsSwapped: false, driven: { ...shipped.driven, inertia: shipped.driven.inertia * heavier } };
  const up = base.driven.kind === 'fan' ? 60 : base.driven.kind === 'pump' ? 6 : 4;
  const gentle = written(base, { accelerationTime: up, decelerationTime: base.driven.kind === 'fan' ? 150 : up * 2.5, busRampHold: 0 });
  const learner = new SimulatedDrive(gentle, seed, undefined, () => undefined);
  const learnEstimate = estimateOf(gentle, learner.values);
  const record = learningRun(learner, 42 + 6 * r.uniform(), 5, seed);
  const learned = learnFromRecord(learnEstimate, record, learnOptions(gentle, learner.values));

  const shortest = shortestStop(learnEstimate, 50);
  const judged = written(base, {
    accelerationTime: up * logUniform(r, 0.5, 2),
    decelerationTime: Math.max(leastRamp * logUniform(r, 1, 3), shortest * logUniform(r, 0.4, 2.5)),
    busRampHold: r.uniform() < 0.25 ? 1 : 0,
  });
  const truth = new SimulatedDrive(judged, seed, undefined, () => undefined);
  const estimate = estimateOf(judged, truth.values);
  const { accelerationTime, decelerationTime, maximumFrequency } = estimate.drive;
  const plan = { reference: maximumFrequency * (0.7 + 0.3 * r.uniform()), runTime: 6, longest: 60 + 3 * accelerationTime + 3 * decelerationTime };
  const run = (spec: MachineSpec) => lookAheadRun(spec, plan).summary;
  const bench = run(truth.machine.spec);
  const withPressure = 'sensor' in base.driven && base.driven.sensor?.measures === 'pressure';
  return {
    tag: base.tag,
    kind: base.driven.kind,
    seed,
    tripped: bench.trip !== null,
    before: compare(run(estimate), bench, withPressure),
    after: learned.ok ? compare(run(applyLearned(estimate, learned.learned)), bench, withPressure) : null,
    refused: learned.ok ? null : learned.sentence,
  };
}

/** The n-th seeded machine of a run, taken round the demo plant in turn. */
export const compareNth = (seed: number, n: number): Comparison => compareOne(present(demoPlant[n % demoPlant.length]), seed * 1000 + n);

export interface Figures {
  medianErrorPct: number;
  p95ErrorPct: number;
  tripDecisionRightPct: number;
}

const quantile = (sorted: readonly number[], q: number): number => sorted[Math.min(sorted.length - 1, Math.floor(q * sorted.length))] ?? NaN;
const pct = (x: number): number => Math.round(x * 10000) / 100;

/** Median and 95th percentile over every quantity of every machine, or of one quantity. */
export function figures(side: readonly Compared[], only?: Quantity): Figures {
  const errors = side.flatMap((c) => (only ? (c.errors[only] === undefined ? [] : [c.errors[only]]) : Object.values(c.errors))).sort((a, b) => a - b);
  return {
    medianErrorPct: pct(quantile(errors, 0.5)),
    p95ErrorPct: pct(quantile(errors, 0.95)),
    tripDecisionRightPct: pct(side.filter((c) => c.tripRight).length / side.length),
  };
}
