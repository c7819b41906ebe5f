import { keepPreviousData, skipToken, useQuery } from '@tanstack/react-query';
import { wrap, type Remote } from 'comlink';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { RecordingChoice } from '@yare/commissioning/recordingCsv';
import type { MachineSpec } from '@yare/core';
import type { LoopAhead, LoopPlan, LoopQuestion, SteadyPoint } from '@yare/core/loop';
import { say } from '@yare/words/pages/data';
import type { LoopWork } from '../workers/loop.worker';
import type { Read, TuningAsked } from '../workers/readStep';

export type { Read };

/** A recording somebody took in for a machine, and which of its columns is what (null as guessed). */
export interface TakenRecording {
  name: string;
  /** when it was taken in, ms: two files may have one name */
  taken: number;
  text: string;
  choice: RecordingChoice | null;
  /** s, of the drive's own filter while it was recorded over the link */
  filter?: number;
}

interface StepTests {
  taken: Record<string, TakenRecording | undefined>;
  points: Record<string, SteadyPoint[] | undefined>;
}

/** Characters above which a recording is not kept through a reload: a browser's store is small. */
const mostKept = 1_500_000;

/** Step tests taken in on this device, kept through a reload. */
const useStepTests = create<StepTests>()(
  persist((): StepTests => ({ taken: {}, points: {} }), {
    name: say.yareSteptests,
    partialize: ({ taken, points }): StepTests => ({
      points,
      taken: Object.fromEntries(Object.entries(taken).filter(([, t]) => t && t.text.length < mostKept)),
    }),
  }),
);

export const useTaken = (tag: string): TakenRecording | null => useStepTests((s) => s.taken[tag] ?? null);
export function takeRecording(tag: string, taken: TakenRecording | null): void {
  useStepTests.setState((s) => ({ taken: { ...s.taken, [tag]: taken ?? undefined } }));
}

const none: SteadyPoint[] = [];
/** Steady points noted for a machine on this device. */
export const usePoints = (tag: string): SteadyPoint[] => useStepTests((s) => s.points[tag] ?? none);
export function notePoints(tag: string, points: SteadyPoint[]): void {
  useStepTests.setState((s) => ({ points: { ...s.points, [tag]: points } }));
}

let remote: Remote<LoopWork> | undefined;
/** The one worker that fits processes and proposes controllers. */
function loopWorker(): Remote<LoopWork> {
  remote ??= wrap<LoopWork>(new Worker(new URL('../workers/loop.worker', import.meta.url)));
  return remote;
}

/** What a recording told; null before the first answer. @param key what stands for its text */
export function useRead(key: string, asked: TuningAsked | null): { read: Read | null; busy: boolean; failed: boolean } {
  const { data, isPlaceholderData, isError } = useQuery({
    queryKey: ['loop', key, asked && { ...asked, text: null }],
    queryFn: asked ? () => loopWorker().read(asked) : skipToken,
    placeholderData: keepPreviousData,
    ...{ staleTime: Infinity, gcTime: 600_000, retry: false, networkMode: 'always' as const, structuralSharing: false },
  });
  return { read: (asked && data) ?? null, busy: asked !== null && !isError && (data === undefined || isPlaceholderData), failed: isError };
}

export type LoopAnswers = Array<{ question: LoopQuestion; ahead: LoopAhead }>;

/** A loop on the model of its machine; null before the first answer, or where there is none to ask. */
export function useLoopAhead(spec: MachineSpec | null, plan: Omit<LoopPlan, 'question'> | null): { answers: LoopAnswers | null; busy: boolean } {
  const { data, isPlaceholderData, isError } = useQuery({
    queryKey: ['loop', 'ahead', spec, plan],
    queryFn: spec && plan ? () => loopWorker().ahead(spec, plan) : skipToken,
    placeholderData: keepPreviousData,
    ...{ staleTime: Infinity, gcTime: 600_000, retry: false, networkMode: 'always' as const, structuralSharing: false },
  });
  return { answers: (spec && plan && data) ?? null, busy: spec !== null && plan !== null && !isError && (data === undefined || isPlaceholderData) };
}
