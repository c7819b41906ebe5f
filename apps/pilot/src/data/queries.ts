import { keepPreviousData, QueryClient, useInfiniteQuery, useMutation, useQuery, type QueryClient as Client } from '@tanstack/react-query';
import type {
  AuditPage,
  MachineDetail,
  MachineSummary,
  RecordingData,
  RecordingMeta,
  RecordingPage,
  Sheet,
  Sheets,
  WriteJob,
  WriteReport,
} from '@yare/contract';
import { api } from './api';
import { authorNow } from './device';

export const queryClient: Client = new QueryClient({ defaultOptions: { queries: { retry: 1, staleTime: 2000, refetchOnWindowFocus: true } } });

export const keys = {
  machines: ['machines'] as const,
  machine: (tag: string) => ['machine', tag] as const,
  sheets: (tag: string) => ['sheets', tag] as const,
  survey: (tag: string) => ['survey', tag] as const,
  plan: (tag: string) => ['plan', tag] as const,
  write: (tag: string) => ['write', tag] as const,
  recordings: (tag: string) => ['recordings', tag] as const,
  recording: (id: number) => ['recording', id] as const,
  audit: ['audit'] as const,
};

export const useMachines = () => useQuery({ queryKey: keys.machines, queryFn: () => api<MachineSummary[]>('/machines'), refetchInterval: 10_000 });
export const useMachine = (tag: string) =>
  useQuery({ queryKey: keys.machine(tag), queryFn: () => api<MachineDetail>(`/machines/${tag}`), refetchInterval: 15_000 });
export const useSheets = (tag: string) =>
  useQuery({
    queryKey: keys.sheets(tag),
    queryFn: () => api<Sheets>(`/machines/${tag}/sheets`),
    refetchInterval: 4000,
    placeholderData: keepPreviousData,
  });
export const useAudit = (tag?: string) =>
  useQuery({ queryKey: [...keys.audit, tag ?? ''], queryFn: () => api<AuditPage>(`/audit${tag ? `?tag=${tag}` : ''}`), refetchInterval: 10_000 });
export const useRecording = (id: number) =>
  useQuery({
    queryKey: keys.recording(id),
    queryFn: () => api<RecordingData>(`/recordings/${id}`),
    staleTime: 60_000,
    // one that was asked for while it was still being made is asked for again until it is whole
    refetchInterval: (q) => (q.state.data?.meta.complete === false ? 1000 : false),
  });
export const useRecordings = (tag: string) =>
  useInfiniteQuery({
    queryKey: keys.recordings(tag),
    queryFn: ({ pageParam }) => api<RecordingPage>(`/machines/${tag}/recordings${pageParam ? `?before=${pageParam}` : ''}`),
    initialPageParam: null as number | null,
    getNextPageParam: (page) => page.next,
    refetchInterval: 10_000,
  });

const putInDrive = (tag: string, inDrive: Sheet) => queryClient.setQueryData<Sheets>(keys.sheets(tag), (old) => old && { ...old, inDrive });

const afterWrite = (tag: string) => ({
  onSuccess: (report: WriteReport) => {
    if (report.inDrive) putInDrive(tag, report.inDrive);
  },
  onSettled: () => {
    for (const queryKey of [keys.sheets(tag), keys.write(tag), keys.machines]) void queryClient.invalidateQueries({ queryKey });
  },
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
  useMutation({
    mutationFn: () => api<WriteReport>(`/machines/${tag}/write/resume`, { method: 'POST', body: { author: authorNow() } }),
    ...afterWrite(tag),
  });

export const stopWrite = (tag: string) =>
  api<{ stopping: boolean }>(`/machines/${tag}/write/stop`, { method: 'POST', body: { author: authorNow() } });

/** Writes the named draft settings to the drive; the report says what came of each. */
export const useWrite = (tag: string) =>
  useMutation({
    mutationFn: (request: { revision: number; codes: string[] }) =>
      api<WriteReport>(`/machines/${tag}/write`, { method: 'POST', body: { ...request, author: authorNow() } }),
    ...afterWrite(tag),
  });

export const useReadDrive = (tag: string) =>
  useMutation({
    mutationFn: () => api<Sheet>(`/machines/${tag}/read`, { method: 'POST', body: { author: authorNow() } }),
    onSuccess: (sheet) => putInDrive(tag, sheet),
  });

export const useAddMark = (id: number) =>
  useMutation({
    mutationFn: (mark: { time: number; label: string }) =>
      api<RecordingMeta>(`/recordings/${id}/marks`, { method: 'POST', body: { author: authorNow(), mark } }),
    onSuccess: (meta) => queryClient.setQueryData<RecordingData>(keys.recording(id), (old) => old && { ...old, meta }),
  });
