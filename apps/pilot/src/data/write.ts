import { useMutation, useQuery } from '@tanstack/react-query';
import type { WriteJob, WriteReport } from '@yare/contract';
import { api } from './api';
import { keys, refresh, send } from './client';
import { putInDrive } from './sheets';

const afterWrite = (tag: string) => ({
  onSuccess: (report: WriteReport) => {
    if (report.inDrive) putInDrive(tag, report.inDrive);
  },
  ...refresh(keys.sheets(tag), keys.write(tag), keys.machines),
});

/** The newest write of a machine, looked at often while one goes on. */
export const useLastWrite = (tag: string, going: boolean) =>
  useQuery({
    queryKey: keys.write(tag),
    queryFn: () => api<WriteJob | null>(`/machines/${tag}/write`),
    refetchInterval: (q) => (going || q.state.data?.state === 'writing' ? 250 : 10_000),
  });

/** Goes on with a write that broke off. */
export const useResumeWrite = (tag: string) =>
  useMutation({ mutationFn: () => send<WriteReport>('POST', `/machines/${tag}/write/resume`), ...afterWrite(tag) });

export const stopWrite = (tag: string) => send<{ stopping: boolean }>('POST', `/machines/${tag}/write/stop`);

/** Writes the named draft settings to the drive; the report says what came of each. */
export const useWrite = (tag: string) =>
  useMutation({
    mutationFn: (request: { revision: number; codes: string[] }) => send<WriteReport>('POST', `/machines/${tag}/write`, request),
    ...afterWrite(tag),
  });
