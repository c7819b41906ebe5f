import { useMutation } from '@tanstack/react-query';
import type { DriveEdit, Sheet } from '@yare/contract';
import { keys, queryClient, refresh, send } from './client';
import { putInDrive } from './sheets';

/** Names the drive that stands at a machine, and the region its factory values are for. */
export const useSetDrive = (tag: string) =>
  useMutation({
    mutationFn: (drive: Omit<DriveEdit, 'author'>) => send<Sheet>('PUT', `/machines/${tag}/drive`, drive),
    // sheets of the drive before have other codes: nothing of them may stay on screen
    onSuccess: () => queryClient.removeQueries({ queryKey: keys.sheets(tag) }),
    ...refresh(keys.machine(tag), keys.machines, keys.plan(tag), keys.sheets(tag)),
  });

export const useReadDrive = (tag: string) =>
  useMutation({ mutationFn: () => send<Sheet>('POST', `/machines/${tag}/read`), onSuccess: (sheet) => putInDrive(tag, sheet) });

/** Stores what the drive holds in working memory through power-off. */
export const useKeep = (tag: string) => useMutation({ mutationFn: () => send<{ kept: boolean }>('POST', `/machines/${tag}/keep`) });
