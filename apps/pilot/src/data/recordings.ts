import { skipToken, useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import type { Keeping, RecordingData, RecordingMeta, RecordingPage } from '@yare/contract';
import { recordingFrom } from '@yare/commissioning/recordingSamples';
import { api, apiBytes } from './api';
import { keys, queryClient, refresh, send } from './client';

/** A recording, whole. */
export async function recorded(id: number): Promise<RecordingData> {
  const [meta, packed] = await Promise.all([api<RecordingMeta>(`/recordings/${id}`), apiBytes(`/recordings/${id}/samples`)]);
  return recordingFrom(meta, packed);
}

/** ms after which a recording that is still being made is asked for again: a long one is much to fetch. */
const againAfter = (samples: number): number => Math.max(1000, samples / 2);

/** @param id null while there is none to ask for */
export const useRecording = (id: number | null) =>
  useQuery({
    queryKey: keys.recording(id ?? 0),
    queryFn: id === null ? skipToken : () => recorded(id),
    staleTime: 60_000,
    structuralSharing: false,
    // one that was asked for while it was still being made is asked for again until it is whole
    refetchInterval: (q) => (q.state.data && !q.state.data.meta.complete ? againAfter(q.state.data.meta.samples) : false),
  });

const firstPage: number | null = null;
export const useRecordings = (tag: string) =>
  useInfiniteQuery({
    queryKey: keys.recordings(tag),
    queryFn: ({ pageParam }: { pageParam: number | null }) =>
      api<RecordingPage>(`/machines/${tag}/recordings${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: firstPage,
    getNextPageParam: (page) => page.next,
    refetchInterval: 10_000,
  });

export const useAddMark = (id: number) =>
  useMutation({
    mutationFn: (mark: { time: number; label: string }) => send<RecordingMeta>('POST', `/recordings/${id}/marks`, { mark }),
    onSuccess: (meta) => queryClient.setQueryData<RecordingData>(keys.recording(id), (old) => old && { ...old, meta }),
  });

/** Removes a recording for good. */
export const useRemoveRecording = ({ id, tag }: { id: number; tag: string }) =>
  useMutation({
    mutationFn: (why: string) => send('POST', `/recordings/${id}/remove`, { why }),
    ...refresh(keys.recordings(tag), keys.audit),
  });

const keepingKey = ['keeping'] as const;
/** How long recordings are kept. */
export const useKeeping = () => useQuery({ queryKey: keepingKey, queryFn: () => api<Keeping>('/keeping') });
export const useSetKeeping = () =>
  useMutation({
    mutationFn: (keeping: Keeping) => send<Keeping>('PUT', '/keeping', keeping),
    ...refresh(keepingKey, keys.audit),
  });
