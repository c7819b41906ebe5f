import { useMutation, useQuery } from '@tanstack/react-query';
import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import type { Arming, RecorderStatus, RecordingMeta, TripDetail, TripNew } from '@yare/contract';
import type { ColumnChoice, TimeUnit } from '@yare/commissioning/recording';
import { say } from '@yare/words/pages/data';
import { api } from './api';
import { keys, queryClient, send } from './client';
import { recordingWorker } from './recordingWorker';

const statusKey = (tag: string) => ['recorder', tag] as const;

/** The recorder of a machine, asked again while something may change. */
export const useRecorder = (tag: string) =>
  useQuery({
    queryKey: statusKey(tag),
    queryFn: async () => {
      const before = queryClient.getQueryData<RecorderStatus>(statusKey(tag));
      const now = await api<RecorderStatus>(`/machines/${tag}/recorder`);
      if (before && (before.lastId !== now.lastId || before.armed?.triggeredAt !== now.armed?.triggeredAt))
        void queryClient.invalidateQueries({ queryKey: keys.recordings(tag) });
      return now;
    },
    refetchInterval: (q) => (q.state.data?.armed ? 1000 : 10_000),
  });

const taken = (tag: string) => ({
  onSuccess: (status: RecorderStatus) => {
    queryClient.setQueryData(statusKey(tag), status);
    void queryClient.invalidateQueries({ queryKey: keys.recordings(tag) });
  },
});

export const useArm = (tag: string) =>
  useMutation({ mutationFn: (arming: Arming) => send<RecorderStatus>('POST', `/machines/${tag}/recorder`, { arming }), ...taken(tag) });

export const useEndRecorder = (tag: string) =>
  useMutation({ mutationFn: () => send<RecorderStatus>('POST', `/machines/${tag}/recorder/end`), ...taken(tag) });

/** How a recorder is to be armed, kept on this device until it is. */
export const useArmings = create<Record<string, Arming | undefined>>()(
  persist((): Record<string, Arming | undefined> => ({}), { name: say.yareArmings }),
);

/** Begins a case of a trip that is seen in a recording. */
export const useTripSeen = (tag: string) =>
  useMutation({
    mutationFn: (told: Omit<TripNew, 'author'>) => send<TripDetail>('POST', `/machines/${tag}/trips`, told),
    onSuccess: () => void queryClient.invalidateQueries({ queryKey: ['trips'] }),
  });

/** Looks into files of another instrument, and again once it is said what a comma is; they stay in the worker until they are taken in. */
export const useLookInto = () =>
  useMutation({
    mutationFn: async ({ files, comma }: { files: readonly File[]; comma?: boolean }) => {
      const read = await Promise.all(files.map(async (f) => ({ name: f.name, bytes: new Uint8Array(await f.arrayBuffer()) })));
      return recordingWorker().lookInto(read, comma);
    },
  });

export interface TakingIn {
  title: string;
  /** of a table: what its columns are */
  choices: ColumnChoice[] | null;
  timeUnit: TimeUnit;
}

/** A file could not be made a recording; the message says why. */
export class NoRecording extends Error {}

/** Stores the file that was looked into last as a recording of a machine. */
export const useTakeIn = (tag: string) =>
  useMutation({
    mutationFn: async (of: TakingIn) => {
      const made = await recordingWorker().packed(of);
      if (!made.ok) throw new NoRecording(made.sentence);
      return send<RecordingMeta>('POST', `/machines/${tag}/recordings`, made.recording);
    },
    onSuccess: () => void queryClient.invalidateQueries({ queryKey: keys.recordings(tag) }),
  });
