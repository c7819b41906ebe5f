import { random, type TripCause, nth } from '@yare/core';
import { diagnose, type TripCase } from '@yare/core/trips';
import { reading } from '../../src/plant/readings';
import { scenarios } from './scenarios';
import { Stage } from './stage';

/** Where a cause stands in a ranking, from 1; 0 when it is not in it. */
const rankOf = (c: TripCase, causes: readonly string[]): { rank: number; first: string; probability: number } => {
  const { ranked } = diagnose(c);
  return {
    rank: ranked.findIndex((r) => causes.includes(r.id)) + 1,
    first: ranked[0]?.id ?? 'nothing',
    probability: ranked[0]?.probability ?? 0,
  };
};

/** One trip of the bench, and what the application makes of it. */
export interface JudgedTrip {
  scenario: string;
  tag: string;
  /** null where this scenario led to no trip in as many tries as are made: such a one counts for nothing, and is told */
  trip: TripCause | null;
  cause: string;
  withRecording: ReturnType<typeof rankOf>;
  snapshotOnly: ReturnType<typeof rankOf>;
  afterOneMeasurement: ReturnType<typeof rankOf>;
  /** the measurement that was asked for, and what came of it */
  asked: string | null;
  answer: string | null;
  /** machines that did not trip before this one did */
  spared: number;
}

/** Seeds tried for one scenario before it is given up. */
const mostTries = 10;

/** Leads one machine to a trip and diagnoses it three times. */
export function judgeTrip(seed: number, index: number): JudgedTrip {
  const scenario = nth(scenarios, index % scenarios.length);
  for (let spared = 0; spared < mostTries; spared++) {
    const r = random(seed * 1_000_003 + index * 97 + spared * 7919);
    const tag = nth(scenario.tags, Math.floor(r.uniform() * scenario.tags.length));
    const stage = new Stage(tag, scenario.roles(r, tag), seed * 31 + index * 13 + spared, Math.floor(r.uniform() * 300));
    scenario.run(stage, r);
    const trip = stage.tripped;
    // what tripped before anything was wrong belongs to no cause
    if (trip === null || !stage.inForce) continue;
    stage.settle();
    const whole = stage.tripCase(true);
    const alone = stage.tripCase(false);
    const [next] = diagnose(whole).next;
    const answer = next ? reading(stage.d, next.id) : null;
    const measured = next && answer !== null ? { ...whole, answers: { [next.id]: answer } } : whole;
    return {
      ...{ scenario: scenario.id, tag, trip, cause: nth(scenario.cause, 0), spared },
      withRecording: rankOf(whole, scenario.cause),
      snapshotOnly: rankOf(alone, scenario.cause),
      afterOneMeasurement: rankOf(measured, scenario.cause),
      asked: next?.id ?? null,
      answer,
    };
  }
  const none = { rank: 0, first: 'nothing', probability: 0 };
  return {
    ...{ scenario: scenario.id, tag: nth(scenario.tags, 0), trip: null, cause: nth(scenario.cause, 0), spared: mostTries, asked: null, answer: null },
    ...{ withRecording: none, snapshotOnly: none, afterOneMeasurement: none },
  };
}
