import { useLayoutEffect } from 'react';
import { closeEntry, openEntry, setFrom, typeKey, useEntryStore, type Entry } from './entryStore';
import { leaving } from './going';

/** The figures of the page that stands, in their order. */
let shown: readonly Entry[] = [];
/** The figure that digits begin when the keyboard is on none: the one after the figure just set. */
let after: string | null = null;

/** Sets a figure by the keyboard and goes to the row of the next: digits typed from now on are its. */
function setAndGoDown(entry: Entry): void {
  setFrom(entry);
  if (useEntryStore.getState().id !== null) return;
  after = shown[shown.findIndex((e) => e.id === entry.id) + 1]?.id ?? null;
  const row = after === null ? null : [...document.querySelectorAll<HTMLElement>('[data-entry]')].find((r) => r.dataset.entry === after);
  row?.focus();
}

const figureKey = /^[\d.,−-]$/;
const keyOf = (key: string): string => (key === ',' ? '.' : key === '−' ? '-' : key);

/**
 * One rule for keys: a digit belongs to a figure, at any speed and wherever the focus is. To the one in hand, else to the row the keyboard
 * is on, else to the one after the figure just set; it never does anything else on a page with figures. A page that is being left takes none.
 */
function onFigureKey(event: KeyboardEvent): void {
  if (event.ctrlKey || event.metaKey || event.altKey || leaving()) return;
  const target = event.target instanceof HTMLElement ? event.target : null;
  const ownInput = target?.dataset.testid === 'entry-input';
  if (!ownInput && target && /^(INPUT|TEXTAREA|SELECT)$/.test(target.tagName)) return;
  const { id } = useEntryStore.getState();
  const inHand = shown.find((e) => e.id === id);
  const isFigure = figureKey.test(event.key);
  const take = (work: () => void): void => {
    event.preventDefault();
    event.stopPropagation();
    work();
  };
  if (inHand) {
    if (event.key === 'Enter' && !target?.matches('[data-testid=entry] [role=button]')) return take(() => setAndGoDown(inHand));
    if (event.key === 'Escape') return take(closeEntry);
    if (!ownInput && event.key === 'Backspace') return take(() => typeKey('⌫'));
    if (!ownInput && isFigure) return take(() => typeKey(keyOf(event.key)));
    return;
  }
  const on = target?.closest<HTMLElement>('[data-entry]')?.dataset.entry ?? after;
  const entry = shown.find((e) => e.id === on);
  if (!isFigure || !entry) return;
  take(() => {
    openEntry(entry);
    typeKey(keyOf(event.key));
  });
}

/** Hands the figures of a page to {@link onFigureKey}. */
export function useFigureKeys(entries: readonly Entry[]): void {
  useLayoutEffect(() => {
    shown = entries;
  }, [entries]);
  useLayoutEffect(() => {
    window.addEventListener('keydown', onFigureKey, true);
    return () => {
      window.removeEventListener('keydown', onFigureKey, true);
      shown = [];
      after = null;
    };
  }, []);
}
