/** What newly came under a finger or a key takes no touch for this long, ms: it was not read yet. */
export const deafFor = 700;
/** A finger that taps twice comes down again within this, px. */
const sameFinger = 48;

const touchable = '[role=button],[role=checkbox],[role=radio],[role=switch],[role=link],a,button';
const checkable = '[role=checkbox],[role=radio],[role=switch]';

/** What lies under a finger: the thing and what it says, figures left out: those may change by themselves. */
interface Under {
  thing: Element | null;
  says: string;
}

function underOf(at: Element | null): Under {
  const thing = at?.closest(touchable) ?? null;
  const says = thing ? [thing.getAttribute('aria-label'), thing.getAttribute('aria-checked'), thing.textContent].join(' ') : '';
  return { thing, says: says.replace(/[\d.,−-]+/g, '0') };
}

/**
 * Makes a page deaf to a second touch where the first one brought something new under the finger: a double tap, a hand that
 * trembles, a key that is pressed twice. The same thing saying the same takes every touch, so a pad loses no digit; what stops
 * something (`data-at-once`) is never deaf. Space ticks what can be ticked.
 * @returns what ends it
 */
export function beDeafToSecondTouches(page: Document, now: () => number = () => performance.now()): () => void {
  let last: { x: number; y: number; byKey: boolean } | null = null;
  let under: Under & { since: number } = { thing: null, says: '', since: -Infinity };

  const look = (found: Under): void => {
    if (found.thing !== under.thing || found.says !== under.says) under = { ...found, since: now() };
  };
  const watch = new MutationObserver(() => {
    if (last) look(underOf(last.byKey ? page.activeElement : page.elementFromPoint(last.x, last.y)));
  });
  const forget = (): void => {
    last = null;
    watch.disconnect();
  };

  const onClick = (event: MouseEvent): void => {
    const found = underOf(event.target instanceof Element ? event.target : null);
    if (found.thing === null) return;
    // a key on what has the focus comes as a click of no finger
    const touch = { x: event.clientX, y: event.clientY, byKey: event.detail === 0 };
    const again = last !== null && last.byKey === touch.byKey && (touch.byKey || Math.hypot(touch.x - last.x, touch.y - last.y) < sameFinger);
    if (again && found.thing.closest('[data-at-once]') === null) {
      look(found);
      if (now() - under.since < deafFor) {
        event.stopImmediatePropagation();
        event.preventDefault();
        return;
      }
    }
    last = touch;
    // what was touched was read; whatever it turns into was not
    under = { ...found, since: -Infinity };
    watch.observe(page.body, {
      subtree: true,
      childList: true,
      characterData: true,
      attributes: true,
      attributeFilter: ['aria-checked', 'aria-label'],
    });
  };
  const onKey = (event: KeyboardEvent): void => {
    // somebody who goes to another thing by keys means that one
    if (event.key === 'Tab' || event.key.startsWith('Arrow')) forget();
    if (event.key !== ' ' || event.repeat || !(event.target instanceof HTMLElement) || !event.target.matches(checkable)) return;
    event.preventDefault();
    event.target.click();
  };
  const heard = new AbortController();
  page.addEventListener('click', onClick, { capture: true, signal: heard.signal });
  page.addEventListener('keydown', onKey, { capture: true, signal: heard.signal });
  // a page that was moved by hand was moved to be touched
  page.addEventListener('pointercancel', forget, { capture: true, signal: heard.signal });
  page.addEventListener('wheel', forget, { capture: true, passive: true, signal: heard.signal });
  return () => {
    heard.abort();
    watch.disconnect();
  };
}
