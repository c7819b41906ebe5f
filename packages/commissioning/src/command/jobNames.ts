import { InputJob } from '@yare/core';
import type { WiredInput } from '@yare/contract';

/** What a job is called where no drive's own word is at hand. */
export const jobNames: Readonly<Record<InputJob, string>> = {
  [InputJob.notUsed]: 'Not used',
  [InputJob.runForward]: 'Run forward',
  [InputJob.runReverse]: 'Run reverse',
  [InputJob.startPulse]: 'Start button',
  [InputJob.stopOpens]: 'Stop button',
  [InputJob.hand]: 'Selector at hand',
  [InputJob.auto]: 'Selector at auto',
  [InputJob.presetBit0]: 'Speed contact 1',
  [InputJob.presetBit1]: 'Speed contact 2',
  [InputJob.presetBit2]: 'Speed contact 4',
  [InputJob.secondRamp]: 'Second ramp',
  [InputJob.externalTrip]: 'External trip',
  [InputJob.resetTrip]: 'Reset button',
  [InputJob.enable]: 'Enable',
  [InputJob.flowSwitch]: 'Flow switch',
  [InputJob.direction]: 'Direction',
  [InputJob.reversePulse]: 'Reverse button',
  [InputJob.jogForward]: 'Jog forward',
  [InputJob.jogReverse]: 'Jog reverse',
  [InputJob.faster]: 'Faster',
  [InputJob.slower]: 'Slower',
  [InputJob.local]: 'Local',
  [InputJob.presetBit3]: 'Speed contact 8',
  [InputJob.secondSetpoint]: 'Second set point',
  [InputJob.emergency]: 'Emergency ventilation',
  [InputJob.frost]: 'Frost thermostat',
  [InputJob.cleanNow]: 'Clean now',
  [InputJob.freezeStat]: 'Freeze-stat',
};

const buttons: readonly InputJob[] = [
  InputJob.startPulse,
  InputJob.stopOpens,
  InputJob.reversePulse,
  InputJob.resetTrip,
  InputJob.jogForward,
  InputJob.jogReverse,
  InputJob.faster,
  InputJob.slower,
  InputJob.cleanNow,
];
const selectors: readonly InputJob[] = [
  InputJob.hand,
  InputJob.auto,
  InputJob.local,
  InputJob.runForward,
  InputJob.runReverse,
  InputJob.presetBit0,
  InputJob.presetBit1,
  InputJob.presetBit2,
  InputJob.presetBit3,
  InputJob.secondSetpoint,
];
const closedAtRest: readonly InputJob[] = [InputJob.stopOpens, InputJob.enable, InputJob.externalTrip, InputJob.freezeStat];

/** What a job makes one expect at its input, until somebody says otherwise. @param openIsHealthy of the external trip */
export function expectedAt(job: InputJob, openIsHealthy: boolean): WiredInput {
  const device = buttons.includes(job)
    ? 'push button'
    : selectors.includes(job)
      ? 'selector contact'
      : job === InputJob.flowSwitch
        ? 'pressostat'
        : job === InputJob.externalTrip
          ? 'relay contact'
          : 'switch';
  const closed = job === InputJob.externalTrip ? !openIsHealthy : closedAtRest.includes(job);
  return { device, label: jobNames[job], atRest: closed ? 'closed' : 'open' };
}
