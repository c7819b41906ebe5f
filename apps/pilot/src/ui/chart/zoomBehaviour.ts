import { select } from 'd3-selection';
import { zoom, zoomIdentity, zoomTransform, type D3ZoomEvent, type ZoomTransform } from 'd3-zoom';

const mostZoom = 400;

export interface ZoomHandle {
  by(factor: number, around: [number, number] | undefined): void;
  shift(pixels: number): void;
  fit(): void;
  end(): void;
}

/** How many fingers are on the glass; not every browser knows touches. */
const fingers = (event: Event): number => ('touches' in event && event.touches instanceof TouchList ? event.touches.length : 0);

/** Zoom and pan of a frame by wheel, fingers and mouse, between left and right edge, px. @param onZoom told of every move, and when the hand rests */
export function zoomOn(
  node: HTMLElement,
  left: number,
  right: number,
  height: number,
  onZoom: (t: ZoomTransform, rests: boolean) => void,
): ZoomHandle {
  const behaviour = zoom<HTMLElement, unknown>()
    .scaleExtent([1, mostZoom])
    .extent([
      [left, 0],
      [right, height],
    ])
    .translateExtent([
      [left, -Infinity],
      [right, Infinity],
    ])
    .filter((event: Event) => {
      // one finger scrolls the page until the chart is zoomed
      if (event.type === 'touchstart') return zoomTransform(node).k > 1 || fingers(event) > 1;
      return !(event instanceof MouseEvent && event.type === 'mousedown') || event.button === 0;
    })
    .on('zoom', (event: D3ZoomEvent<HTMLElement, unknown>) => onZoom(event.transform, false))
    .on('end', (event: D3ZoomEvent<HTMLElement, unknown>) => onZoom(event.transform, true));
  const selection = select(node).call(behaviour);
  selection.on('dblclick.zoom', () => selection.call(behaviour.transform, zoomIdentity));
  return {
    by: (factor, around) => void selection.call(behaviour.scaleBy, factor, around),
    shift: (pixels) => void selection.call(behaviour.translateBy, pixels, 0),
    fit: () => void selection.call(behaviour.transform, zoomIdentity),
    end: () => void selection.on('.zoom', null),
  };
}
