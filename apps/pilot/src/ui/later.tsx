import { lazy, Suspense, useState, type ComponentType, type ReactNode } from 'react';

/** Parts that are fetched when they are first wanted, and beforehand once nobody waits for anything. */
export const parts = new Set<() => Promise<unknown>>();

/**
 * Components of a part of the application that is fetched when the first of them is wanted. Once it is there they are drawn at once: what suspends, if
 * only for a moment, is shown a third of a second later by the library.
 * @param load fetches the part
 * @returns makes a component of what it picks from the part; `meanwhile` stands until it is there
 */
export function later<Part>(load: () => Promise<Part>) {
  let there: Part | null = null;
  const fetched = (): Promise<Part> => load().then((part) => (there = part));
  parts.add(fetched);
  return function of<Props extends object>(pick: (part: Part) => ComponentType<Props>, meanwhile: (props: Props) => ReactNode): ComponentType<Props> {
    // what could not be fetched is asked for anew the next time: a lazy component would remember that it failed
    const fresh = () =>
      lazy(() =>
        fetched().then(
          (part) => ({ default: pick(part) }),
          (error: unknown) => {
            Later = fresh();
            throw error;
          },
        ),
      ) as unknown as ComponentType<Props>;
    let Later = fresh();
    return function Now(props: Props) {
      const [At] = useState(() => there && pick(there));
      const [Fetched] = useState(() => Later);
      if (At) return <At {...props} />;
      return (
        <Suspense fallback={meanwhile(props)}>
          <Fetched {...props} />
        </Suspense>
      );
    };
  };
}
