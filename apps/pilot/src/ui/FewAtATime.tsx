import { Children, useEffect, useState, type ReactNode } from 'react';
import { afterPaint } from './afterPaint';

/** Rows that come into the page together. */
const few = 3;

/** A list that opens comes in a few rows at a time, so that a touch in the meantime never waits for the whole of it. */
export function FewAtATime({ children }: { children: ReactNode }) {
  const rows = Children.toArray(children);
  const [shown, setShown] = useState(few);
  const left = rows.length > shown;
  useEffect(() => {
    if (left) afterPaint(() => setShown(shown + few));
  }, [left, shown]);
  return rows.slice(0, shown);
}
