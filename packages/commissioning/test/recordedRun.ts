import type { Recorded } from '../src/recording';

/** A run of 2 s: up to 50 Hz in half a second, down in half a second. */
export const run = (): Recorded => {
  const time = Array.from({ length: 101 }, (_, i) => i / 50);
  return {
    ...{ title: 'Hold to run at 50 Hz', startedAt: Date.UTC(2026, 2, 14, 7, 5, 9, 120), time },
    channels: [
      { key: 'outputFrequency', name: 'Output', unit: 'Hz', decimals: 2 },
      { key: 'motorCurrent', name: 'Motor', unit: 'A', decimals: 1 },
      { key: 'busVoltage', name: 'DC bus', unit: 'V', decimals: 0 },
    ],
    values: [
      time.map((t) => (t < 0.2 ? 0 : t < 0.7 ? 100 * (t - 0.2) : t < 1.2 ? 50 : Math.max(0, 50 - 100 * (t - 1.2)))),
      time.map((t) => (t < 0.2 ? 0 : t < 0.7 ? 21.5 : 12.4)),
      time.map((t) => 565 + (t > 1.2 && t < 1.7 ? Math.round(150 * (t - 1.2)) : 0)),
    ],
    marks: [
      { time: 0.2, label: 'Start' },
      { time: 1.2, label: 'Let go' },
    ],
  };
};
