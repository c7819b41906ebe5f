import { sensorDecimals } from '@yare/commissioning';
import type { ProcessSensor } from '@yare/core';
import type { Pane } from '../../ui/chart/pane';

/** A share of the range in the sensor's unit. */
export const inUnit =
  ({ low, high }: ProcessSensor) =>
  (percent: number): number =>
    low + (percent / 100) * (high - low);

/** A feedback in the sensor's unit. */
export const feedbackPane = (sensor: ProcessSensor, series: Pane['series']): Pane => ({
  ...{ key: 'feedback', name: 'Feedback', unit: sensor.unit, decimals: sensorDecimals(sensor), series },
  leastSpan: (sensor.high - sensor.low) / 50,
});

/** The drive's output. */
export const outputPane = (series: Pane['series']): Pane => ({ ...{ key: 'output', name: 'Output', unit: 'Hz', decimals: 1, series }, leastSpan: 5 });
