import { skipToken, useInfiniteQuery, useMutation, useQuery } from '@tanstack/react-query';
import type { RecordingData, RecordingMeta, RecordingPage } from '@yare/contract';
import { api } from './api';
import { keys, queryClient, send } from './client';

/** @param id null while there is none to ask for */
export const useRecording = (id: number | null) =>
  useQuery({
    queryKey: keys.recording(id ?? 0),
    queryFn: id === null ? skipToken : () => api<RecordingData>(`/recordings/${id}`),
    staleTime: 60_000,
    // one that was asked for while it was still being made is asked for again until it is whole
    refetchInterval: (q) => (q.state.data?.meta.complete === false ? 1000 : false),
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
