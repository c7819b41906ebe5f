import { expose } from 'comlink';
import type { MachineSpec } from '@yare/core';
import { loopAhead, questionsFor, type LoopAhead, type LoopPlan, type LoopQuestion } from '@yare/core/loop';
import { readStep } from './readStep';

/** A loop on the model of its own machine, one answer for each question it can be asked. */
const ahead = (spec: MachineSpec, plan: Omit<LoopPlan, 'question'>): Array<{ question: LoopQuestion; ahead: LoopAhead }> =>
  questionsFor(spec.load, plan.sensor).map((question) => ({ question, ahead: loopAhead(spec, { ...plan, question }) }));

/** Step test, controller and closed loop off the main thread. */
const work = { read: readStep, ahead };
export type LoopWork = typeof work;

expose(work);
