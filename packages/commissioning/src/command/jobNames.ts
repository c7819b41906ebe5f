import { InputJob } from '@yare/core';
import type { WiredInput } from '@yare/contract';
import { say } from '@yare/words/command';

/** What a job is called where no drive's own word is at hand. */
export const jobNames: Readonly<Record<InputJob, string>> = {
  [InputJob.notUsed]: say.notUsed,
  [InputJob.runForward]: say.runForward,
  [InputJob.runReverse]: say.runReverse,
  [InputJob.startPulse]: say.startButton,
  [InputJob.stopOpens]: say.stopButton,
  [InputJob.hand]: say.selectorAtHand,
  [InputJob.auto]: say.selectorAtAuto,
  [InputJob.presetBit0]: say.speedContact,
  [InputJob.presetBit1]: say.speedContact2,
  [InputJob.presetBit2]: say.speedContact3,
  [InputJob.secondRamp]: say.secondRamp,
  [InputJob.externalTrip]: say.externalTrip,
  [InputJob.resetTrip]: say.resetButton,
  [InputJob.enable]: say.enable,
  [InputJob.flowSwitch]: say.flowSwitch,
  [InputJob.direction]: say.direction,
  [InputJob.reversePulse]: say.reverseButton,
  [InputJob.jogForward]: say.jogForward,
  [InputJob.jogReverse]: say.jogReverse,
  [InputJob.faster]: say.faster,
  [InputJob.slower]: say.slower,
  [InputJob.local]: say.local,
  [InputJob.presetBit3]: say.speedContact4,
  [InputJob.secondSetpoint]: say.secondSetPoint,
  [InputJob.emergency]: say.emergencyVentilation,
  [InputJob.frost]: say.frostThermostat,
  [InputJob.cleanNow]: say.cleanNow,
  [InputJob.freezeStat]: say.freezeStat,
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
