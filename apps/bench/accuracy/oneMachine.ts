import { learnFromRecords } from '@yare/core/learn';
import { bookById, DriveSettings } from '@yare/books';
import { leastStop, tunedOf } from '@yare/commissioning';
import { demoDraft, demoPlant, type DemoMachine } from '@yare/demo-plant';
import {
  applyLearned,
  applyTuned,
  random,
  ratedTorque,
  shortestStop,
  stampedPower,
  StopMode,
  present,
  tellsLittle,
  type DriveParameters,
  type LearnResult,
  type MachineSpec,
  type Random,
} from '@yare/core';
import { SimulatedDrive } from '../src/drive/simulatedDrive';
import { commissioned, estimateOf, learningRun, learnOptions, tuneAtStandstill } from './learningRun';
import { foresee, naive, resistorOn, type Figures, type Questions } from './quantities';
import type { Plant } from '../src/plant/plant';
import { runTrue, shortestTrue, stopTrue, trueMachine, type TrueRun } from './trueRun';

/** What an estimate stands on. */
export const stands = ['naive', 'plate', 'tune', 'learning', 'both'] as const;
export type Stand = (typeof stands)[number];

/** Figures that the screens give a band. */
export interface Shown {
  'peak bus': number;
  'stop time': number | null;
  'peak current': number;
  'settled speed': number;
  'settled pressure': number;
}

/** One machine judged: what it truly did, and what each estimate had said; null where an estimate could not be made. */
export interface Judged {
  tag: string;
  kind: DemoMachine['driven']['kind'];
  seed: number;
  truth: Figures;
  truthTrips: boolean;
  /** what the same machine did on the day that was learned from: nothing foreseen can be better than a day is like another */
  sameOtherDay: { truth: Figures; trips: boolean };
  foreseen: Record<Stand, Figures | null>;
  trips: Record<Stand, boolean | null>;
  shown: { truth: Shown; plate: Shown; learning: Shown | null };
  refused: string | null;
}

const writtenRoles = ['accelerationTime', 'decelerationTime', 'busRampHold'] as const;

/** Settings of one machine by role, as the drive would store them. */
function written(demo: DemoMachine, roles: Partial<Record<(typeof writtenRoles)[number], number>>): DemoMachine {
  const settings = demoDraft(demo);
  const changes = writtenRoles.flatMap((role) => (roles[role] === undefined ? [] : settings.change(role, roles[role])));
  return commissioned(demo, Object.fromEntries(changes.map((c) => [c.code, c.value])));
}

/** A first run stops in so many times what the plate says is the shortest: about what the screens offer from the plate alone. */
const firstStop = 2;
/** Where that tells little of the inertia, a second one stops in so many times what is foreseen after it: about what the screens offer then. */
const secondStop = 1.5;
/** V by which a bus has to rise before its rise is a figure to be judged, and J before a resistor's energy is. */
const leastRise = 10;
const leastEnergy = 20;
/** V the shortest stop stays away from the trip level: the application's own. */
const margin = 15;
/** Torque that later holds the shaft back, over rated, and s one waits for the trip. */
const heldBack = { share: 0.9, longest: 400 };
/** The days: one to learn on, another to be judged on. */
const days = { learned: 1, judged: 2 };

const logUniform = (r: Random, low: number, high: number): number => low * (high / low) ** r.uniform();
const quiet = () => undefined;

/**
 * What is learned as the screens ask for it: from a run, and where that tells little of the inertia, from that run and one with the stop they offer
 * then, together.
 */
export function learnedOn(d: SimulatedDrive, speed: number, seed: number, known: (spec: MachineSpec) => MachineSpec): LearnResult {
  const estimate = known(estimateOf(d.demo, d.values));
  const options = learnOptions(d.demo, d.values);
  const runs = [learningRun(d, speed, 5, seed)];
  const first = learnFromRecords(estimate, runs, options);
  if (!first.ok || !tellsLittle(first.inertia)) return first;
  const shortest = shortestStop(applyLearned(estimate, first.learned), speed, undefined, margin);
  const quicker = Math.max(leastStop, secondStop * shortest);
  if (quicker > 0.9 * d.machine.spec.drive.decelerationTime) return first;
  for (const { code, value } of d.settings.change('decelerationTime', quicker)) d.set(code, value);
  runs.push(learningRun(d, speed, 5, seed + 1));
  const both = learnFromRecords(estimate, runs, options);
  return both.ok ? both : first;
}

