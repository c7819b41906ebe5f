import { useMutation, useQuery } from '@tanstack/react-query';
import type { LiveSample, TripNow } from '@yare/contract';
import { api } from './api';
import { keys, queryClient, send } from './client';

/** The trip in force: what the link and the log tell of it. */
export const useTrip = (tag: string, code: number) =>
  useQuery({ queryKey: keys.trip(tag, code), queryFn: () => api<TripNow>(`/machines/${tag}/trip`), enabled: code !== 0 });

export const useResetTrip = (tag: string) =>
  useMutation({
    mutationFn: () => send<LiveSample>('POST', `/machines/${tag}/trip/reset`, {}),
    onSettled: () => void queryClient.invalidateQueries({ queryKey: keys.audit }),
  });
