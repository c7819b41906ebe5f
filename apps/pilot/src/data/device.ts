import { create } from 'zustand';
import { persist } from 'zustand/middleware';
import { say } from '@yare/words/pages/data';

interface Device {
  /** who works on this device; empty until chosen */
  author: string;
  theme: 'device' | 'day' | 'night';
  setAuthor(author: string): void;
  setTheme(theme: Device['theme']): void;
}

/** What this device remembers of the person at it. Sign-in will take the place of `author`. */
export const useDevice = create<Device>()(
  persist(
    (set) => ({
      author: '',
      theme: 'device',
      setAuthor: (author) => set({ author: author.trim().replace(/\s+/g, ' ').slice(0, 60) }),
      setTheme: (theme) => set({ theme }),
    }),
    { name: say.yareDevice },
  ),
);

export const authorNow = (): string => useDevice.getState().author || say.unnamed;
