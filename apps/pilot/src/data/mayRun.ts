import { useMemo } from 'react';
import { driveParameters } from '@yare/books';
import type { DriveParameters } from '@yare/core';
import { useConnected, useLiveValue, useRun, type RunState } from './live';
import type { MachineModel } from './machineModel';

/** What stands between a finger and a turning motor. */
export interface MayRun {
  /** this device's own run, while it lasts */
  mine: boolean;
  turning: boolean;
  run: RunState | undefined;
  /** why nothing can be started; null when it can */
  blocked: string | null;
}

/** Whether this device may start the motor of a machine now, in words. */
export function useMayRun(tag: string): MayRun {
  const state = useLiveValue(tag, (s) => (s?.link === 'up' ? s.state : null));
  const trip = useLiveValue(tag, (s) => s?.trip?.name);
  const command = useLiveValue(tag, (s) => s?.command);
  const connected = useConnected();
  const run = useRun(tag);
  const turning = state === 'running' || state === 'stopping';
  const mine = run !== undefined && run.mine && ['asking', 'taken', 'running', 'stopping'].includes(run.phase);
  const blocked = !connected
    ? 'No server: nothing can be started'
    : state === null
      ? 'No link to the drive'
      : state === 'tripped'
        ? `Tripped: ${trip ?? 'no code'}`
        : state === 'held'
          ? 'Held: a permissive is missing'
          : turning && !mine
            ? `Turning already: ${command}`
            : null;
  return { mine, turning, run, blocked };
}

/** The drive's own settings as the model takes them; null before it was read. */
export const useDriveInForce = (model: MachineModel): DriveParameters | null =>
  useMemo(() => {
    if (!model.inDrive) return null;
    const values = Object.fromEntries(model.settings.map((s) => [s.code, model.inDriveOf(s.code)?.value ?? s.factory50]));
    return driveParameters(model.book, model.machine.size, values);
  }, [model]);
