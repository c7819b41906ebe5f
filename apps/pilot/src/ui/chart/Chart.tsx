import { View } from '@tamagui/core';
import { later } from '../later';
import { drawingHeight, layout, type ChartProps } from './pane';

/** ms until what draws a chart is asked for again. */
const askAgain = 2000;

/** Fetches what draws a chart. While the server is away it is asked again and again: the page around the chart stays in use. */
const fetchChart = (): Promise<typeof import('./DrawnChart')> =>
  import('./DrawnChart').catch(async () => {
    await new Promise((resolve) => setTimeout(resolve, askAgain));
    return fetchChart();
  });

const room = ({ panes, paneHeight, explore }: ChartProps) => (
  <View backgroundColor="$sheet" height={drawingHeight(panes.length, paneHeight) + layout.readOut + (explore ? layout.tools : 0)} />
);

/** Stacked panes over one axis with one cursor through all of them and a read-out above them. What draws them comes when first wanted. */
export const Chart = later(fetchChart)<ChartProps>((part) => part.default, room);
