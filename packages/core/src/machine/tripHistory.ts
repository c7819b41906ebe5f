import { nth } from '../present';

/** Channels a drive keeps at full rate for the moment it trips. */
export const historyChannels = ['frequency', 'current', 'busVoltage', 'torque', 'speed', 'voltage'] as const;
export type HistoryChannel = (typeof historyChannels)[number];

/** The last samples before a trip, oldest first. `time` in s, 0 at the trip. */
export interface TripHistoryCopy {
  time: Float64Array;
  channels: Record<HistoryChannel, Float32Array>;
}

/** A ring of the last two seconds at 1 ms. Hz, A, V, N·m, rad/s, V phase. */
export class TripHistory {
  private readonly ring: Float32Array;
  private at = 0;
  private filled = 0;

  constructor(
    private readonly samples = 2000,
    private readonly step = 0.001,
  ) {
    this.ring = new Float32Array(samples * historyChannels.length);
  }

  push(frequency: number, current: number, busVoltage: number, torque: number, speed: number, voltage: number): void {
    const i = this.at * 6;
    const r = this.ring;
    r[i] = frequency;
    r[i + 1] = current;
    r[i + 2] = busVoltage;
    r[i + 3] = torque;
    r[i + 4] = speed;
    r[i + 5] = voltage;
    this.at = this.at + 1 === this.samples ? 0 : this.at + 1;
    if (this.filled < this.samples) this.filled++;
  }

  copy(): TripHistoryCopy {
    const n = this.filled;
    const start = (this.at - n + this.samples) % this.samples;
    const width = historyChannels.length;
    const channel = (c: number) => Float32Array.from({ length: n }, (_, i) => nth(this.ring, ((start + i) % this.samples) * width + c));
    return {
      time: Float64Array.from({ length: n }, (_, i) => (i - n + 1) * this.step),
      channels: Object.fromEntries(historyChannels.map((name, c) => [name, channel(c)])) as TripHistoryCopy['channels'],
    };
  }
}
