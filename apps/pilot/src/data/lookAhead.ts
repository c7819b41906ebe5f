import { wrap, type Remote } from 'comlink';
import { useEffect, useState } from 'react';
import type { LookAhead, MachineSpec, RunPlan } from '@yare/core';
import type { LookAheadWork } from '../workers/lookAhead.worker';

let remote: Remote<LookAheadWork> | undefined;

function worker(): Remote<LookAheadWork> {
  remote ??= wrap<LookAheadWork>(new Worker(new URL('../workers/lookAhead.worker', import.meta.url)));
  return remote;
}

export interface LookAheadState {
  draft: LookAhead | null;
  inDrive: LookAhead | null;
  /** s; null while it is being looked for */
  shortest: number | null;
  /** s of worker time for the draft's run */
  took: number | null;
  /** true while figures newer than what is drawn are being computed */
  busy: boolean;
}

const settle = 90;

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
  const [state, setState] = useState<LookAheadState>({ draft: null, inDrive: null, shortest: null, took: null, busy: true });
  const key = JSON.stringify([draft, inDrive]);
  useEffect(() => {
    let current = true;
    if (!draft) {
      setState({ draft: null, inDrive: null, shortest: null, took: null, busy: false });
      return;
    }
    setState((s) => ({ ...s, busy: true }));
    const timer = setTimeout(async () => {
      const started = performance.now();
      const ahead = await worker().run(draft, planFor(draft, draft.drive.maximumFrequency));
      if (!current) return;
      const took = (performance.now() - started) / 1000;
      setState((s) => ({ ...s, draft: ahead, took }));
      const other = inDrive ? await worker().run(inDrive, planFor(inDrive, inDrive.drive.maximumFrequency)) : null;
      if (!current) return;
      setState((s) => ({ ...s, inDrive: other }));
      const shortest = await worker().shortestStop(draft, draft.drive.maximumFrequency);
      if (current) setState((s) => ({ ...s, shortest, busy: false }));
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