/** What the application knows of one machine, by what it stands on. */
function estimates(gentle: DemoMachine, judged: DemoMachine, values: Record<string, number>, seed: number, speed: number) {
  const plate = estimateOf(judged, values);
  const learning = learnedOn(new SimulatedDrive(gentle, seed, undefined, quiet, days.learned), speed, seed, (spec) => spec);
  const out: Record<Exclude<Stand, 'naive'>, MachineSpec | null> = { plate, tune: plate, learning: null, both: null };
  out.learning = learning.ok ? applyLearned(plate, learning.learned) : null;
  out.both = out.learning;
  const tuner = new SimulatedDrive(gentle, seed, undefined, quiet, days.learned);
  if (tuneAtStandstill(tuner)) {
    const tuned = tunedOf(new DriveSettings(bookById(gentle.bookId), gentle.size, tuner.values, gentle.region));
    out.tune = applyTuned(plate, tuned);
    tuner.advance(2000);
    const both = learnedOn(tuner, speed, seed + 2, (spec) => applyTuned(spec, tuned));
    out.both = both.ok ? applyLearned(out.tune, both.learned) : null;
  }
  return { ...out, refused: learning.ok ? null : learning.sentence };
}

/** One seeded machine and what is asked of it. */
interface Case {
  base: DemoMachine;
  /** with the settings it is learned with, and those it is judged with, as found in its drive */
  gentle: DemoMachine;
  judged: DemoMachine;
  values: Record<string, number>;
  /** Hz of the run that is learned from */
  learnedAt: number;
  /** from the plate */
  plate: MachineSpec;
  /** s, by the plate */
  shortest: number;
  questions: Questions;
}

/** What is driven differs from plant to plant; how heavy it is, roughly, is on the survey and so known to both sides. */
function caseOf(shipped: DemoMachine, seed: number): Case {
  const r = random(seed * 65537 + shipped.unitId);
  const { kind } = shipped.driven;
  const heavier = kind === 'fan' ? logUniform(r, 0.3, 0.8) : logUniform(r, 0.7, 8);
  const base: DemoMachine = { ...shipped, leadsSwapped: false, driven: { ...shipped.driven, inertia: shipped.driven.inertia * heavier } };
  const up = kind === 'fan' ? 75 : kind === 'pump' ? 6 : 4;
  const anyRamp = written(base, { accelerationTime: up, busRampHold: 0 });
  const shortest = shortestStop(estimateOf(anyRamp, new SimulatedDrive(anyRamp, seed, undefined, quiet).values), 50);
  const gentle = written(base, { accelerationTime: up, decelerationTime: Math.max(leastStop, firstStop * shortest), busRampHold: 0 });
  const judged = written(base, {
    accelerationTime: up * logUniform(r, 0.5, 2),
    decelerationTime: Math.max(leastStop * logUniform(r, 1, 3), shortest * logUniform(r, 0.4, 2.5)),
    busRampHold: 0,
  });
  const { values } = new SimulatedDrive(judged, seed, undefined, quiet);
  const plate = estimateOf(judged, values);
  const { accelerationTime, decelerationTime, maximumFrequency } = plate.drive;
  const learnedAt = 42 + 6 * r.uniform();
  const questions: Questions = {
    plan: { reference: maximumFrequency * (0.7 + 0.3 * r.uniform()), runTime: 6, longest: 60 + 3 * accelerationTime + 3 * decelerationTime },
    resistorStop: Math.max(0.5, 0.6 * shortest),
    heldBack: { torque: heldBack.share * ratedTorque(stampedPower(base.plate), base.plate.speed), longest: heldBack.longest },
    margin,
  };
  return { base, gentle, judged, values, learnedAt, plate, shortest, questions };
}

type Answer = ReturnType<typeof foresee>;

const shownOf = (a: Answer): Shown => ({
  'peak bus': a.peakBus,
  'stop time': a.stopTime,
  'peak current': a.peakCurrent,
  'settled speed': a.settledSpeed,
  'settled pressure': a.figures.settledPressure ?? 0,
});

