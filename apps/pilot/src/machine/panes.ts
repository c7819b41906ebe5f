import { sensorDecimals } from '@yare/commissioning';
import type { ProcessSensor } from '@yare/core';
import { say } from '@yare/words/pages/frame';
import type { Pane } from '../ui/chart/pane';

/** A share of the range in the sensor's unit. */
export const inUnit =
  ({ low, high }: ProcessSensor) =>
  (percent: number): number =>
    low + (percent / 100) * (high - low);

/** A feedback in the sensor's unit. */
export const feedbackPane = (sensor: ProcessSensor, series: Pane['series']): Pane => ({
  ...{ key: 'feedback', name: say.feedback, unit: sensor.unit, decimals: sensorDecimals(sensor), series },
  leastSpan: (sensor.high - sensor.low) / 50,
});

/** The drive's output. */
export const outputPane = (series: Pane['series']): Pane => ({
  ...{ key: 'output', name: say.output, unit: say.hz, decimals: 1, series },
  leastSpan: 5,
});

/** What is drawn from a pressure, or flows into a sump. */
export const flowPane = ({ measures }: ProcessSensor, series: Pane['series']): Pane => ({
  ...{ key: 'demand', name: measures === 'level' ? say.flowsIn : say.drawn, unit: 'm³/h', decimals: 1, leastSpan: 5, series },
});

/** What the sensor sees, by its own name. */
export const keptPane = (sensor: ProcessSensor, series: Pane['series']): Pane => ({
  ...feedbackPane(sensor, series),
  name: sensor.measures === 'level' ? say.level : say.pressure,
});
