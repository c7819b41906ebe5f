import type { RecordingData, TripDetail } from '@yare/contract';
import { indexAt, tripCauses, type TripCause } from '@yare/core';
import { tripChannels, type Before, type TripCase } from '@yare/core/trips';
import { specOf } from '../buildModel';
import type { MachineModel } from '../model';
import { trippedMachine } from './tripped';

const mapped = (data: RecordingData['data'], of: (v: number[]) => number[]): RecordingData['data'] =>
  Object.fromEntries(Object.entries(data).map(([key, v]) => [key, of(v)]));

const isCause = (x: string | null): x is TripCause => (tripCauses as readonly (string | null)[]).includes(x);

/** A recording as a diagnosis takes it: its end is the trip, unless another second of it is. */
export function beforeOf(r: RecordingData | null | undefined, tripped: number | null = null): Before | null {
  const end = tripped ?? r?.time.at(-1);
  if (!r || end === undefined) return null;
  const kept = indexAt(r.time, end + 1e-6);
  if (kept < r.time.length) return beforeOf({ ...r, time: r.time.slice(0, kept), data: mapped(r.data, (v) => v.slice(0, kept)) }, end);
  return { time: r.time.map((t) => t - end), channels: Object.fromEntries(tripChannels.flatMap((c) => (r.data[c] ? [[c, r.data[c]]] : []))) };
}

/** A case put together from what is on record of it; settings as they were in the drive then, or as they are where nobody read them. */
export function caseOf(model: MachineModel, d: TripDetail, trace: RecordingData | null, trend: RecordingData | null): TripCase {
  const { machine, plate, drafted, held } = model;
  const settings = d.inDrive ? drafted.with(d.inDrive) : (held ?? drafted);
  const made = specOf(machine, plate, settings);
  return {
    cause: isCause(d.entry.cause) ? d.entry.cause : null,
    snapshot: d.snapshot,
    trace: beforeOf(trace),
    trend: beforeOf(trend, d.trendTrippedAt),
    afterwards: d.afterwards,
    machine: trippedMachine(settings, plate, machine, made.ok ? made.spec : null),
    repeats: d.repeats,
    others: d.others.length,
    answers: d.answers,
  };
}
