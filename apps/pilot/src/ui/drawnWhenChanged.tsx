import { memo, useLayoutEffect, useRef, type ComponentType } from 'react';
import sameByValue from 'react-fast-compare';
import { afterPaint } from './afterPaint';

type Handler = (...args: unknown[]) => unknown;

/** Handlers of a finished touch: the touch shows first, then its work is done. */
const touches = new Set(['onPress', 'onChoose', 'onAct', 'onClear', 'onOpen']);

/** Takes one touch at a time: a second one before the first was worked off is the same finger twice. */
function answered(handler: Handler): Handler {
  let taken = false;
  return (...args) => {
    if (taken) return;
    taken = true;
    afterPaint(() => {
      taken = false;
      handler(...args);
    });
  };
}

/** A handler that stays the same and calls the newest of its name. */
function lasting(key: string, newest: () => object): Handler {
  const call: Handler = (...args) => {
    const handler: unknown = Object.entries(newest()).find(([name]) => name === key)?.[1];
    return typeof handler === 'function' ? handler(...args) : undefined;
  };
  return touches.has(key) ? answered(call) : call;
}

/**
 * A part of the sheet that is drawn again only when what it shows has changed, by value. Its handlers may be new functions at every draw of
 * the page: the newest is called, and a new one alone draws nothing. Only for props that are data, elements and event handlers.
 */
export function drawnWhenChanged<P extends object>(Inner: ComponentType<P>): ComponentType<P> {
  const Drawn = memo(Inner, sameByValue);
  return function DrawnWhenChanged(props: P) {
    const latest = useRef<P>(props);
    useLayoutEffect(() => {
      latest.current = props;
    });
    const handlers = useRef(new Map<string, Handler>());
    const kept = Object.entries(props).filter(([, value]) => typeof value === 'function');
    for (const [key] of kept)
      if (!handlers.current.has(key))
        handlers.current.set(
          key,
          lasting(key, () => latest.current),
        );
    return <Drawn {...props} {...Object.fromEntries(kept.map(([key]) => [key, handlers.current.get(key)]))} />;
  };
}
