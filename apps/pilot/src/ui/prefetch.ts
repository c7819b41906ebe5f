import { ctx } from 'expo-router/_ctx';
import { parts } from './later';
import './chart/Chart';

/** ms after the first page stands before the rest is fetched: what is on screen comes first. */
const settle = 1500;

/** Fetches every other page while nobody waits for it, so that one opens at once, and still does when the server is gone. */
export function prefetchPages(): () => void {
  const timer = setTimeout(() => {
    // what does not come now is fetched when it is wanted
    const pages = Promise.allSettled(ctx.keys().map((page: string) => Promise.resolve(ctx(page))));
    // a page says of what parts it is made
    void pages.then(() => Promise.allSettled([...parts].map((part) => part())));
  }, settle);
  return () => clearTimeout(timer);
}
