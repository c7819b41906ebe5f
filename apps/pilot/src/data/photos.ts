import { useMutation, useQuery } from '@tanstack/react-query';
import type { PhotoMeta } from '@yare/contract';
import { answerOf, api, Offline } from './api';
import { refresh } from './client';
import { authorNow } from './device';

const key = (tag: string) => ['photos', tag] as const;
export const usePhotos = (tag: string) => useQuery({ queryKey: key(tag), queryFn: () => api<PhotoMeta[]>(`/machines/${tag}/photos`) });

/** Longest side of a photo that is kept, px: enough to read a plate by. */
const longestSide = 1800;

/** A photo as a JPEG no larger than it need be. */
async function shrunk(file: File): Promise<Blob> {
  const picture = await createImageBitmap(file);
  const scale = Math.min(1, longestSide / Math.max(picture.width, picture.height));
  const canvas = document.createElement('canvas');
  canvas.width = Math.round(picture.width * scale);
  canvas.height = Math.round(picture.height * scale);
  canvas.getContext('2d')?.drawImage(picture, 0, 0, canvas.width, canvas.height);
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
      return answerOf<PhotoMeta>(response);
    },
    ...refresh(key(tag)),
  });
export const useRemovePhoto = (tag: string) =>
  useMutation({
    mutationFn: (id: number) => api(`/photos/${id}?author=${encodeURIComponent(authorNow())}`, { method: 'DELETE', body: {} }),
    ...refresh(key(tag)),
  });
export const photoAddress = (id: number): string => `/api/v1/photos/${id}`;
