import { useMutation, useQuery } from '@tanstack/react-query';
import type {
  DriveEdit,
  LockView,
  MachineDetail,
  MotorEdit,
  PhotoMeta,
  RecordEdit,
  SavedMotor,
  Sheet,
  SheetRevisionPage,
  ShortList,
  ShortListEdit,
} from '@yare/contract';
import { api, ApiProblem, Offline } from './api';
import { authorNow } from './device';
import { keys, queryClient } from './queries';

export const send = <T>(method: string, path: string, body: object = {}) => api<T>(path, { method, body: { ...body, author: authorNow() } });
const refresh = (...queryKeys: ReadonlyArray<readonly unknown[]>) => ({
  onSettled: () => {
    for (const queryKey of queryKeys) void queryClient.invalidateQueries({ queryKey });
  },
});

/** Names the drive that stands at a machine, and the region its factory values are for. */
export const useSetDrive = (tag: string) =>
  useMutation({
    mutationFn: (drive: Omit<DriveEdit, 'author'>) => send<Sheet>('PUT', `/machines/${tag}/drive`, drive),
    // sheets of the drive before have other codes: nothing of them may stay on screen
    onSuccess: () => queryClient.removeQueries({ queryKey: keys.sheets(tag) }),
    ...refresh(keys.machine(tag), keys.machines, keys.plan(tag), keys.sheets(tag)),
  });

/** What a machine is called, where it stands and where its drive answers. */
export const useSetRecord = (tag: string) =>
  useMutation({
    mutationFn: (record: Omit<RecordEdit, 'author'>) => send<MachineDetail>('PUT', `/machines/${tag}/record`, record),
    onSuccess: (machine) => queryClient.setQueryData(keys.machine(tag), machine),
    ...refresh(keys.machines),
  });

/** Stores what the drive holds in working memory through power-off. */
export const useKeep = (tag: string) => useMutation({ mutationFn: () => send<{ kept: boolean }>('POST', `/machines/${tag}/keep`) });

const motorsKey = ['motors'] as const;
export const useMotors = (wanted: boolean) => useQuery({ queryKey: motorsKey, queryFn: () => api<SavedMotor[]>('/motors'), enabled: wanted });
export const useSaveMotor = () =>
  useMutation({ mutationFn: (motor: Omit<MotorEdit, 'author'>) => send<SavedMotor>('POST', '/motors', motor), ...refresh(motorsKey) });

const photosKey = (tag: string) => ['photos', tag] as const;
export const usePhotos = (tag: string) => useQuery({ queryKey: photosKey(tag), queryFn: () => api<PhotoMeta[]>(`/machines/${tag}/photos`) });

/** Longest side of a photo that is kept, px: enough to read a plate by. */
const longestSide = 1800;

/** A photo as a JPEG no larger than it need be. */
async function shrunk(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, longestSide / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext('2d')!.drawImage(picture, 0, 0, canvas.width, canvas.height);
  picture.close();
  return new Promise((resolve, reject) =>
    canvas.toBlob((b) => (b ? resolve(b) : reject(new Error('This picture cannot be read.'))), 'image/jpeg', 0.85),
  );
}

/** Keeps a photo of the plate with the machine. */
export const useAddPhoto = (tag: string) =>
  useMutation({
    mutationFn: async (file: File): Promise<PhotoMeta> => {
      const body = await shrunk(file).catch(() => {
        throw new Error(`${file.name} is no picture this device can read.`);
      });
      const address = `/api/v1/machines/${tag}/photos?author=${encodeURIComponent(authorNow())}`;
      const response = await fetch(address, { method: 'POST', headers: { 'content-type': 'image/jpeg' }, body }).catch(() => {
        throw new Offline();
      });
      if (!response.ok) throw new ApiProblem(await response.json());
      return (await response.json()) as PhotoMeta;
    },
    ...refresh(photosKey(tag)),
  });
export const useRemovePhoto = (tag: string) =>
  useMutation({
    mutationFn: (id: number) => api(`/photos/${id}?author=${encodeURIComponent(authorNow())}`, { method: 'DELETE', body: {} }),
    ...refresh(photosKey(tag)),
  });
export const photoAddress = (id: number): string => `/api/v1/photos/${id}`;

const listsKey = (bookId: string) => ['short lists', bookId] as const;
export const useShortLists = (bookId: string) =>
  useQuery({ queryKey: listsKey(bookId), queryFn: () => api<ShortList[]>(`/books/${bookId}/short-lists`), staleTime: 30_000 });
export const useSaveShortList = (bookId: string) =>
  useMutation({
    mutationFn: (list: Omit<ShortListEdit, 'author'>) => send<ShortList>('PUT', `/books/${bookId}/short-lists`, list),
    ...refresh(listsKey(bookId)),
  });
export const useDropShortList = (bookId: string) =>
  useMutation({ mutationFn: (id: number) => send('DELETE', `/short-lists/${id}`), ...refresh(listsKey(bookId)) });

const lockKey = (tag: string) => ['lock', tag] as const;
export const useLock = (tag: string) =>
  useQuery({ queryKey: lockKey(tag), queryFn: () => api<LockView>(`/machines/${tag}/lock`), refetchInterval: 15_000 });
export const useSetLock = (tag: string) =>
  useMutation({
    mutationFn: ({ locked, code }: { locked: boolean; code: string }) => send('POST', `/machines/${tag}/${locked ? 'lock' : 'unlock'}`, { code }),
    ...refresh(lockKey(tag)),
  });

export const useRevisions = (tag: string) =>
  useQuery({ queryKey: ['revisions', tag], queryFn: () => api<SheetRevisionPage>(`/machines/${tag}/revisions`), staleTime: 1000 });
export const useRevision = (tag: string, which: { kind: string; revision: number } | null) =>
  useQuery({
    queryKey: ['revision', tag, which],
    queryFn: () => api<Sheet>(`/machines/${tag}/revisions/${which!.kind}/${which!.revision}`),
    enabled: which !== null,
    staleTime: Infinity,
  });
