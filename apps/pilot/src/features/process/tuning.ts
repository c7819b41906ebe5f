import { useMemo } from 'react';
import { straightIn, type MachineModel } from '@yare/commissioning';
import { GuardAction, InputJob, toSi, type ProcessSensor } from '@yare/core';
import type { LoopPlan, PidGains } from '@yare/core/loop';
import { usePoints, useRead, useTaken, type Read, type TakenRecording } from '../../data/loop';

export interface StepTestState {
  taken: TakenRecording | null;
  read: Read | null;
  busy: boolean;
  failed: boolean;
}

/** The step test of a machine on this device: its file read, its columns chosen, fitted and answered. */
export function useStepTest(model: MachineModel, sensor: ProcessSensor | null): StepTestState {
  const { drafted } = model;
  const { tag } = model.machine;
  const taken = useTaken(tag);
  const points = usePoints(tag);
  // the page is drawn anew with every live sample; what is asked is not
  const spec = model.draftSpec.ok ? model.draftSpec.spec : null;
  const plan = useMemo(() => sensor && planOf(drafted, sensor), [drafted, sensor]);
  const asked = useMemo(
    () =>
      taken && sensor
        ? {
            ...{ text: taken.text, choice: taken.choice, points },
            of: { top: drafted.roleValue('maximumFrequency'), sensor, signal: drafted.roleValue('analogueSignal') },
            held: {
              gain: drafted.heldAs('proportionalGain'),
              integralTime: drafted.heldAs('integralTime'),
              derivativeTime: drafted.heldAs('derivativeTime'),
            },
            straight: feedbackGain(drafted),
            filter: Math.max(0, drafted.roleValue('analogueFilter') - (taken.filter ?? 0)),
            now: rawGains(drafted),
            ramp: rampOf(drafted),
            machine: spec && plan ? { spec, plan } : null,
          }
        : null,
    [drafted, plan, points, sensor, spec, taken],
  );
  return { taken, ...useRead(`${tag} ${taken?.name ?? ''} ${taken?.taken ?? 0}`, asked) };
}

/** s looked at: a level is slow, and a heavy wheel needs its ramps. */
const looked = { least: 120, level: 900, ramps: 6 };

/** What the loop of some settings is asked with; null where its sensor sees nothing the model has. */
export function planOf(settings: MachineModel['drafted'], sensor: ProcessSensor): Omit<LoopPlan, 'question'> | null {
  const { measures, low, high, unit } = sensor;
  if (measures === 'temperature') return null;
  const { accelerationTime } = settings.parameters();
  const { process, guards } = settings.controls();
  const { noFlow } = guards.guards;
  const sees = guards.shutLoad > 0 || settings.input(InputJob.flowSwitch) !== undefined;
  return {
    process,
    dryFor: sees && noFlow.delay > 0 && noFlow.action === GuardAction.trip ? noFlow.delay : null,
    sensor: { measures, low: toSi(low, unit), high: toSi(high, unit) },
    lasts: measures === 'level' ? looked.level : Math.max(looked.least, looked.ramps * accelerationTime),
  };
}

/** What the drive multiplies its feedback with. */
export const feedbackGain = (drafted: MachineModel['drafted']): number => straightIn(drafted)?.gain ?? 1;

/** The controller's values as if it saw the feedback as it comes. */
export function rawGains(drafted: MachineModel['drafted']): PidGains {
  const { proportionalGain, integralTime, derivativeTime } = drafted.controls().process.pid;
  return { gain: proportionalGain * feedbackGain(drafted), integralTime, derivativeTime };
}

/** % of output a second of the drive's ramp, the slower of up and down. */
export function rampOf(drafted: MachineModel['drafted']): number {
  const { accelerationTime, decelerationTime, motorFrequency, maximumFrequency } = drafted.parameters();
  return (100 * motorFrequency) / maximumFrequency / Math.max(0.01, accelerationTime, decelerationTime);
}

/** A share of the range in the sensor's own unit, as a difference. */
export const spanOf = (sensor: ProcessSensor, percent: number): number => (percent / 100) * (sensor.high - sensor.low);
