import { skipToken, useMutation, useQuery } from '@tanstack/react-query';
import { useMemo } from 'react';
import type { MachineModel } from '@yare/commissioning';
import { caseOf } from '@yare/commissioning/trips';
import type { BenchReading, LiveSample, TripDetail, TripList, TripNew, TripNow } from '@yare/contract';
import type { MachineSpec, Stop } from '@yare/core';
import type { Diagnosis } from '@yare/core/trips';
import { api } from './api';
import { computed, keys, queryClient, refresh, send } from './client';
import { useRecording } from './recordings';
import { tripsWorker } from './tripsWorker';

/** The trip in force: what the link and the log tell of it. Asked again until its case is on record. */
export const useTrip = (tag: string, code: number) =>
  useQuery({
    queryKey: keys.trip(tag, code),
    queryFn: () => api<TripNow>(`/machines/${tag}/trip`),
    enabled: code !== 0,
    refetchInterval: (q) => (q.state.data && q.state.data.caseId === null ? 700 : false),
  });

export const useResetTrip = (tag: string) =>
  useMutation({
    mutationFn: () => send<LiveSample>('POST', `/machines/${tag}/trip/reset`, {}),
    onSettled: () => void queryClient.invalidateQueries({ queryKey: keys.audit }),
  });

/** Cases of a machine, or of the whole plant, newest first. */
export const useTrips = (tag: string | null) =>
  useQuery({ queryKey: keys.trips(tag), queryFn: () => api<TripList>(tag === null ? '/trips' : `/trips?tag=${tag}`), refetchInterval: 10_000 });

/** A case. One whose drive is still being read is asked for again. */
export const useTripCase = (id: number | null) =>
  useQuery({
    queryKey: keys.tripCase(id ?? 0),
    queryFn: id === null ? skipToken : () => api<TripDetail>(`/trips/${id}`),
    refetchInterval: (q) =>
      q.state.data && q.state.data.entry.source === 'link' && q.state.data.afterwards === null && q.state.data.entry.seen ? 1000 : 15_000,
  });

/** What a change of a case gives back is the case as it stands then. */
const taken = {
  onSuccess: (d: TripDetail) => {
    queryClient.setQueryData(keys.tripCase(d.entry.id), d);
    void queryClient.invalidateQueries({ queryKey: ['trips'] });
  },
};

export const useTellTrip = (tag: string) =>
  useMutation({ mutationFn: (told: Omit<TripNew, 'author'>) => send<TripDetail>('POST', `/machines/${tag}/trips`, told), ...taken });

export const useAnswerTrip = (id: number) =>
  useMutation({ mutationFn: (answers: Record<string, string | null>) => send<TripDetail>('POST', `/trips/${id}/answers`, { answers }), ...taken });

export const useCloseTrip = (id: number) =>
  useMutation({
    mutationFn: (closing: { cause: string; cure: string; proof: string }) => send<TripDetail>('POST', `/trips/${id}/close`, closing),
    ...taken,
  });

export const useReopenTrip = (id: number) => useMutation({ mutationFn: () => send<TripDetail>('POST', `/trips/${id}/reopen`), ...taken });

export const useKeepNote = (tag: string, id: number) =>
  useMutation({ mutationFn: (note: string) => send('PUT', `/machines/${tag}/note`, { note }), ...refresh(keys.tripCase(id)) });

/** What a person with instruments reads at the machine of the bench. */
export const useReadBench = (tag: string) =>
  useMutation({ mutationFn: (id: string) => api<BenchReading>(`/machines/${tag}/bench/readings/${id}`), retry: false });

/** Causes of a case with its recordings; null before the first answer. */
export function useDiagnosis(model: MachineModel, detail: TripDetail | undefined) {
  const { data: trace } = useRecording(detail?.traceId ?? null);
  const { data: trend } = useRecording(detail?.trendId ?? null);
  const loaded = detail && (detail.traceId === null || trace) && (detail.trendId === null || trend);
  const one = useMemo(() => (loaded ? caseOf(model, detail, trace ?? null, trend ?? null) : null), [loaded, model, detail, trace, trend]);
  const { data, isError } = useQuery({
    queryKey: ['trips', 'causes', one],
    queryFn: one ? (): Promise<Diagnosis> => tripsWorker().diagnose(one) : skipToken,
    ...computed,
  });
  return { diagnosis: data ?? null, failed: isError, one, trace: trace ?? null, trend: trend ?? null };
}

/** Shortest stop by the model from a frequency, s; null before the answer. */
export function useShortestStop(spec: MachineSpec | null, from: number): number | null {
  const { data } = useQuery({
    queryKey: ['trips', 'shortest', spec, from],
    queryFn: spec && from > 3 ? () => tripsWorker().shortest(spec, from) : skipToken,
    ...computed,
  });
  return (spec && from > 3 ? data : null) ?? null;
}

/** A stop by the model; null before the answer. */
export function useStop(spec: MachineSpec | null, from: number): Stop | null {
  const { data, isPlaceholderData } = useQuery({
    queryKey: ['trips', 'stop', spec, from],
    queryFn: spec && from > 3 ? () => tripsWorker().stop(spec, from) : skipToken,
    ...computed,
  });
  return (spec && !isPlaceholderData ? data : null) ?? null;
}
