import { useMemo } from 'react';
import type { MachineModel } from '@yare/commissioning';
import type { ProcessSensor, SettingRole } from '@yare/core';
import { usePoints, useRead, useTaken, type Read, type StoredAs, type TakenRecording } from '../../data/loop';

export interface StepTestState {
  taken: TakenRecording | null;
  read: Read | null;
  busy: boolean;
  failed: boolean;
}

/** One step of a setting and its ends, in the unit of its role. */
function storedAs(drafted: MachineModel['drafted'], role: SettingRole, otherwise: StoredAs): StoredAs {
  const setting = drafted.find(role);
  if (!setting) return otherwise;
  const inRole = (value: number) => drafted.with({ ...drafted.values, [setting.code]: value }).role(role) ?? value;
  const min = inRole(setting.min);
  return { step: inRole(setting.min + setting.step) - min, min, max: inRole(setting.max) };
}

/** The step test of a machine on this device: its file read, its columns chosen, fitted and answered. */
export function useStepTest(model: MachineModel, sensor: ProcessSensor | null): StepTestState {
  const { drafted } = model;
  const { tag } = model.machine;
  const taken = useTaken(tag);
  const points = usePoints(tag);
  // the page is drawn anew with every live sample; what is asked is not
  const asked = useMemo(
    () =>
      taken && sensor
        ? {
            ...{ text: taken.text, choice: taken.choice, points },
            of: { top: drafted.role('maximumFrequency') ?? 50, sensor, signal: drafted.role('analogueSignal') ?? 0 },
            gain: storedAs(drafted, 'proportionalGain', { step: 0.01, min: 0.01, max: 100 }),
            integralTime: storedAs(drafted, 'integralTime', { step: 0.1, min: 0.1, max: 3600 }),
            filter: drafted.role('analogueFilter') ?? 0,
            now: { gain: drafted.role('proportionalGain') ?? 1, integralTime: drafted.role('integralTime') ?? 10, derivativeTime: 0 },
          }
        : null,
    [drafted, points, sensor, taken],
  );
  return { taken, ...useRead(`${tag} ${taken?.name ?? ''} ${taken?.taken ?? 0}`, asked) };
}

/** A share of the range in the sensor's own unit, as a difference. */
export const spanOf = (sensor: ProcessSensor, percent: number): number => (percent / 100) * (sensor.high - sensor.low);
