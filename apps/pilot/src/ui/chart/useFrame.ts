import { useCallback, useEffect, useLayoutEffect, useRef, useState, type RefObject } from 'react';
import { zoomOn, type ZoomHandle } from './zoomBehaviour';

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

/** How far beyond either edge lines are drawn, px: a zoomed chart is moved by so much before it has to be drawn anew. */
export const beyond = ({ k }: Zoomed, left: number, right: number): number => (k > 1 ? Math.round((right - left) / 2) : 0);

/**
 * Zoom and pan of a frame. What is only panned is not drawn anew: the layers that move are put elsewhere as they are, until the hand rests or what was
 * drawn beyond the edge is used up.
 */
export function useZoom(frame: RefObject<HTMLElement | null>, wanted: boolean, left: number, right: number, height: number) {
  const [zoomed, setZoomed] = useState<Zoomed>(whole);
  const handle = useRef<ZoomHandle | null>(null);
  const now = useRef({ live: whole, asked: whole, drawn: whole });
  const layers = useRef(new Set<HTMLElement>());
  const place = useCallback(() => {
    const { live, drawn } = now.current;
    if (live.k === drawn.k) for (const l of layers.current) l.style.transform = `translateX(${live.shift - drawn.shift}px)`;
  }, []);
  useLayoutEffect(() => {
    now.current.drawn = zoomed;
    place();
  }, [zoomed, place]);
  useEffect(() => {
    const node = frame.current;
    if (!wanted || !node || right <= left) return;
    handle.current = zoomOn(node, left, right, height, (t, rests) => {
      const live = { k: t.k, shift: t.x };
      const { asked } = now.current;
      now.current.live = live;
      const moved = live.k !== asked.k || live.shift !== asked.shift;
      if (moved && (rests || live.k !== asked.k || Math.abs(live.shift - asked.shift) > 0.9 * beyond(live, left, right))) {
        now.current.asked = live;
        setZoomed(live);
      } else place();
    });
    return () => {
      handle.current?.end();
      handle.current = null;
    };
  }, [frame, wanted, left, right, height, place]);
  const layer = useCallback((node: HTMLElement | null) => {
    if (!node) return;
    layers.current.add(node);
    return () => void layers.current.delete(node);
  }, []);
  return { zoomed, handle, layer };
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
