/**
 * An act that is done while a finger is still down may bring another thing under it. The release belongs to the press it began with: what the browser
 * makes of it, a click and the mouse press before one, reaches nothing. The next finger that comes down is a press of its own.
 */
export function keepRelease(page: Document = document): void {
  const heard = new AbortController();
  const swallow = (event: Event): void => {
    event.stopImmediatePropagation();
    event.preventDefault();
  };
  for (const kind of ['mousedown', 'click'] as const) page.addEventListener(kind, swallow, { capture: true, signal: heard.signal });
  // a fresh press; and a key is one as well
  for (const kind of ['pointerdown', 'keydown'] as const) page.addEventListener(kind, () => heard.abort(), { capture: true, signal: heard.signal });
}
