import { memoryWord, traceWord, type DriveSettings, type RememberedTrip } from '@yare/books';
import type { TraceWord } from '@yare/contract';
import { present, statusWord, type HistoryChannel, type Machine, type TripSnapshot } from '@yare/core';

/** What survives a power-off of it: the records, newest first, and how many trips there ever were. */
export interface KeptTrips {
  records: RememberedTrip[];
  trips: number;
}

const kept: Record<TraceWord, HistoryChannel> = {
  outputFrequency: 'frequency',
  motorCurrent: 'current',
  busVoltage: 'busVoltage',
  torque: 'torque',
  outputVoltage: 'voltage',
};

/** What a drive knows beside its own figures when it trips. */
interface TripFacts {
  machine: Machine;
  settings: DriveSettings;
  code: number;
  hours: number;
  /** N·m that 100 % of its torque word are */
  ratedTorque: number;
  /** % of the analogue input */
  feedback: number;
}

/** The trips a drive remembers, and the moments before the newest. The trace is lost with the power; the records are not. */
export class TripMemory {
  private last: TripSnapshot | null = null;
  private ratedTorque = 1;
  /** s of the machine's time at which operation was enabled last; null while it is not */
  private startedAt: number | null = null;
  private readonly records: RememberedTrip[];
  /** how many there ever were */
  trips: number;

  constructor(
    private readonly settings: DriveSettings,
    state: KeptTrips | undefined,
  ) {
    this.records = [...(state?.records ?? [])];
    this.trips = state?.trips ?? 0;
  }

  keptState = (): KeptTrips => ({ records: this.records, trips: this.trips });

  /** Notes when a run began; once a millisecond. */
  run(machine: Machine, running: boolean): void {
    if (running) this.startedAt ??= machine.time;
    // a trip ends the run, and its record still wants to know how long it was
    else if (machine.trip === null || machine.trip === this.last) this.startedAt = null;
  }

  /** Whether a trip in force is none that was noted. */
  isNew = (trip: TripSnapshot | null): boolean => trip !== null && trip !== this.last;

  /** Notes the trip in force. */
  note({ machine, settings, code, hours, ratedTorque, feedback }: TripFacts): void {
    const t = present(machine.trip);
    this.last = t;
    this.ratedTorque = ratedTorque;
    this.trips += 1;
    this.records.unshift({
      ...{ trip: code, status: statusWord(t.state, false), hours: Math.floor(hours), since: t.time - (this.startedAt ?? t.time) },
      ...{ outputFrequency: t.frequency, reference: t.reference, motorCurrent: t.current, busVoltage: t.busVoltage, outputVoltage: t.voltage },
      ...{ torque: (100 * t.torque) / ratedTorque, driveTemperature: t.heatsink, motorHeat: 100 * t.motorHeat, driveHeat: 100 * t.driveHeat },
      ...{ analogueInput: feedback, inputs: t.inputs },
    });
    this.records.length = Math.min(this.records.length, settings.book.words.memory.count);
  }

  /** What stands in a register; null for one that is not of the memory. */
  word(register: number): number | null {
    const record = memoryWord(this.settings, this.records, this.trips, register);
    if (record !== null) return record;
    const history = this.last?.history ?? null;
    return traceWord(this.settings, history?.time.length ?? 0, (channel, i) => this.sampleOf(channel, i), register);
  }

  private sampleOf(channel: TraceWord, i: number): number {
    const x = present(this.last?.history).channels[kept[channel]][i] ?? 0;
    if (channel === 'outputVoltage') return x * Math.sqrt(3);
    return channel === 'torque' ? (100 * x) / this.ratedTorque : x;
  }
}
