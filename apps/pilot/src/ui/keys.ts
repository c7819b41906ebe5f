import { useLayoutEffect } from 'react';
import { deafFor } from './deafness';

/** Something a key does. */
export interface KeyAct {
  /** as `KeyboardEvent.key` in lower case */
  hotkey?: string;
  onPress: () => void;
  /** what it says; the same key does the same thing as often as it is pressed */
  text?: string;
  disabled?: boolean;
  /** asked when the key is pressed: whether it does this now */
  when?: () => boolean;
}

const typing = (target: EventTarget | null): boolean =>
  target instanceof HTMLElement && (target.isContentEditable || /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName));

/** What stands on the page now, what the page itself does before what its frame opens. */
const lists = new Map<symbol, { acts: readonly KeyAct[]; frame: boolean }>();
let last: { key: string; did: string; at: number } | null = null;

/** What a key does now: of the page, else of its frame. */
function actOf(key: string): KeyAct | undefined {
  for (const frame of [false, true])
    for (const list of lists.values()) {
      const act = list.frame === frame ? list.acts.find((a) => a.hotkey === key && !a.disabled && (a.when?.() ?? true)) : undefined;
      if (act) return act;
    }
  return undefined;
}

function onKey(event: KeyboardEvent): void {
  if (event.defaultPrevented || event.ctrlKey || event.metaKey || event.altKey || event.repeat || typing(event.target)) return;
  const key = event.key.toLowerCase();
  const act = actOf(key);
  if (!act) return;
  event.preventDefault();
  const now = performance.now();
  const did = `${window.location.pathname} ${act.text ?? ''}`;
  // a key pressed twice meant what stood there the first time
  if (last && last.key === key && last.did !== did && now - last.at < deafFor) return;
  last = { key, did, at: now };
  act.onPress();
}

/** Takes the keyboard to the thing of the sheet above or below. */
export function moveFocus(by: 1 | -1): void {
  const things = [
    ...document.querySelectorAll<HTMLElement>('[data-sheet] :is([role=button],[role=checkbox],[role=radio],[role=switch],[role=link],input)'),
  ];
  const open = things.filter((t) => t.getAttribute('aria-disabled') !== 'true');
  const at = open.findIndex((t) => t === document.activeElement);
  open[at < 0 ? (by > 0 ? 0 : open.length - 1) : Math.min(open.length - 1, Math.max(0, at + by))]?.focus();
}

/**
 * Listens for single keys while nothing is being typed, from the first frame that shows what they do. A key that was just pressed does
 * nothing else for {@link deafFor}.
 * @param frame what every page has; what the page itself does goes before it
 */
export function useHotkeys(acts: readonly KeyAct[], frame = false): void {
  useLayoutEffect(() => {
    const list = Symbol('keys');
    if (lists.size === 0) window.addEventListener('keydown', onKey);
    lists.set(list, { acts, frame });
    return () => {
      lists.delete(list);
      if (lists.size === 0) window.removeEventListener('keydown', onKey);
    };
  }, [acts, frame]);
}
