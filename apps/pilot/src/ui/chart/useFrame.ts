import { useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import type { ZoomHandle } from './zoomBehaviour';

/** Where a zoomed axis stands: x' = k·x + shift, px. */
export interface Zoomed {
  k: number;
  shift: number;
}

export const whole: Zoomed = { k: 1, shift: 0 };

/** How wide a frame is, px; 0 before it is known. */
export function useWidth(frame: RefObject<HTMLElement | null>): number {
  const [width, setWidth] = useState(0);
  useLayoutEffect(() => {
    const node = frame.current;
    if (!node) return;
    const size = new ResizeObserver(([entry]) => setWidth(entry?.contentRect.width ?? 0));
    size.observe(node);
    return () => size.disconnect();
  }, [frame]);
  return width;
}

/** Zoom and pan of a frame; what does it comes when it is first wanted. */
export function useZoom(frame: RefObject<HTMLElement | null>, wanted: boolean, left: number, right: number, height: number) {
  const [zoomed, setZoomed] = useState<Zoomed>(whole);
  const handle = useRef<ZoomHandle | null>(null);
  useEffect(() => {
    const node = frame.current;
    if (!wanted || !node || right <= left) return;
    let over = false;
    void import('./zoomBehaviour').then(({ zoomOn }) => {
      if (!over) handle.current = zoomOn(node, left, right, height, (t) => setZoomed({ k: t.k, shift: t.x }));
    });
    return () => {
      over = true;
      handle.current?.end();
      handle.current = null;
    };
  }, [frame, wanted, left, right, height]);
  return { zoomed, handle };
}

/** Tells where in the frame a pointer is that reads the chart: a mouse that moves, a finger that moves while nothing is zoomed. */
export function useReading(frame: RefObject<HTMLElement | null>, zoomed: boolean, onPlace: (x: number) => void): void {
  const latest = useRef({ zoomed, onPlace });
  useLayoutEffect(() => {
    latest.current = { zoomed, onPlace };
  });
  useEffect(() => {
    const node = frame.current;
    if (!node) return;
    const place = (event: PointerEvent) => latest.current.onPlace(event.clientX - node.getBoundingClientRect().left);
    const onMove = (event: PointerEvent) => {
      if (event.pointerType === 'mouse' ? event.buttons === 0 : event.buttons > 0 && !latest.current.zoomed) place(event);
    };
    const onDown = (event: PointerEvent) => {
      if (event.isPrimary) place(event);
    };
    node.addEventListener('pointermove', onMove);
    node.addEventListener('pointerdown', onDown);
    return () => {
      node.removeEventListener('pointermove', onMove);
      node.removeEventListener('pointerdown', onDown);
    };
  }, [frame]);
}
