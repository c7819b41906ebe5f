import { isValidElement, memo, useLayoutEffect, useRef, type ComponentType } from 'react';

import { afterPaint } from './afterPaint';

type Handler = (...args: unknown[]) => unknown;

/** Handlers of a finished touch: the touch shows first, then its work is done. */
const touches = new Set(['onPress', 'onChoose', 'onAct', 'onClear', 'onOpen']);

/** Whether two values would be drawn the same: plain data by what is in it, elements by type and props, functions by identity. */
export function drawnAlike(a: unknown, b: unknown): boolean {
  if (Object.is(a, b)) return true;
  if (typeof a !== 'object' || typeof b !== 'object' || a === null || b === null) return false;
  if (isValidElement(a) || isValidElement(b))
    return isValidElement(a) && isValidElement(b) && a.type === b.type && a.key === b.key && drawnAlike(a.props, b.props);
  if (Array.isArray(a) !== Array.isArray(b)) return false;
  const keys = Object.keys(a);
  if (keys.length !== Object.keys(b).length) return false;
  return keys.every((k) => k in b && drawnAlike((a as Record<string, unknown>)[k], (b as Record<string, unknown>)[k]));
}

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

/**
 * A part of the sheet that is drawn again only when what it shows has changed. Its handlers may be new functions at every draw of the
 * page: the newest is called, and a new one alone draws nothing. Only for props that are data, elements and event handlers.
 */
export function steady<P extends object>(Inner: ComponentType<P>): ComponentType<P> {
  const Drawn = memo(Inner, drawnAlike) as unknown as ComponentType<P>;
  return function Steady(props: P) {
    const latest = useRef(props);
    useLayoutEffect(() => {
      latest.current = props;
    });
    const handlers = useRef<Record<string, Handler>>({});
    const passed: Record<string, unknown> = {};
    for (const [key, value] of Object.entries(props)) {
      if (typeof value !== 'function') passed[key] = value;
      else {
        const newest: Handler = (...args) => (latest.current as Record<string, Handler | undefined>)[key]?.(...args);
        passed[key] = handlers.current[key] ??= touches.has(key) ? answered(newest) : newest;
      }
    }
    return <Drawn {...(passed as P)} />;
  };
}
