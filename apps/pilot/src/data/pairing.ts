import { useMutation, useQuery } from '@tanstack/react-query';
import type { DeviceView, Here, PairRequest } from '@yare/contract';
import { create } from 'zustand';
import { api, onNotPaired } from './api';
import { authorNow } from './device';
import { queryClient } from './client';

interface Pairing {
  /** whether the server answers this device; null before it was asked */
  allowed: boolean | null;
  /** at the server's own computer, where nothing needs pairing */
  local: boolean;
  device: string | null;
  /** it was answered before, and is no longer */
  putOut: boolean;
}

/** Whom the server takes this device for. */
export const usePairing = create<Pairing>()(() => ({ allowed: null, local: false, device: null, putOut: false }));

const told = (here: Here): void =>
  usePairing.setState((before) => ({ ...here, putOut: !here.allowed && (before.putOut || before.allowed === true) }));

onNotPaired(() => told({ allowed: false, local: false, device: null }));

let asking = false;

/** Asks the server whether this device may use it; a server that is away leaves things as they were. */
export function askWhoWeAre(): void {
  if (asking) return;
  asking = true;
  api<Here>('/devices/here')
    .then(told)
    .catch(() => undefined)
    .finally(() => {
      asking = false;
    });
}

/** Pairs this device by the code on the server's screen. */
export const usePair = () =>
  useMutation({
    mutationFn: (request: PairRequest) => api<Here>('/devices/pair', { method: 'POST', body: request }),
    onSuccess: (here) => {
      told(here);
      void queryClient.invalidateQueries();
    },
  });

const devicesKey = ['devices'] as const;
export const useDevices = () => useQuery({ queryKey: devicesKey, queryFn: () => api<DeviceView[]>('/devices'), refetchInterval: 5000 });
export const usePutOut = () =>
  useMutation({
    mutationFn: (id: number) => api(`/devices/${id}/put-out`, { method: 'POST', body: { author: authorNow() } }),
    onSettled: () => queryClient.invalidateQueries({ queryKey: devicesKey }),
  });
