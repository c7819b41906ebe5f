import { create } from 'zustand';

/** The page that is on its way; null while one stands. */
export const useGoing = create<{ to: string | null }>(() => ({ to: null }));

/** Whether the page that stands is being left for another that is not drawn yet. */
export function leaving(): boolean {
  const { to } = useGoing.getState();
  return to !== null && to !== window.location.pathname;
}
