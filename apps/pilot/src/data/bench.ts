import { useMutation, useQuery } from '@tanstack/react-query';
import type { BenchAct, BenchView } from '@yare/contract';
import { problemCodes } from '@yare/contract/problemCodes';
import { api, ApiProblem } from './api';
import { authorNow } from './device';
import { queryClient } from './client';

const key = (tag: string) => ['bench', tag] as const;
/** The plant side is looked at this often, ms. */
const lookEvery = 250;
/** As often where there is no bench, or the machine is not on it, ms. */
const lookSeldom = 5000;

/** How a machine stands on the bench, or why it does not: there is none, or it has no such machine. */
type Seen = BenchView | 'no bench' | 'not on it';

const look = (tag: string) => ({
  queryKey: key(tag),
  queryFn: async (): Promise<Seen> => {
    try {
      return await api<BenchView>(`/machines/${tag}/bench`);
    } catch (error) {
      if (error instanceof ApiProblem && error.problem.status === 404) return error.problem.type === problemCodes.noBench ? 'no bench' : 'not on it';
      throw error;
    }
  },
  // where nothing stands there is little to see
  refetchInterval: (q: { state: { data?: Seen | undefined } }) => (typeof q.state.data === 'string' ? lookSeldom : lookEvery),
  retry: false,
});

/** Whether a machine stands on the bench, without its figures. */
export const useBench = (tag: string) => useQuery({ ...look(tag), select: (v: Seen) => (typeof v === 'string' ? v : 'there') });

/** One part of the plant side, told again only when it changes. */
export const useBenchPart = <T>(tag: string, pick: (view: BenchView) => T): T | undefined =>
  useQuery({ ...look(tag), select: (v: Seen) => (typeof v === 'string' ? undefined : pick(v)) }).data;

/** A hand at the plant side; the answer is how the machine stands then. */
export const useBenchAct = (tag: string) =>
  useMutation({
    mutationFn: (act: Omit<BenchAct, 'author'>) =>
      api<BenchView>(`/machines/${tag}/bench`, { method: 'POST', body: { ...act, author: authorNow() } }),
    onSuccess: (view) => queryClient.setQueryData<BenchView>(key(tag), view),
  });

/** Puts a machine of the record on the bench, as a drive fresh from its box. */
export const usePutOnBench = (tag: string) =>
  useMutation({
    mutationFn: () => api<BenchView>(`/machines/${tag}/bench`, { method: 'PUT', body: { author: authorNow() } }),
    onSuccess: (view) => queryClient.setQueryData<BenchView>(key(tag), view),
  });
