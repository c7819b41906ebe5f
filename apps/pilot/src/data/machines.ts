import { useMutation, useQuery } from '@tanstack/react-query';
import type { MachineDetail, MachineSummary, RecordEdit } from '@yare/contract';
import { api } from './api';
import { keys, queryClient, refresh, send } from './client';

export const useMachines = () => useQuery({ queryKey: keys.machines, queryFn: () => api<MachineSummary[]>('/machines'), refetchInterval: 10_000 });
export const useMachine = (tag: string) =>
  useQuery({ queryKey: keys.machine(tag), queryFn: () => api<MachineDetail>(`/machines/${tag}`), refetchInterval: 15_000 });

/** What a machine is called, where it stands and where its drive answers. */
export const useSetRecord = (tag: string) =>
  useMutation({
    mutationFn: (record: Omit<RecordEdit, 'author'>) => send<MachineDetail>('PUT', `/machines/${tag}/record`, record),
    onSuccess: (machine) => queryClient.setQueryData(keys.machine(tag), machine),
    ...refresh(keys.machines),
  });
