import { startTransition, useEffect, useState } from 'react';
import type { Day, DayPlan, DriveRecord, LearnOptions, LearnResult, LookAhead, MachineSpec, RunPlan, StoppingOptions, WhatIf } from '@yare/core';
import { lookAheadWorker } from './lookAheadWorker';

export interface LookAheadState {
  draft: LookAhead | null;
  inDrive: LookAhead | null;
  /** null while it is being looked for */
  stopping: StoppingOptions | null;
  /** s of worker time for the draft's run */
  took: number | null;
  /** true while figures newer than what is drawn are being computed */
  busy: boolean;
}

const settle = 90;
/** s between stops when nobody has said how often the machine stops: a stop every ten minutes. */
export const usualCycle = 600;

/** The longest a look-ahead runs: both ramps, the run between, and room for the current limit. */
export const planFor = (spec: MachineSpec, reference: number): RunPlan => {
  const { accelerationTime, decelerationTime } = spec.drive;
  return {
    reference,
    runTime: Math.min(5, 1 + 0.3 * (accelerationTime + decelerationTime)),
    longest: 20 + 3 * accelerationTime + 2 * decelerationTime,
  };
};

/** Draft and drive run ahead in the worker whenever the specs change; late answers of old figures are dropped. */
export function useLookAhead(draft: MachineSpec | null, inDrive: MachineSpec | null): LookAheadState {
  const [state, setState] = useState<LookAheadState>({ draft: null, inDrive: null, stopping: null, took: null, busy: true });
  const key = JSON.stringify([draft, inDrive]);
  useEffect(() => {
    let current = true;
    if (!draft) {
      setState({ draft: null, inDrive: null, stopping: null, took: null, busy: false });
      return;
    }
    setState((s) => ({ ...s, busy: true }));
    // charts to draw anew: a touch goes before them
    const show = (found: Partial<LookAheadState>) => startTransition(() => setState((s) => ({ ...s, ...found })));
    const timer = setTimeout(async () => {
      const started = performance.now();
      const ahead = await lookAheadWorker().run(draft, planFor(draft, draft.drive.maximumFrequency));
      if (!current) return;
      const took = (performance.now() - started) / 1000;
      show({ draft: ahead, took });
      const other = inDrive ? await lookAheadWorker().run(inDrive, planFor(inDrive, inDrive.drive.maximumFrequency)) : null;
      if (!current) return;
      show({ inDrive: other });
      const stopping = await lookAheadWorker().stopping(draft, draft.drive.maximumFrequency, usualCycle);
      if (current) show({ stopping, busy: false });
    }, settle);
    return () => {
      current = false;
      clearTimeout(timer);
    };
    // the key holds the whole of both specs
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return state;
}

/** The questions beside the plain run, answered one set at a time for the figures that have settled; null while computing. */
export function useWhatIf(spec: MachineSpec | null, power: number): Array<{ question: WhatIf; ahead: LookAhead }> | null {
  const [answers, setAnswers] = useState<Array<{ question: WhatIf; ahead: LookAhead }> | null>(null);
  const key = JSON.stringify([spec, power]);
  useEffect(() => {
    let current = true;
    if (!spec) return setAnswers(null);
    // after the plain look-ahead, which matters more
    const timer = setTimeout(async () => {
      const all = await lookAheadWorker().whatIf(spec, spec.drive.maximumFrequency, power);
      // many drawings at once: a touch goes before them
      if (current) startTransition(() => setAnswers(all));
    }, 4 * settle);
    return () => {
      current = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return answers;
}

/** A day of sleep and wake; null while computing, or where there is none to compute. */
export function useDay(spec: MachineSpec | null, plan: DayPlan | null): Day | null {
  const [day, setDay] = useState<Day | null>(null);
  const key = JSON.stringify([spec, plan]);
  useEffect(() => {
    let current = true;
    if (!spec || !plan) return setDay(null);
    const timer = setTimeout(async () => {
      const answer = await lookAheadWorker().day(spec, plan);
      if (current) startTransition(() => setDay(answer));
    }, 6 * settle);
    return () => {
      current = false;
      clearTimeout(timer);
    };
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [key]);
  return day;
}

/** Learns from a record off the main thread. */
export const learnInWorker = (spec: MachineSpec, record: DriveRecord, options: LearnOptions): Promise<LearnResult> =>
  lookAheadWorker().learn(spec, record, options);
