import { create } from 'zustand';

/** The page that is on its way, null while one stands; the page that stands, and the one before it. */
export const useGoing = create<{ to: string | null; here: string; before: string }>(() => ({ to: null, here: '', before: '' }));

/** A page has come. */
export const arrived = (path: string): void => useGoing.setState((s) => ({ to: null, ...(s.here !== path && { here: path, before: s.here }) }));

/** Whether the page that stands is being left for another that is not drawn yet. */
export function leaving(): boolean {
  const { to } = useGoing.getState();
  return to !== null && to !== window.location.pathname;
}
