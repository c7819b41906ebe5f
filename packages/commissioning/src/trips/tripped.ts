import type { DriveSettings, RememberedTrip } from '@yare/books';
import type { MachineDetail } from '@yare/contract';
import { InputJob, ratedTorque, stampedPower, type MachineSpec, type StampedPlate } from '@yare/core';
import type { Snapshot, TrippedMachine } from '@yare/core/trips';
import { fedBy } from '../fedBy';

/** What a diagnosis needs to know of a machine: settings as they were in its drive, its plate and supply, and the model made of them. */
export function trippedMachine(
  settings: DriveSettings,
  plate: StampedPlate,
  { supply, driven }: Pick<MachineDetail, 'supply' | 'driven'>,
  spec: MachineSpec | null,
): TrippedMachine {
  const controls = settings.controls();
  const bit = controls.command.jobs.indexOf(InputJob.externalTrip);
  return {
    kind: driven.kind,
    drive: settings.parameters(),
    controls,
    rating: settings.hardware(),
    plate: { current: plate.current, frequency: plate.frequency, voltage: plate.voltage, torque: ratedTorque(stampedPower(plate), plate.speed) },
    supply: fedBy(settings, supply),
    external: bit < 0 ? null : { bit, openTrips: !controls.command.externalTripOpenIsHealthy },
    spec,
  };
}

/** What a drive remembers of a trip, as a diagnosis takes it. */
export const snapshotOf = ({ trip: _trip, ...rest }: RememberedTrip): Snapshot => rest;
