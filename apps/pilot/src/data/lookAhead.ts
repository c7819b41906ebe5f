import { keepPreviousData, queryOptions, skipToken, useQuery } from '@tanstack/react-query';
import { useDeferredValue, useMemo } from 'react';
import { planFor, usualCycle } from '@yare/commissioning';
import type { DriveRecord, Learned, LearnOptions, LearnResult, LookAhead, MachineSpec, StoppingOptions, WhatIf } from '@yare/core';
import { say } from '@yare/words/pages/data';
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

/** ms for which figures have to stand before they are computed with: a figure may be one of several set in a row. */
const settle = 90;

/** The same figures always give the same answer: it never grows stale, needs no network, and every screen shares it. */
const computed = { staleTime: Infinity, gcTime: 600_000, retry: false, networkMode: 'always', structuralSharing: false } as const;

/** Waits until figures have stood for a time; rejects when nobody wants their answer any more. */
const stood = (ms: number, signal: AbortSignal) =>
  new Promise<void>((resolve, reject) => {
    const timer = setTimeout(resolve, ms);
    signal.addEventListener('abort', () => {
      clearTimeout(timer);
      reject(new DOMException(say.newerFiguresCame, 'AbortError'));
    });
  });

const runOptions = (spec: MachineSpec | null) =>
  queryOptions({
    queryKey: ['look-ahead', 'run', spec],
    queryFn: spec
      ? async ({ signal }) => {
          await stood(settle, signal);
          const started = performance.now();
          const ahead = await lookAheadWorker().run(spec, planFor(spec, spec.drive.maximumFrequency));
          return { ahead, took: (performance.now() - started) / 1000 };
        }
      : skipToken,
    placeholderData: keepPreviousData,
    ...computed,
  });

/**
 * Draft and drive run ahead in the worker whenever the specs change; until the new answer is there the one before stands, marked busy.
 * @param stops what was learned of the machine, where its stops are asked for, too
 */
export function useLookAhead(draft: MachineSpec | null, inDrive: MachineSpec | null, stops?: { learned: Learned | null }): LookAheadState {
  const run = useQuery(runOptions(draft));
  // the draft's run comes first: it is what is looked at
  const there = draft !== null && run.isSuccess && !run.isPlaceholderData;
  const other = useQuery({ ...runOptions(inDrive), enabled: there && inDrive !== null });
  const stopping = useQuery({
    queryKey: ['look-ahead', 'stopping', draft, stops],
    queryFn: draft ? () => lookAheadWorker().stopping(draft, draft.drive.maximumFrequency, usualCycle, stops?.learned ?? undefined) : skipToken,
    enabled: there && stops !== undefined,
    placeholderData: keepPreviousData,
    ...computed,
  });
  const stopsKnown = stops === undefined || (stopping.isSuccess && !stopping.isPlaceholderData);
  const failed = run.isError || stopping.isError;
  const busy = draft !== null && !failed && !(there && stopsKnown);
  const state = useMemo(
    (): LookAheadState => ({
      draft: (draft && run.data?.ahead) ?? null,
      inDrive: (draft && inDrive && other.data?.ahead) ?? null,
      stopping: (draft && stopping.data) ?? null,
      took: (draft && run.data?.took) ?? null,
      busy,
    }),
    // only whether there are figures counts here; what they are is in the answers
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [draft === null, inDrive === null, run.data, other.data, stopping.data, busy],
  );
  // charts to draw anew: a touch goes before them
  return useDeferredValue(state);
}

/** The look-ahead of what is in a drive, to a frequency in Hz: what a recorded run is held against. Null while computing, or without either. */
export function useAheadTo(spec: MachineSpec | null, frequency: number | null): LookAhead | null {
  const to = useMemo(
    () => (spec && frequency !== null && frequency > 0 ? { ...spec, drive: { ...spec.drive, maximumFrequency: frequency } } : null),
    [spec, frequency],
  );
  const { data, isPlaceholderData } = useQuery(runOptions(to));
  return to && data && !isPlaceholderData ? data.ahead : null;
}

/** What the questions beside the plain run were answered; `busy` while that is of figures that are no longer so. */
export interface WhatIfState {
  answers: Array<{ question: WhatIf; ahead: LookAhead }> | null;
  busy: boolean;
}

/** The questions beside the plain run, answered one set at a time for the figures that have settled; null before the first answers. */
export function useWhatIf(spec: MachineSpec | null, power: number): WhatIfState {
  const { data, isPlaceholderData } = useQuery({
    queryKey: ['look-ahead', 'what if', spec, power],
    queryFn: spec
      ? async ({ signal }) => {
          // after the plain look-ahead, which matters more
          await stood(4 * settle, signal);
          return lookAheadWorker().whatIf(spec, spec.drive.maximumFrequency, power);
        }
      : skipToken,
    placeholderData: keepPreviousData,
    ...computed,
  });
  const answers = (spec && data) ?? null;
  const busy = answers === null || isPlaceholderData;
  const state = useMemo((): WhatIfState => ({ answers, busy }), [answers, busy]);
  // many drawings at once: a touch goes before them
  return useDeferredValue(state);
}

/** Learns from records off the main thread. */
export const learnInWorker = (spec: MachineSpec, records: readonly DriveRecord[], options: LearnOptions): Promise<LearnResult> =>
  lookAheadWorker().learn(spec, records, options);
