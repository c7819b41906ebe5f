import { View } from '@tamagui/core';
import { lazy, Suspense } from 'react';
import { drawingHeight, layout, type ChartProps } from './pane';

/** Fetches what draws a chart. */
export const fetchChart = () => import('./DrawnChart');
const DrawnChart = lazy(fetchChart);

/** Stacked panes over one axis with one cursor through all of them and a read-out row under it. What draws them comes when first wanted. */
export function Chart(props: ChartProps) {
  const height = drawingHeight(props.panes.length, props.paneHeight) + layout.readOut + (props.explore ? layout.tools : 0);
  return (
    <Suspense fallback={<View backgroundColor="$sheet" height={height} />}>
      <DrawnChart {...props} />
    </Suspense>
  );
}
