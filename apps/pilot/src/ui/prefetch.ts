import { ctx } from 'expo-router/_ctx';
import { fetchChart } from './chart/Chart';

/** ms after the first page stands before the rest is fetched: what is on screen comes first. */
const settle = 1500;

/** Fetches every other page while nobody waits for it, so that one opens at once, and still does when the server is gone. */
export function prefetchPages(): () => void {
  const timer = setTimeout(() => {
    // what does not come now is fetched when it is wanted
    for (const fetched of [...ctx.keys().map((page: string) => Promise.resolve(ctx(page))), fetchChart()]) fetched.catch(() => undefined);
  }, settle);
  return () => clearTimeout(timer);
}
