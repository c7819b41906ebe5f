import { valueAt, type Decimated, type RecordingMark } from '@yare/core/recordings';

/** A line of a pane. */
export interface Series {
  time: ArrayLike<number>;
  values: ArrayLike<number>;
  /** what is in the drive now is dashed, the draft solid */
  dashed?: boolean;
  /** written at the line's end where two lines share a pane */
  label?: string;
  /** how it is drawn and measured where it is too long to be gone through for every frame */
  quick?: {
    drawn: (from: number, to: number, pixels: number) => Decimated;
    extent: (from: number, to: number) => [number, number] | null;
  };
}

/** A level drawn across a pane, hatched on the side that must not be reached. */
export interface Limit {
  value: number;
  label: string;
  side: 'above' | 'below';
}

/** One quantity over the common axis. */
export interface Pane {
  key: string;
  name: string;
  unit: string;
  decimals: number;
  series: Series[];
  limits?: Limit[];
  /** the y-axis never shows less than this span, in the pane's unit */
  leastSpan?: number;
}

/** What the first line of a pane says at a place of the axis; null where it says nothing. */
export function readingOf({ series: [first] }: Pane, at: number | null | undefined): number | null {
  return first && at !== null && at !== undefined ? valueAt(first.time, first.values, at) : null;
}

export interface ChartProps {
  panes: Pane[];
  /** whole extent of the x-axis */
  domain: [number, number];
  xUnit: string;
  xName?: string;
  xDecimals?: number;
  marks?: readonly RecordingMark[];
  paneHeight?: number;
  /** zoom, pan and the second cursor */
  explore?: boolean;
  /** where the cursor stands when nobody has placed it */
  restCursor?: number;
  onCursor?: (at: number) => void;
  /** where the second cursor is pinned; null when it is taken off */
  onPinned?: (at: number | null) => void;
  testID?: string;
}

/** Sizes in px. */
export const layout = { left: 50, rightPad: 14, head: 20, gap: 6, axis: 22, pane: 74, readOut: 41, tools: 49 };

/** How high the drawing of so many panes is, px. */
export const drawingHeight = (panes: number, paneHeight: number = layout.pane): number =>
  panes * (layout.head + paneHeight + layout.gap) + layout.axis;