/** What the machine itself answers; a figure it has not got is left out. @param near s, where its shortest stop is looked for first */
function truthOf({ base, judged, plate, questions }: Case, make: (change: Partial<DriveParameters>) => Plant, truth: TrueRun, near: number): Figures {
  const { reference } = questions.plan;
  const { kind } = base.driven;
  const out: Figures = { peakCurrent: truth.peakCurrent };
  if (!truth.tripped && truth.peakBus - truth.restBus > leastRise) out.peakBusRise = truth.peakBus - truth.restBus;
  out.shortestStop = Math.max(leastStop, shortestTrue(make, reference, near, margin));
  const coast = stopTrue(make, reference, { stopMode: StopMode.coast }, 900);
  if (Number.isFinite(coast.toQuarter)) out.coastTime = coast.toQuarter;
  if (truth.speed > 1) {
    out.settledCurrent = truth.settledCurrent;
    out.slip = 1 - (truth.speed * plate.circuit.poles) / (4 * Math.PI * truth.frequency);
    if (kind === 'pump' || kind === 'fan') out[pressureOf(base)] = truth.pressure;
  }
  const held = runTrue(make({}), questions.plan, questions.heldBack);
  if (held.tripAfter !== null) out.timeToTrip = held.tripAfter;
  if (hasChopper(judged)) {
    const braked = stopTrue(make, reference, resistorOn(plate, questions.resistorStop), 1.2 * questions.resistorStop + 3);
    if (!braked.tripped && braked.energy > leastEnergy) out.resistorEnergy = braked.energy;
  }
  return out;
}

/**
 * One seeded machine: a run on one day is recorded over its drive's own registers and learned from; on another day other runs are asked of
 * it, whose stop lies anywhere from far too fast to far too slow, and each answer of each estimate is held against the machine itself.
 */
export function judgeOne(shipped: DemoMachine, seed: number): Judged {
  const c = caseOf(shipped, seed);
  const { base, questions, plate } = c;
  const { refused, ...specs } = estimates(c.gentle, c.judged, c.values, seed, c.learnedAt);
  const answer = (stand: Exclude<Stand, 'naive'>): Answer | null => (specs[stand] ? foresee(specs[stand], questions) : null);
  const answers = { plate: foresee(plate, questions), tune: answer('tune'), learning: answer('learning'), both: answer('both') };
  const handbook = naive(plate, base.plate, questions, ratedPressure(base));
  const onDay = (day: number) => {
    const make = (change: Partial<DriveParameters>) => trueMachine(c.judged, c.values, seed, day, change);
    const run = runTrue(make({}), questions.plan);
    return { run, figures: truthOf(c, make, run, answers.learning?.figures.shortestStop ?? c.shortest) };
  };
  const { run: truth, figures } = onDay(days.judged);
  const other = onDay(days.learned);
  const each = <T>(of: (a: { figures: Figures; trips: boolean }) => T): Record<Stand, T | null> => ({
    naive: of(handbook),
    plate: of(answers.plate),
    tune: answers.tune && of(answers.tune),
    learning: answers.learning && of(answers.learning),
    both: answers.both && of(answers.both),
  });
  return {
    tag: base.tag,
    kind: base.driven.kind,
    seed,
    truth: figures,
    sameOtherDay: { truth: other.figures, trips: other.run.tripped },
    truthTrips: truth.tripped,
    foreseen: each((a) => a.figures),
    trips: each((a) => a.trips),
    shown: {
      truth: {
        'peak bus': truth.peakBus,
        'stop time': truth.stopTime,
        'peak current': truth.peakOfAll,
        'settled speed': (truth.speed * 30) / Math.PI,
        'settled pressure': truth.pressure,
      },
      plate: shownOf(answers.plate),
      learning: answers.learning && shownOf(answers.learning),
    },
    refused,
  };
}

/** Whether somebody can read the pressure: only then can it be learned. */
const pressureOf = ({ driven }: DemoMachine) => ('sensor' in driven && driven.sensor?.measures === 'pressure' ? 'settledPressure' : 'unseenPressure');

const hasChopper = (demo: DemoMachine): boolean => demoDraft(demo).find('chopper') !== undefined;

/** Pa at its gauge as the plate of pump or fan has it. */
function ratedPressure({ driven }: DemoMachine): number {
  if (driven.kind === 'pump') return 998 * 9.81 * (driven.head - driven.staticHead);
  return driven.kind === 'fan' ? 0.88 * driven.pressure : 0;
}

/** The n-th seeded machine of a run, taken round the demo plant in turn. */
export const judgeNth = (seed: number, n: number): Judged => judgeOne(present(demoPlant[n % demoPlant.length]), seed * 1000 + n);
