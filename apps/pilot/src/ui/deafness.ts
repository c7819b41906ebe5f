/** What newly came under a finger or a key takes no touch for this long, ms: it was not read yet. */
export const deafFor = 700;
/** Told on the page when a touch was not taken. */
export const touchNotTaken = 'touch-not-taken';
/** A finger that taps twice comes down again within this, px. */
const sameFinger = 48;
/** What moved under a finger by itself, by more than {@link hop}, takes no touch for so long, ms: the finger was on its way to another thing. */
const movedFor = 300;
/** px; less leaves a finger on the thing it meant. */
const hop = 20;
/** For so long after a touch it is noted what comes under the finger, ms. */
const watchedFor = 5000;

const touchable = '[role=button],[role=checkbox],[role=radio],[role=switch],[role=link],a,button';
const checkable = '[role=checkbox],[role=radio],[role=switch]';

interface Touch {
  x: number;
  y: number;
  byKey: boolean;
  at: number;
}

const near = (a: Touch, b: Touch): boolean => Math.hypot(a.x - b.x, a.y - b.y) < sameFinger;

/** What a thing says, figures left out: those may change by themselves. */
const sayingOf = (thing: Element): string =>
  [thing.getAttribute('aria-label'), thing.getAttribute('aria-checked'), thing.textContent].join(' ').replace(/[\d.,−-]+/g, '0');

/** Whether a thing is drawn at all: a row out of sight is not, and to ask where its parts lie would lay it out for nothing. */
const drawn = (thing: Element): boolean => !('checkVisibility' in thing) || thing.checkVisibility({ contentVisibilityAuto: true });

/** Everything that can be touched where a finger was, by what it says; for a key what has the focus. */
function thingsUnder(page: Document, { x, y, byKey }: Touch): Map<Element, string> {
  if (byKey) {
    const focused = page.activeElement?.closest(touchable);
    return new Map(focused ? [[focused, sayingOf(focused)]] : []);
  }
  const liesThere = (thing: Element): boolean => {
    const box = thing.getBoundingClientRect();
    return x > box.left - sameFinger && x < box.right + sameFinger && y > box.top - sameFinger && y < box.bottom + sameFinger;
  };
  return new Map([...page.querySelectorAll(touchable)].filter((thing) => drawn(thing) && liesThere(thing)).map((thing) => [thing, sayingOf(thing)]));
}

/** The page takes a touch for nothing, and tells so. */
function dropTouch(page: Document, event: MouseEvent): void {
  page.dispatchEvent(new Event(touchNotTaken));
  event.stopImmediatePropagation();
  event.preventDefault();
}

/** A move of things on the page that nobody caused by a touch, as the Layout Instability API tells it. */
interface LayoutShift extends PerformanceEntry {
  hadRecentInput: boolean;
  sources?: ReadonlyArray<{ previousRect: DOMRectReadOnly; currentRect: DOMRectReadOnly }>;
}

/** Watches what moves by itself; tells when the sheet last did, ms, where the browser can tell it. */
function watchMoves(): { lastMove: () => number; end: () => void } {
  let last = -Infinity;
  if (typeof PerformanceObserver === 'undefined' || !PerformanceObserver.supportedEntryTypes?.includes('layout-shift'))
    return { lastMove: () => last, end: () => undefined };
  const note = (entries: PerformanceEntryList): void => {
    for (const shift of entries as LayoutShift[])
      if (!shift.hadRecentInput && shift.sources?.some((s) => Math.abs(s.currentRect.top - s.previousRect.top) > hop)) last = shift.startTime;
  };
  const moves = new PerformanceObserver((list) => note(list.getEntries()));
  moves.observe({ type: 'layout-shift' });
  return {
    lastMove: () => {
      note(moves.takeRecords());
      return last;
    },
    end: () => moves.disconnect(),
  };
}

/** Space ticks what can be ticked, and Enter opens a link that is no anchor and so has no key of its own. */
function touchByKey(event: KeyboardEvent): void {
  if (event.repeat || !(event.target instanceof HTMLElement)) return;
  const works = event.key === ' ' ? event.target.matches(checkable) : event.key === 'Enter' && event.target.matches('[role=link]:not(a)');
  if (!works) return;
  event.preventDefault();
  event.target.click();
}

/**
 * Makes a page deaf to a second touch where the first one brought something new under the finger: a double tap, a hand that
 * trembles, a key that is pressed twice. What was there before and says the same takes every touch, so a pad loses no digit; what
 * stops something (`data-at-once`) is never deaf. A row of the sheet that jumped by itself is not touched for a moment either. Space ticks what can be ticked, Enter opens a link.
 * @returns what ends it
 */
export function beDeafToSecondTouches(page: Document, now: () => number = () => performance.now()): () => void {
  let last: Touch | null = null;
  /** the first touch that the sheet jumped away from */
  let missed: Touch | null = null;
  let before = new Map<Element, string>();
  let came = new Map<Element, { says: string; since: number }>();

  const look = (): void => {
    if (last === null) return;
    if (now() - last.at > watchedFor) return forget();
    for (const [thing, says] of thingsUnder(page, last))
      if (before.get(thing) !== says && came.get(thing)?.says !== says) came.set(thing, { says, since: now() });
  };
  const moves = watchMoves();
  const watch = new MutationObserver(look);
  const forget = (): void => {
    last = null;
    watch.disconnect();
  };
  /** Whether a thing came, or came to say what it says, too short a time ago. */
  const unread = (thing: Element): boolean => {
    const says = sayingOf(thing);
    if (before.get(thing) === says) return false;
    const known = came.get(thing);
    return known?.says !== says || now() - known.since < deafFor;
  };

  const onClick = (event: MouseEvent): void => {
    const thing = event.target instanceof Element ? event.target.closest(touchable) : null;
    if (thing === null) return;
    // a key on what has the focus comes as a click of no finger
    const touch = { x: event.clientX, y: event.clientY, byKey: event.detail === 0, at: now() };
    const mayStop = thing.closest('[data-at-once]') !== null;
    const jumped = !touch.byKey && !mayStop && thing.closest('[data-sheet]') !== null && touch.at - moves.lastMove() < movedFor;
    // somebody who touches there again means it, though the sheet may never come to rest
    const first = missed !== null && near(missed, touch) && touch.at - missed.at < watchedFor ? missed : touch;
    missed = jumped && (first === touch || touch.at - first.at < movedFor) ? first : null;
    if (missed) return dropTouch(page, event);
    const again = last !== null && last.byKey === touch.byKey && touch.at - last.at < watchedFor && (touch.byKey || near(last, touch));
    if (again && !mayStop) {
      look();
      if (unread(thing)) {
        if (!came.has(thing)) came.set(thing, { says: sayingOf(thing), since: touch.at });
        return dropTouch(page, event);
      }
    }
    last = touch;
    // what lies here now could be read; whatever it turns into could not
    before = thingsUnder(page, touch).set(thing, sayingOf(thing));
    came = new Map();
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
    touchByKey(event);
  };
  const heard = new AbortController();
  page.addEventListener('click', onClick, { capture: true, signal: heard.signal });
  page.addEventListener('keydown', onKey, { capture: true, signal: heard.signal });
  // a page that was moved by hand was moved to be touched; one that moves by itself brings something new
  page.addEventListener('pointercancel', forget, { capture: true, signal: heard.signal });
  page.addEventListener('wheel', forget, { capture: true, passive: true, signal: heard.signal });
  page.addEventListener('scroll', look, { capture: true, passive: true, signal: heard.signal });
  return () => {
    heard.abort();
    moves.end();
    watch.disconnect();
  };
}
