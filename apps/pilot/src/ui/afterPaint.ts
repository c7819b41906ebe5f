import { startTransition } from 'react';

/** Does something once what is on screen has been painted, so that a touch is seen to be taken before its work begins. */
export const afterPaint = (work: () => void): void => {
  requestAnimationFrame(() => setTimeout(() => startTransition(work), 0));
};
