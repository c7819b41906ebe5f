/** What may hang at a digital input. No schema stands here, so that the application can take it without the schema library. */
export const wiredDevices = [
  'push button',
  'selector contact',
  'switch',
  'relay contact',
  'pressostat',
  'float switch',
  'limit switch',
  'thermistor',
] as const;
