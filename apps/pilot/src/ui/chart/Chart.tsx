import { View } from '@tamagui/core';
import { lazy, Suspense } from 'react';
import { drawingHeight, layout, type ChartProps } from './pane';

/** ms until what draws a chart is asked for again. */
const askAgain = 2000;

/** Fetches what draws a chart. While the server is away it is asked again and again: the page around the chart stays in use. */
export const fetchChart = (): Promise<typeof import('./DrawnChart')> =>
  import('./DrawnChart').catch(async () => {
    await new Promise((resolve) => setTimeout(resolve, askAgain));
    return fetchChart();
  });
const DrawnChart = lazy(fetchChart);

/** Stacked panes over one axis with one cursor through all of them and a read-out above them. What draws them comes when first wanted. */
export function Chart(props: ChartProps) {
  const height = drawingHeight(props.panes.length, props.paneHeight) + layout.readOut + (props.explore ? layout.tools : 0);
  return (
    <Suspense fallback={<View backgroundColor="$sheet" height={height} />}>
      <DrawnChart {...props} />
    </Suspense>
  );
}
