import { useVirtualizer } from '@tanstack/react-virtual';
import { useContext, useLayoutEffect, useRef, useState, type ReactNode } from 'react';
import { measure } from './palette';
import { SheetScroll } from './sheetScroll';

/** Rows drawn further than what is seen, so that a flick shows no gap. */
const overscan = 12;

/** A long run of rows within the sheet's own scrolling: only those in sight are in the page. */
export function VirtualRows<T>({ items, keyOf, children }: { items: readonly T[]; keyOf: (item: T) => string; children: (item: T) => ReactNode }) {
  const scroll = useContext(SheetScroll);
  const list = useRef<HTMLDivElement>(null);
  const [top, setTop] = useState(0);
  const rows = useVirtualizer({
    count: items.length,
    getScrollElement: () => scroll.current,
    estimateSize: () => measure.row + 1,
    getItemKey: (i) => {
      const item = items[i];
      return item === undefined ? i : keyOf(item);
    },
    overscan,
    scrollMargin: top,
  });
  // where the list begins moves with whatever opens above it, which only a look after each draw tells; it settles at once
  // eslint-disable-next-line react-hooks/exhaustive-deps
  useLayoutEffect(() => {
    const element = scroll.current;
    if (!element || !list.current || rows.isScrolling) return;
    const now = list.current.getBoundingClientRect().top - element.getBoundingClientRect().top + element.scrollTop;
    if (Math.abs(now - top) > 0.5) setTop(now);
  });
  const rowOf = (item: T | undefined) => item !== undefined && children(item);
  return (
    <div ref={list} style={{ height: rows.getTotalSize(), position: 'relative', flexShrink: 0 }}>
      {rows.getVirtualItems().map((row) => (
        <div
          key={row.key}
          data-index={row.index}
          ref={rows.measureElement}
          style={{
            position: 'absolute',
            top: 0,
            left: 0,
            width: '100%',
            transform: `translateY(${row.start - top}px)`,
            display: 'flex',
            flexDirection: 'column',
          }}
        >
          {rowOf(items[row.index])}
        </div>
      ))}
    </div>
  );
}
